"""Feeding: the autumn programme of an apiary."""
