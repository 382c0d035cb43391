"""Feeding: syrup, stores, and by when feed must be given."""
