"""Publish: render the programme, with chapters and captions beside it."""
