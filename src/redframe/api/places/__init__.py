"""Endpoints of places."""
