"""Settings: base, and one module per place the application runs in."""
