"""What changes crews and guards their door: one module per command."""
