"""The people of an association and what they may be."""
