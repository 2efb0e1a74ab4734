"""A first draft of the script from the log: grammar as data, every claim from the log."""
