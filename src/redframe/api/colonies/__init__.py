"""Endpoints of colonies."""
