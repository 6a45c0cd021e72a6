"""The command line: the only room that reads files and prints."""
