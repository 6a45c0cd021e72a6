"""Crews: who may see and change what."""
