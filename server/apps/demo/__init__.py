"""The demonstration grounds."""
