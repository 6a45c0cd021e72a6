"""Tests of plant health on the server."""
