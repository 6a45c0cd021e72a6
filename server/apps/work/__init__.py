"""Work on plants: proposals, jobs, and the checks before them, at the one door of all records."""
