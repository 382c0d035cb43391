"""Tracing: where an agent of disease may have come from and gone to, by what is on record of movements."""
