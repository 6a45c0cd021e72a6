"""What leaves the house: work sheets to print, a package for a contractor, a calendar."""
