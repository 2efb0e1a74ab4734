"""Everything painted into the picture, the same for preview and render."""
