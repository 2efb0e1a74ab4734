"""Finding the words of a recording: phrases, pronunciations, what was heard, and how it differs from the script."""
