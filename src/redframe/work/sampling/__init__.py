"""Counts of mites."""
