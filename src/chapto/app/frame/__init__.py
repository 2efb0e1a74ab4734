"""The edges of the window: stages, clocks, the next step, help."""
