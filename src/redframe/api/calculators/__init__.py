"""Endpoints of calculators."""
