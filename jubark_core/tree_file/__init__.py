"""The file of a tree: what its entries, also those of records merged into it, say that stands.

The only place that says so. Pure: entries and a day in, what stands out.
"""
