"""The front end's pure modules, run by Node and held against Python's own calendar and constants."""
