"""What changes crews: one module per command."""
