"""Endpoints of the register of treatments."""
