"""The API of plant health."""
