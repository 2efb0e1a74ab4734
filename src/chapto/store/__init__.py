"""Project files, the edit journal and the one session through which the document changes."""
