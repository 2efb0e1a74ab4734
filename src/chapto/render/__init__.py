"""From the programme to a file: frames, sound, and both together."""
