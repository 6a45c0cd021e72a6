"""Condition words and what they mean."""
