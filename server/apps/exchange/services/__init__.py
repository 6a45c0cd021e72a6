"""What changes exchange: one module per command."""
