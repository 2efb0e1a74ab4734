"""What may honestly be said of two bodies from points on a picture, each fact with its error.

Points are pixels of the upright picture, x to the right and y down. A picture shows no depth: lengths are at most as
long as they look, so what is said of a gap or a speed is "at least". No force is ever given in numbers.
"""
