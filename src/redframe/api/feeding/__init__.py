"""Endpoints of feeding."""
