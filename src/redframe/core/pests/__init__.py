"""Pests: how each is scored, what a score asks for, the entrance, and traps."""
