"""Forecasts."""
