"""What attack and use found wrong, each with the test that failed before it was mended (docs/reliability.md
lists them).
"""
