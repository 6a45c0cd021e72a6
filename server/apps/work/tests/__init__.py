"""Tests of work on the server."""
