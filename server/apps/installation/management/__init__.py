"""Commands run on the machine itself."""
