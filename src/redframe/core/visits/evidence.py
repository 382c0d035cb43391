"""What a visit says of the signs of disease: combs, entrance and the colony as a whole, as findings of the matrix.

What was seen on several combs is one finding of the colony: counts are added up, else the greatest extent stands. What
nobody looked for is not a finding; an absence stands only where the visit says that it was looked for.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from redframe.core.disease.evidence import Context
from redframe.core.disease.findings import Finding, Value, read_findings
from redframe.core.disease.findings import SignSeen as Entered
from redframe.core.disease.settings import Season
from redframe.core.disease.signs import Extent, Scale, signs
from redframe.core.season.calendar import TreatmentSeason
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.record import After, Amount, Before, SignSeen

SEASONS: Mapping[TreatmentSeason, Season] = {
    "winter_cluster": "winter", "spring_build": "early_spring", "swarm": "spring", "flow": "summer",
    "post_harvest": "late_summer", "autumn": "autumn",
}  # fmt: skip
ADDED_UP: frozenset[Scale] = frozenset({"cells", "bees", "number", "dm2"})
"""Scales whose numbers of several combs are added up; of others the greatest stands."""
ORDER: tuple[Extent, ...] = ("many", "some", "few")
AMOUNTS: Mapping[Amount, Value] = {"none": "absent", "few": "few", "some": "some", "many": "many"}


def season_of(season: TreatmentSeason) -> Season:
    """The season of the priors, in the words of the treatment catalogue."""
    return SEASONS[season]


def context_of(season: TreatmentSeason, flags: frozenset[str] = frozenset()) -> Context:
    """The context of a visit in a season, where nothing else is known of the place."""
    return Context(season_of(season), flags=flags)


def findings_of_visit(
    before: Before, after: After, frames: Sequence[SeenFrame], *, count_over: bool | None
) -> dict[str, Finding]:
    """The findings of a visit; `count_over`: whether the last count stands over its level (None: none is known)."""
    entered: dict[str, Entered] = {}
    for one in (*_at_the_entrance(before), *_of_the_colony(after), *_laid(after, frames), *_on_combs(frames)):
        entered[one.sign] = one
    if count_over is not None:
        entered["mite_count_high"] = _said("mite_count_high", "some" if count_over else "absent")
    return read_findings(list(entered.values()))


def _said(sign: str, value: Value) -> Entered:
    return Entered(sign, True, value)


def _at_the_entrance(before: Before) -> Iterator[Entered]:
    if before.dead_bees is not None:
        yield _said("dead_pile", AMOUNTS[before.dead_bees])
    if before.traffic == "fighting":
        yield _said("rob_fighting", "some")
    if before.wax_bits is not None:
        yield _said("wax_bits", AMOUNTS[before.wax_bits])
    if before.soiling is not None:
        yield _said("dysentery", float(before.soiling))
    if before.mummies is not None:
        yield _said("mummies_entrance", "absent" if before.mummies == "none" else "some")


def _of_the_colony(after: After) -> Iterator[Entered]:
    if after.pattern_empty_pct is not None:
        yield _said("pattern_spotty", after.pattern_empty_pct)
    if after.beetles is not None:
        yield _said("shb_adults", float(after.beetles))
    if after.moth is not None:
        yield _said("moth_tunnels", AMOUNTS[after.moth])
    if after.wasps is not None:
        yield _said("wasp_hawking", AMOUNTS[after.wasps])
    if after.stores_kg is not None:
        yield _said("stores_nil", after.stores_kg)


def _laid(after: After, frames: Sequence[SeenFrame]) -> Iterator[Entered]:
    """Queen, eggs and brood: what was seen anywhere was there; what was said not to be seen was looked for."""
    sides = [side for frame in frames for side in frame.record.sides]
    eggs = after.eggs_seen or any(side.has_eggs for side in sides) or None
    open_brood = after.open_brood or any(side.open > 0 for side in sides) or None
    capped = after.capped_brood or any(side.capped > 0 for side in sides) or None
    if eggs or after.eggs_seen is False:
        yield _said("no_eggs", "absent" if eggs else "some")
    if open_brood or after.open_brood is False:
        yield _said("no_open_brood", "absent" if open_brood else "some")
    if eggs or open_brood or capped:
        yield _said("no_brood", "absent")
    elif after.eggs_seen is False and after.open_brood is False and after.capped_brood is False:
        yield _said("no_brood", "some")
    queen = after.queen == "seen" or any(frame.record.queen for frame in frames)
    if queen or after.queen in ("eggs_only", "neither"):
        yield _said("queen_not_seen", "absent" if queen else "some")


def _on_combs(frames: Sequence[SeenFrame]) -> Iterator[Entered]:
    by_sign: dict[str, list[SignSeen]] = {}
    for frame in frames:
        for one in frame.record.signs:
            by_sign.setdefault(one.sign, []).append(one)
    for sign, seen in by_sign.items():
        numbers = [one.number for one in seen if one.number is not None]
        extents = [one.extent for one in seen if one.extent is not None]
        if not numbers:
            yield _said(sign, _greatest(extents) or "some")
            continue
        together = float(sum(numbers) if signs()[sign].scale in ADDED_UP else max(numbers))
        (by_number,) = read_findings([_said(sign, together)]).values()
        greatest = _greatest([*extents, *([by_number.extent] if by_number.extent is not None else [])])
        # A number that says more than an extent (a short thread) is kept as it is.
        yield _said(sign, together if greatest is None or greatest == by_number.extent else greatest)


def _greatest(extents: Sequence[Extent]) -> Extent | None:
    return next((one for one in ORDER if one in extents), None)
