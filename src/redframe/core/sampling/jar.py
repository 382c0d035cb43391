"""Bees in a jar, washed, rolled in sugar or gassed: the count as it was taken, what is wrong with it, its reading.

Raw shakes and the measure of the bees are kept; everything else is computed from them. Nothing is corrected
silently: a doubtful count carries findings that say what to do.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from redframe.core.errors import InvalidInput
from redframe.core.said import Param
from redframe.core.sampling.bees import DEFAULT_SCOOP, BeesInSample, BeesKnownBy, Scoop, bees_in_sample
from redframe.core.sampling.method import Answer, CountCode, CountFinding, FindingLevel, JarMethod, TreatmentSpan, Use
from redframe.core.sampling.reading import Reading, ThresholdBasis, read_jar, recovery_of
from redframe.core.sampling.shakes import Removal, removal, shake_again

PlaceOfBees = Literal["brood_frame", "other_brood_box", "super", "entrance", "unknown"]
BroodState = Literal["open_and_capped", "capped_only", "none", "not_seen"]

POOR_PLACES: frozenset[PlaceOfBees] = frozenset({"super", "entrance"})
MOST_MITES_PER_BEE = 100
FEWEST_BEES, FEW_BEES = 100, 200
"""Bees below which a jar cannot show clear, and below which its interval is wide."""
MOST_MITES_A_SHAKE = 30_000
REST_S = 120
MANY_MITES_PER_100, MANY_BEES = 30, 1000
"""Figures over these are more likely mistyped than counted."""
"""Seconds that sugared bees rest before they are shaken: warmth and movement make the mites let go."""


@dataclass(frozen=True, slots=True)
class JarSample:
    """One jar: shakes in order (a roll has one), how the bees were measured, where they came from.

    `rested_s` (seconds) and `wet` (bees wet with nectar, or rain) are told of a sugar roll; None and "not_looked"
    where nobody did.
    """

    taken_at: datetime
    shakes: tuple[int, ...]
    known_by: BeesKnownBy
    bees: int | None = None
    volume_ml: float | None = None
    mass_g: float | None = None
    place_of_bees: PlaceOfBees = "brood_frame"
    brood_state: BroodState = "not_seen"
    queen_safe: Answer = "not_looked"
    method: JarMethod = "wash"
    rested_s: int | None = None
    wet: Answer = "not_looked"

    @property
    def mites(self) -> int:
        """Mites of all shakes together."""
        return sum(self.shakes)


@dataclass(frozen=True, slots=True)
class JarResult:
    """Reading (None when the bees are not known), removal (None for one shake), advice to shake again, findings."""

    reading: Reading | None
    bees: BeesInSample | None
    removal: Removal | None
    shake_again: bool
    findings: tuple[CountFinding, ...]


def jar_use(bees_mean: float, place_of_bees: str, method: str, rested_s: int | None, wet: str) -> Use:
    """What a jar may do to a level: bees from a super or the entrance read low, so they raise but never lower; few
    bees, bees of unknown place, and a roll that was hurried or wet cannot show clear."""
    poor = place_of_bees in POOR_PLACES
    hurried = method == "sugar" and (wet == "yes" or (rested_s is not None and rested_s < REST_S))
    can_clear = bees_mean >= FEWEST_BEES and not poor and place_of_bees != "unknown" and not hurried
    return Use(enters=True, can_lower=not poor, can_clear=can_clear)


def check_jar(jar: JarSample, scoop: Scoop = DEFAULT_SCOOP) -> BeesInSample | None:
    """Refuse what cannot be a jar of bees; return the bees in the sample.

    Raises InvalidInput naming `shakes`, `shakes[i]`, `bees`, `volume_ml` or `mass_g`.
    """
    if jar.method != "wash" and len(jar.shakes) != 1:
        raise InvalidInput("shakes", "a roll has one count", code="out_of_range", allowed="1 count")
    if not 1 <= len(jar.shakes) <= 8:
        raise InvalidInput("shakes", "record one to eight shakes", code="out_of_range", allowed="1 to 8 shakes")
    for index, mites in enumerate(jar.shakes):
        if mites < 0:
            raise InvalidInput(f"shakes[{index}]", "a shake cannot bring down fewer than no mites", code="out_of_range")
        if mites > MOST_MITES_A_SHAKE:
            raise InvalidInput(f"shakes[{index}]", "that is more mites than a jar can hold", code="out_of_range")
    bees = bees_in_sample(jar.known_by, bees=jar.bees, volume_ml=jar.volume_ml, mass_g=jar.mass_g, scoop=scoop)
    if bees is not None and jar.mites > MOST_MITES_PER_BEE * bees.mean:
        raise InvalidInput(
            "shakes",
            f"{jar.mites} mites on about {bees.mean:.0f} bees is over {MOST_MITES_PER_BEE} a bee: check both figures",
            code="out_of_range",
        )
    return bees


def read_jar_sample(
    jar: JarSample,
    *,
    treatments: Sequence[TreatmentSpan] = (),
    other_counts: Sequence[datetime] = (),
    basis: ThresholdBasis = "corrected",
    scoop: Scoop = DEFAULT_SCOOP,
) -> JarResult:
    """Check a jar and read it. `treatments` and `other_counts` are those of the same colony."""
    bees = check_jar(jar, scoop)
    washed = jar.method == "wash"
    removed = removal(jar.shakes) if len(jar.shakes) >= 2 else None
    reading = reading_of(jar.method, jar.shakes, bees, basis) if bees else None
    findings = tuple(_findings(jar, bees, reading, removed, treatments, other_counts))
    return JarResult(reading, bees, removed, washed and shake_again(jar.shakes), findings)


def reading_of(
    method: JarMethod, shakes: Sequence[int], bees: BeesInSample, basis: ThresholdBasis = "corrected"
) -> Reading:
    """The reading of shakes on so many bees, with the recovery that the method and its shakes deserve."""
    share_left = removal(shakes).share_left if len(shakes) >= 2 else None
    return read_jar(sum(shakes), bees, recovery_of(method, len(shakes), share_left, basis))


def _findings(
    jar: JarSample,
    bees: BeesInSample | None,
    reading: Reading | None,
    removed: Removal | None,
    treatments: Sequence[TreatmentSpan],
    other_counts: Sequence[datetime],
) -> list[CountFinding]:
    found: list[CountFinding] = []

    def say(code: CountCode, level: FindingLevel, field: str, **params: Param) -> None:
        found.append(CountFinding(code, level, field, params))

    if bees is None:
        say("NO_N", "warning", "bees")
    elif bees.mean < FEWEST_BEES:
        say("LOW_N_BLOCK", "warning", "bees", few=FEWEST_BEES)
    elif bees.mean < FEW_BEES:
        say("LOW_N", "warning", "bees", few=FEW_BEES)
    if jar.place_of_bees in POOR_PLACES:
        say("PLACE", "warning", "place_of_bees", place=jar.place_of_bees)
    elif jar.place_of_bees == "unknown":
        say("PLACE_UNKNOWN", "note", "place_of_bees")
    if jar.method == "sugar":
        if jar.wet == "yes":
            say("WET", "warning", "wet")
        if jar.rested_s is not None and jar.rested_s < REST_S:
            say("REST_SHORT", "warning", "rested_s", rested=jar.rested_s, rest=REST_S)
    elif jar.method == "co2":
        say("SCREENING", "note", "method")
    elif len(jar.shakes) == 1:
        say("ONE_SHAKE", "warning", "shakes")
    elif removed is not None and removed.depleting is False:
        say("RISING", "warning", "shakes")
    if jar.queen_safe == "no" and jar.method == "wash":
        say("QUEEN", "warning", "queen_safe")
    if jar.brood_state == "none":
        say("NO_BROOD", "note", "brood_state")
    taken_on = jar.taken_at.date()
    if any(span.moves(taken_on) for span in treatments):
        say("RECENT_TREAT", "note", "taken_at")
    if reading is not None and reading.as_counted > MANY_MITES_PER_100:
        say("TYPO_RATE", "warning", "shakes", limit=MANY_MITES_PER_100)
    if bees is not None and bees.mean > MANY_BEES:
        say("TYPO_BEES", "warning", "bees", limit=MANY_BEES)
    if any(abs((other - jar.taken_at).total_seconds()) < 3600 for other in other_counts):
        say("TYPO_TWICE", "warning", "taken_at")
    return found
