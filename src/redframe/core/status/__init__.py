"""The level of a colony and of an apiary, day by day, from its counts."""
