"""Everything that goes out with a video, made together."""
