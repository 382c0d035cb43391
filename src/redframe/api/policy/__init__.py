"""Endpoints of policy."""
