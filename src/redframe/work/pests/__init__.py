"""Use cases of pests: checks, traps, the entrance."""
