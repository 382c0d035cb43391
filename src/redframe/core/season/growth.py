"""How fast the rate that a wash reads grows in each phase."""

from __future__ import annotations

from redframe.core.season.calendar import Phase

GROWTH_PER_DAY: dict[Phase, float] = {
    "dormant": 0.0,
    "build_up": 0.021,
    "peak": 0.021,
    "pre_winter": 0.030,
    "decline": 0.030,
}
"""Growth of the rate read by a wash, per day (natural log), used to date the next count."""
