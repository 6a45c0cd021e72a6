"""What changes stems: one module per command."""
