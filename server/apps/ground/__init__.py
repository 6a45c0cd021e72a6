"""Ground: properties, blocks and plots."""
