"""The guide of a new association."""
