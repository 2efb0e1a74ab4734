"""The compiler: from what the creator decided to everything the viewer gets."""
