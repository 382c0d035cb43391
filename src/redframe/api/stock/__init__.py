"""Endpoints of the stock."""
