"""The Mark stage: what the words point at, drawn on the picture and following it."""
