"""Visits."""
