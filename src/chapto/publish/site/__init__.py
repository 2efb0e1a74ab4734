"""Where finished videos go: what Chapto asks of a hosting site, and a simulated one that ships with it."""
