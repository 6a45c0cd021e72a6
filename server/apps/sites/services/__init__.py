"""What changes site: one module per command."""
