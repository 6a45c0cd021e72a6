"""What is said of a taxon: its portrait, the list, several side by side, and what the year shows."""
