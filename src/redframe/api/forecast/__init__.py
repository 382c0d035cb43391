"""Endpoints of forecast."""
