"""Site: properties, blocks and plots."""
