"""The words of the core's codes."""
