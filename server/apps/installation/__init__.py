"""The installation itself: its first run, whether it can work, its database elsewhere, its commands."""
