"""Movements seen or told, and where colonies, combs and queens have been."""
