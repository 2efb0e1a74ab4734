"""Marks as they are drawn: thread and paper laid on the picture, one file a kind."""
