"""Endpoints of campaigns."""
