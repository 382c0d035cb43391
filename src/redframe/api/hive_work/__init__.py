"""Endpoints of the work at the hive."""
