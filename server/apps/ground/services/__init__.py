"""What changes ground: one module per command."""
