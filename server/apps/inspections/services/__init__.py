"""One module a command of the inspections app."""
