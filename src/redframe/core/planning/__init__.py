"""The day's work: what is due by when, and what comes first."""
