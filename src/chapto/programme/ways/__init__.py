"""Ways out of what does not fit: each tried before it is offered."""
