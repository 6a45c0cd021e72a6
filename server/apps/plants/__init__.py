"""Stems: plants, visits, entries and what is made of them."""
