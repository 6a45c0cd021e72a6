"""Jubark's rules and arithmetic: pure Python, standard library only, no Django, no clock, no network."""

ENGINE_VERSION = "0.1.0"
