"""Diameter, height and girth: the arithmetic of measuring a stem."""
