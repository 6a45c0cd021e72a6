"""Before work: which checks an act asks for, what evidence closes them, and whether a step may be taken."""
