"""Setting an installation up: one module per command."""
