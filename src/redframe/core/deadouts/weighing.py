"""The findings of a dead colony, weighed: what its state, its season and its record add to the engine.

See docs/methods/dead-outs.md.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import log

from redframe.core.deadouts.settings import DeadSettings
from redframe.core.disease.evidence import Context, Weighing
from redframe.core.disease.findings import Findings
from redframe.core.disease.matrix import Matrix

FOULBROOD = "foulbrood"
READABLE_IN_EMPTY_COMB = frozenset({"d_scale_stuck", "d_guanine"})
WET = ("d_wet_cluster", "d_lid_drip")
"""Without one of these mould says nothing: combs of any dead colony grow mouldy."""
STAGE_PAST = ("d_ropy", "d_larva_dead_open")
"""Absent with a stuck scale, these say nothing against foulbrood: the stage is past."""


class DeadWeighing(Weighing):
    """Findings of a dead colony in their context."""

    settings: DeadSettings

    def __init__(self, matrix: Matrix, settings: DeadSettings, findings: Findings, context: Context) -> None:
        self.empty_score = log(settings.undetermined)
        super().__init__(matrix, settings, findings, context)

    def _counts(self, sign: str, findings: Findings) -> bool:
        """Without remains of brood, what is not there of it says nothing; mould does only where it was wet."""
        if sign == "d_mould":
            return any(one in findings and findings[one].present for one in WET)
        empty = "d_no_brood_ever" in findings and findings["d_no_brood_ever"].present
        shut = empty and self.matrix.signs[self.matrix.row(sign)].gate in ("brood", "caps")
        return findings[sign].present or not shut or sign in READABLE_IN_EMPTY_COMB

    def _priors(self) -> dict[str, float]:
        given, here = self.settings, self.context
        by_season = given.seasons.get(here.season, {})
        factors = dict(here.factors)
        found = {}
        for cause in self.matrix.conditions:
            prior = given.usual[cause] * by_season.get(cause, 1.0) * factors.get(cause, 1.0)
            if cause == FOULBROOD:
                prior *= given.levels[here.afb_level]
            if cause == "small_hive_beetle" and not here.shb_established:
                prior *= given.not_there
            for flag in sorted(here.flags):
                # What the record says as a finding is not counted twice.
                if not self.is_present(given.said_by_record.get(flag, "")):
                    prior *= given.context[flag].get(cause, 1.0)
            found[cause] = min(prior, given.prior_cap)
        return found

    def _neutral_for(self, sign: str) -> Iterator[str]:
        if sign in STAGE_PAST and self.is_present("d_scale_stuck"):
            yield FOULBROOD

    def _is_cleared(self, condition: str) -> bool:
        return condition == FOULBROOD and self.is_absent("d_lab_foul_pos")
