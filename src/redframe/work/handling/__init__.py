"""Handling chosen for a colony, followed, ended, compared."""
