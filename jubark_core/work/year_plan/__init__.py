"""A plan of work over weeks: what it must hold, what it costs, what does not fit in it (docs/work.md)."""
