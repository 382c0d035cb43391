"""Mites and bees weeks ahead: the season of a place, the model of a colony, an ensemble that starts from counts."""
