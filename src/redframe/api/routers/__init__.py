"""One router a topic."""
