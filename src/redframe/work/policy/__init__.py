"""The policy of an association and of single apiaries."""
