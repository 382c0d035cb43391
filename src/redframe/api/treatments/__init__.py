"""Endpoints of treatments."""
