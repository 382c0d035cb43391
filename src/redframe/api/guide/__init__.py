"""Endpoints of the guide."""
