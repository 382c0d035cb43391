"""The day's work."""
