"""Tests of crews."""
