"""Keepers and apiaries."""
