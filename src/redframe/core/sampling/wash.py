"""A wash count as it was taken, what is wrong with it, and its reading.

Raw shakes and the measure of the bees are kept; everything else is computed from them. Nothing is corrected
silently: a doubtful count carries findings that say what to do.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.sampling.bees import BeesInSample, BeesKnownBy, bees_in_sample
from redframe.core.sampling.reading import Reading, ThresholdBasis, read_wash, recovery_of
from redframe.core.sampling.shakes import Removal, removal, shake_again

PlaceOfBees = Literal["brood_frame", "other_brood_box", "super", "entrance", "unknown"]
BroodState = Literal["open_and_capped", "capped_only", "none", "not_seen"]
QueenSafe = Literal["yes", "no", "not_looked"]
FindingLevel = Literal["refused", "warning", "note"]

POOR_PLACES: frozenset[PlaceOfBees] = frozenset({"super", "entrance"})
MOST_MITES_PER_BEE = 100
MOST_MITES_A_SHAKE = 30_000


@dataclass(frozen=True, slots=True)
class Wash:
    """One wash: shakes in order, how the bees were measured, where they came from."""

    taken_at: datetime
    shakes: tuple[int, ...]
    known_by: BeesKnownBy
    bees: int | None = None
    volume_ml: float | None = None
    mass_g: float | None = None
    place_of_bees: PlaceOfBees = "brood_frame"
    brood_state: BroodState = "not_seen"
    queen_safe: QueenSafe = "not_looked"

    @property
    def mites(self) -> int:
        """Mites of all shakes together."""
        return sum(self.shakes)


@dataclass(frozen=True, slots=True)
class Finding:
    """Something about a count that its reader must know. `code` is stable; wording is the interface's."""

    code: str
    level: FindingLevel
    field: str
    message: str


@dataclass(frozen=True, slots=True)
class WashResult:
    """Reading (None when the bees are not known), removal (None for one shake), advice to shake again, findings."""

    reading: Reading | None
    bees: BeesInSample | None
    removal: Removal | None
    shake_again: bool
    findings: tuple[Finding, ...]

    @property
    def can_clear(self) -> bool:
        """Whether this sample may show a colony clear: enough bees, from where nurses are."""
        return not any(finding.code in ("LOW_N_BLOCK", "PLACE", "PLACE_UNKNOWN") for finding in self.findings)


@dataclass(frozen=True, slots=True)
class TreatmentSpan:
    """When a treatment was in the colony; `end` None while it still is."""

    start: date
    end: date | None


def check_wash(wash: Wash) -> BeesInSample | None:
    """Refuse what cannot be a wash; return the bees in the sample.

    Raises InvalidInput naming `shakes`, `shakes[i]`, `bees`, `volume_ml` or `mass_g`.
    """
    if not 1 <= len(wash.shakes) <= 8:
        raise InvalidInput("shakes", "record one to eight shakes", code="out_of_range", allowed="1 to 8 shakes")
    for index, mites in enumerate(wash.shakes):
        if mites < 0:
            raise InvalidInput(f"shakes[{index}]", "a shake cannot bring down fewer than no mites", code="out_of_range")
        if mites > MOST_MITES_A_SHAKE:
            raise InvalidInput(f"shakes[{index}]", "that is more mites than a jar can hold", code="out_of_range")
    bees = bees_in_sample(wash.known_by, bees=wash.bees, volume_ml=wash.volume_ml, mass_g=wash.mass_g)
    if bees is not None and wash.mites > MOST_MITES_PER_BEE * bees.mean:
        raise InvalidInput(
            "shakes",
            f"{wash.mites} mites on about {bees.mean:.0f} bees is over {MOST_MITES_PER_BEE} a bee: check both figures",
            code="out_of_range",
        )
    return bees


def check_taken_at(taken_at: datetime, now: datetime) -> None:
    """Refuse a moment that no wash told now can have been taken at; a device's clock may be ten minutes ahead.

    Only for what comes in: a wash on record is read whatever the clock says later. Raises InvalidInput("taken_at").
    """
    if taken_at > now + timedelta(minutes=10):
        raise InvalidInput("taken_at", "this count lies in the future", code="out_of_range")
    if taken_at < now - timedelta(days=365 * 30):
        raise InvalidInput("taken_at", "this count is older than thirty years", code="out_of_range")


def read_count(
    wash: Wash,
    *,
    treatments: Sequence[TreatmentSpan] = (),
    other_counts: Sequence[datetime] = (),
    basis: ThresholdBasis = "corrected",
) -> WashResult:
    """Check a wash and read it. `treatments` and `other_counts` are those of the same colony."""
    bees = check_wash(wash)
    removed = removal(wash.shakes) if len(wash.shakes) >= 2 else None
    reading = reading_of(wash.shakes, bees, basis) if bees else None
    findings = tuple(_findings(wash, bees, reading, removed, treatments, other_counts))
    return WashResult(reading, bees, removed, shake_again(wash.shakes), findings)


def reading_of(shakes: Sequence[int], bees: BeesInSample, basis: ThresholdBasis = "corrected") -> Reading:
    """The reading of shakes on so many bees, with the recovery that the shakes deserve."""
    share_left = removal(shakes).share_left if len(shakes) >= 2 else None
    return read_wash(sum(shakes), bees, recovery_of(len(shakes), share_left, basis))


def _findings(
    wash: Wash,
    bees: BeesInSample | None,
    reading: Reading | None,
    removed: Removal | None,
    treatments: Sequence[TreatmentSpan],
    other_counts: Sequence[datetime],
) -> list[Finding]:
    found: list[Finding] = []

    def say(code: str, level: FindingLevel, field: str, message: str) -> None:
        found.append(Finding(code, level, field, message))

    if bees is None:
        say("NO_N", "warning", "bees", "Bees not recorded: the mites are kept, but there is no rate.")
    elif bees.mean < 100:
        say(
            "LOW_N_BLOCK",
            "warning",
            "bees",
            "Fewer than 100 bees cannot show a colony clear. Take another scoop.",
        )
    elif bees.mean < 200:
        say("LOW_N", "warning", "bees", "Fewer than 200 bees: the interval is wide. Take another scoop.")
    if wash.place_of_bees in POOR_PLACES:
        where = "a honey super" if wash.place_of_bees == "super" else "the entrance"
        say(
            "PLACE",
            "warning",
            "place_of_bees",
            f"Bees from {where} carry fewer mites than nurses: this reads low.",
        )
    elif wash.place_of_bees == "unknown":
        say(
            "PLACE_UNKNOWN",
            "note",
            "place_of_bees",
            "Where the bees came from is not known: this cannot show clear.",
        )
    if len(wash.shakes) == 1:
        say("ONE_SHAKE", "warning", "shakes", "One shake finds about 85 in 100 of the mites. Shake again.")
    elif removed is not None and removed.depleting is False:
        say(
            "RISING",
            "warning",
            "shakes",
            "The shakes do not fall off: mites are still on the bees. Shake again.",
        )
    if wash.queen_safe == "no":
        say("QUEEN", "warning", "queen_safe", "The queen was not seen safe. Look for eggs in 4 to 7 days.")
    if wash.brood_state == "none":
        say("NO_BROOD", "note", "brood_state", "No brood: every mite is on the bees, so the wash reads high.")
    taken_on = wash.taken_at.date()
    for span in treatments:
        if span.start <= taken_on and (span.end is None or taken_on < span.end + timedelta(days=14)):
            say(
                "RECENT_TREAT",
                "note",
                "taken_at",
                "Taken within 14 days of a treatment: the rate may still be moving.",
            )
            break
    if reading is not None and reading.as_counted > 30:
        say("TYPO", "warning", "shakes", "More than 30 mites per 100 bees is rare: check the figures.")
    if bees is not None and bees.mean > 1000:
        say("TYPO", "warning", "bees", "More than 1000 bees is not one jar: check the figure.")
    if any(abs((other - wash.taken_at).total_seconds()) < 3600 for other in other_counts):
        say(
            "TYPO",
            "warning",
            "taken_at",
            "Another wash of this colony within the hour: is this a second entry?",
        )
    return found
