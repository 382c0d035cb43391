"""Endpoints of pests."""
