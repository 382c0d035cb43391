"""Endpoints of planning."""
