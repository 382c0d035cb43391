"""Handling of brood disease: the options of the schools, which of them fits, and what became of it."""
