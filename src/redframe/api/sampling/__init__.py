"""Endpoints of sampling."""
