"""Doors of the installation."""
