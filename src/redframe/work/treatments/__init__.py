"""Treatments."""
