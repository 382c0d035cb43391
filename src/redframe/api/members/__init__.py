"""Endpoints of members."""
