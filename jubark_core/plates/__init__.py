"""Drawings of plants computed from a taxon's own numbers: SVG out, nothing but the standard library."""
