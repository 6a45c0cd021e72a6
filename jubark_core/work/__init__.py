"""Work on plants: what the file of a tree proposes, what is checked before, and when it may be done."""
