"""The demonstration sites."""
