"""How far back and forward a disease is traced, from when a colony counts as infectious, and by when contacts are seen.

Months and days of docs/methods/tracing.md; where a law says otherwise it comes first.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from redframe.core.cases.states import CaseDisease
from redframe.core.tracing.movements import Band

BACK_DAYS: Mapping[CaseDisease, int] = {"afb": 730, "efb": 365, "small_hive_beetle": 183, "tropilaelaps": 122}
UNKNOWN_BEFORE_DAYS: Mapping[CaseDisease, int] = {"afb": 365, "efb": 60, "small_hive_beetle": 183, "tropilaelaps": 122}
"""So long before the first sign a colony counts as infectious where no clean examination says otherwise."""
SEEN_WITHIN_DAYS: Mapping[Band, int] = {"high": 7, "medium": 14, "low": 42}


@dataclass(frozen=True, slots=True)
class Window:
    """The days of a trace: sources are sought from `back_to`, spread from `infectious_from`; `assumed`: no examination
    without signs bounds it."""

    back_to: date
    infectious_from: date
    assumed: bool


def window(disease: CaseDisease, found_on: date, last_clean: date | None) -> Window:
    """The days of both traces of a case; `last_clean`: the last day on which all its brood was seen without a sign."""
    back_to = found_on - timedelta(days=BACK_DAYS[disease])
    if last_clean is not None and last_clean < found_on:
        return Window(back_to, max(back_to, last_clean + timedelta(days=1)), assumed=False)
    return Window(back_to, found_on - timedelta(days=UNKNOWN_BEFORE_DAYS[disease]), assumed=True)
