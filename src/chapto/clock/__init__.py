"""Mat time, watch time and the one map between them."""
