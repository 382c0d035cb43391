"""Endpoints of disease."""
