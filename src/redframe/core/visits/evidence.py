"""What a visit says of the signs of disease: combs, entrance and the colony as a whole, as findings of the matrix.

What was seen on several combs is one finding of the colony: counts are added up, else the greatest extent stands. What
nobody looked for is not a finding; an absence stands only where the visit says that it was looked for.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from datetime import date

from redframe.core.disease.findings import Finding, Value, read_findings
from redframe.core.disease.findings import SignSeen as Entered
from redframe.core.disease.settings import Season
from redframe.core.disease.signs import Extent, Scale, signs
from redframe.core.season.calendar import Phase, TreatmentSeason
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.examination import Examination
from redframe.core.visits.record import After, Amount, Before

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


PHASES: Mapping[Phase, Season] = {
    "dormant": "winter", "build_up": "early_spring", "peak": "summer", "decline": "late_summer",
    "pre_winter": "late_summer",
}  # fmt: skip


def season_of_phase(phase: Phase) -> Season:
    """The season of the priors for a visit of which only the phase was kept."""
    return PHASES[phase]


RECENT_SPLIT_DAYS, RAISING_DAYS, TREATED_DAYS = 30, 35, 60
"""So long a split bears on brood, a swarm or a lost queen on her successor, a treatment on mites."""


def lately(
    on: date, *, split: Sequence[date], swarmed: Sequence[date], queen_removed: Sequence[date], treated: Sequence[date]
) -> frozenset[str]:
    """What the record says of late that bears on disease, in the keys of the settings: days of splits, swarms, queens
    removed, and last days of treatments with a product."""
    within = {
        "recent_split": (split, RECENT_SPLIT_DAYS),
        "swarmed": (swarmed, RAISING_DAYS),
        "queen_removed": (queen_removed, RAISING_DAYS),
        "mite_treated_recently": (treated, TREATED_DAYS),
    }
    return frozenset(name for name, (days, most) in within.items() if any(0 <= (on - day).days <= most for day in days))


def findings_of_visit(
    before: Before, after: After, frames: Sequence[SeenFrame], *, on: date, count_over: bool | None
) -> dict[str, Finding]:
    """The findings of a visit on a day; `count_over`: whether the last count stands over its level (None: none is
    known)."""
    entered: dict[str, Entered] = {}
    examined = after.examination or Examination()
    seen_on_combs = [(one.sign, one.extent, one.number) for frame in frames for one in frame.record.signs]
    said = [(one.sign, one.extent, one.number) for one in examined.signs if one.seen == "seen"]
    if examined.thread_mm is not None:
        said.append(("ropy_thread", None, float(examined.thread_mm)))
    for one in (
        *_at_the_entrance(before), *_of_the_colony(after), *_laid(after, frames), *_not_seen(examined),
        *_kits(examined, on), *_seen([*seen_on_combs, *said]),
    ):  # fmt: skip
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


def _not_seen(examined: Examination) -> Iterator[Entered]:
    for sign, effort in examined.absences():
        yield Entered(sign, True, "absent", effort)


def _kits(examined: Examination, on: date) -> Iterator[Entered]:
    """Field kits that were in date and valid: a positive one stands before a negative one."""
    for kit in sorted(examined.kits, key=lambda one: one.result == "positive"):
        if kit.result != "invalid" and (kit.use_by is None or kit.use_by >= on):
            yield _said(f"lfd_{kit.tests_for}_pos", "some" if kit.result == "positive" else "absent")


def _seen(seen: Sequence[tuple[str, Extent | None, float | None]]) -> Iterator[Entered]:
    """Signs that were seen, on one comb or on several."""
    by_sign: dict[str, list[tuple[Extent | None, float | None]]] = {}
    for sign, extent, number in seen:
        by_sign.setdefault(sign, []).append((extent, number))
    for sign, each in by_sign.items():
        numbers = [number for _, number in each if number is not None]
        extents = [extent for extent, _ in each if extent is not None]
        if not numbers:
            yield _said(sign, _greatest(extents) or "some")
            continue
        together = float(sum(numbers) if signs()[sign].scale in ADDED_UP else max(numbers))
        read = list(read_findings([_said(sign, together)]).values())
        greatest = _greatest([*extents, *(one.extent for one in read if one.extent is not None)])
        # A number that says more than an extent (a short thread) is kept as it is.
        yield _said(sign, together if greatest is None or any(greatest == one.extent for one in read) else greatest)


def _greatest(extents: Sequence[Extent]) -> Extent | None:
    return next((one for one in ORDER if one in extents), None)
