"""The level of colonies."""
