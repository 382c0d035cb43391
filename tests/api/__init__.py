"""Tests of the api layer."""
