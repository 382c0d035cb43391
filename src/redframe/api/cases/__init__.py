"""Endpoints of suspect cases."""
