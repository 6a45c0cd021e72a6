"""The API of work."""
