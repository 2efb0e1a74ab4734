"""How long words take, and how voice and picture are fitted to each other."""
