"""One check a file."""
