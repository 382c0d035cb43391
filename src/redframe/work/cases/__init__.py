"""Suspect cases: raised, moved step by step, read."""
