"""A count week across an association: what its counts say together, and a map that gives no place away."""
