"""Free recognition: what somebody says who reads no script. An extra; it works without a network."""
