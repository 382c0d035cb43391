"""When to act: the place's own calendar, the schools of thresholds as data, and the standing of a colony."""
