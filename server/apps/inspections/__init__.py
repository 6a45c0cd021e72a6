"""Inspections: targets and zones, the owner's table, coverage, reports, and the plan of a day."""
