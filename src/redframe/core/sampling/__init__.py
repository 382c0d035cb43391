"""Counting mites and saying what a count means: the sample, its statistics, its warnings and its trend."""
