"""Endpoints of session."""
