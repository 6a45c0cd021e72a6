"""When in the year each organ of each taxon can be seen at a place."""
