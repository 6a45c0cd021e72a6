"""Inspections: when a tree is due by the owner's table, and what evidence of looking there is."""
