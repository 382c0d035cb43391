"""Measured work: speed and memory, as ratios to something physical or to a plain alternative in the same run."""
