"""Organisations: who may see and change what."""
