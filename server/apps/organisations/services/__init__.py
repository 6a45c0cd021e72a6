"""What changes organisations and guards their door: one module per command."""
