"""The year of work of a site: what is planned from, how it is solved, and where a run of it stands."""
