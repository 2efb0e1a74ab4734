"""The Review stage: what a viewer would stumble over, where, and what mends it."""
