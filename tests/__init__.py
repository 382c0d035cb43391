"""The tests. `./redframe test` runs them all; `./redframe test WORD` those whose name has the word."""

from hypothesis import HealthCheck, settings

# How fast a busy machine makes examples says nothing of the code.
settings.register_profile("redframe", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("redframe")
