"""One module a command of the work app."""
