"""Disease of brood and bees: the vocabulary of signs."""
