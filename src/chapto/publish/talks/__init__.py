"""A talk-through, read from files and laid out as a script."""
