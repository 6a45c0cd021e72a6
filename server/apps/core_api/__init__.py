"""Naming over HTTP: the core behind its fixed contract."""
