"""Recording: prompter and picture, takes and their words."""
