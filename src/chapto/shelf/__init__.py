"""The index over all breakdowns: what was filmed, explained, promised and learned."""
