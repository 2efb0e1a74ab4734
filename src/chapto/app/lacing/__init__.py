"""The lacing: mat time above, watch time below, and how words and moments hang together."""
