"""Endpoints of dead colonies."""
