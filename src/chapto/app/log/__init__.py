"""Log: the whole bout under the picture, what was noticed beside it."""
