"""Endpoints of visits."""
