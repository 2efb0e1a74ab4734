"""The window: stages, screen, lacing and theme. It shows and asks; the core computes."""
