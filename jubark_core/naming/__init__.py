"""Naming by evidence: what can this plant be, how sure may I be, what should I look at next."""
