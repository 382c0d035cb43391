"""Tests of the work layer."""
