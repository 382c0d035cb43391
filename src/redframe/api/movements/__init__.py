"""Endpoints of movements and of where things have been."""
