"""Endpoints of the handling of brood disease."""
