"""Simulated outside services that ship with the application, each behind the protocol that a real one would use."""
