"""Finding apiaries, colonies, keepers and queens by what people call them."""
