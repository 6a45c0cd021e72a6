"""Exchange: files out and in."""
