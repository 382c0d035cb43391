"""The findings of a living colony, weighed: what its brood, its season and its place add to the engine.

See docs/methods/brood-diagnosis.md.
"""

from __future__ import annotations

from collections.abc import Iterator

from redframe.core.disease.evidence import Context, Weighing
from redframe.core.disease.findings import Findings
from redframe.core.disease.matrix import Matrix
from redframe.core.disease.settings import Settings

READABLE_IN_EMPTY_COMB = frozenset({"scale_stuck", "scale_loose", "guanine"})
STAGE_PAST = ("ropy_thread", "larva_brown_capped", "larva_discoloured")
"""Absent with a stuck scale or a pupal tongue, these say nothing against American foulbrood: the stage is past."""
LABORATORY = {"afb": "lab_afb_pos", "efb": "lab_efb_pos"}


class BroodWeighing(Weighing):
    """Findings of a living colony in their context."""

    settings: Settings

    def __init__(self, matrix: Matrix, settings: Settings, findings: Findings, context: Context) -> None:
        super().__init__(matrix, settings, findings, context)

    def _counts(self, sign: str, findings: Findings) -> bool:
        """Without brood, what is not there of it says nothing."""
        empty = "no_brood" in findings and findings["no_brood"].present
        shut = empty and self.matrix.signs[self.matrix.row(sign)].gate in ("brood", "caps")
        return findings[sign].present or not shut or sign in READABLE_IN_EMPTY_COMB

    def _priors(self) -> dict[str, float]:
        given, here = self.settings, self.context
        found = {}
        seen = given.queen_and_open_brood_seen
        factors = dict(here.factors)
        settled = self.is_absent("queen_not_seen") and self.is_absent("no_open_brood")
        for condition in self.matrix.conditions:
            prior = given.priors[condition][here.season]
            prior *= {"afb": given.levels[here.afb_level], "efb": given.levels[here.efb_level]}.get(condition, 1.0)
            prior *= factors.get(condition, 1.0)
            if (condition == "small_hive_beetle" and not here.shb_established) or (
                condition == "tropilaelaps" and not here.tropilaelaps_present
            ):
                prior *= given.not_there
            for flag in sorted(here.flags):
                prior *= given.context[flag].get(condition, 1.0)
            prior = min(prior, given.prior_cap)
            if settled and condition in seen.conditions:
                odds = seen.factor * prior / (1 - prior)
                prior = odds / (1 + odds)
            found[condition] = prior
        return found

    def _neutral_for(self, sign: str) -> Iterator[str]:
        if sign in STAGE_PAST and (self.is_present("scale_stuck") or self.is_present("pupa_tongue")):
            yield "afb"
        kind = self.matrix.signs[self.matrix.row(sign)]
        if self.is_present("mite_count_high") and (kind.gate in ("brood", "caps") or kind.group == "virus"):
            yield "varroa_pms"

    def _is_cleared(self, condition: str) -> bool:
        return condition in LABORATORY and self.is_absent(LABORATORY[condition])
