"""Tests of the store layer."""
