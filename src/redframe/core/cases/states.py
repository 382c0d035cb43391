"""The course of a suspect case: one table of what may follow on what, by whom, and on what evidence.

Three tracks run side by side: the case itself, its standstill, and its tasks (tracing, the apiaries near by). Whatever
is not in the table is refused. The authority does not sign in: an inspector records what it decided, with its
reference and the name of the officer. The table is that of docs/methods/cases.md; `case_transition` in the database
holds the same, and a test that the two agree.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal, get_args

from redframe.core.members.roles import Role

CaseDisease = Literal["afb", "efb", "small_hive_beetle", "tropilaelaps"]
CaseState = Literal[
    "suspected", "not_supported", "reported", "sampled", "lab_pending", "negative", "inconclusive", "confirmed",
    "order_issued", "order_done", "reinspect_due", "recheck_due", "reinspected_clear", "reinspected_positive",
    "released", "reopened", "closed",
]  # fmt: skip
HoldState = Literal["none", "voluntary", "official", "lifted"]
TaskState = Literal["not_begun", "open", "done"]
Track = Literal["case", "hold", "tracing", "radius"]
Actor = Literal[Role, "laboratory", "system"]
CaseAct = Literal[
    "raise", "not_supported", "report", "hold_voluntary", "hold_official", "sample", "receive", "accept_negative",
    "accept_inconclusive", "accept_confirmed", "recheck", "order", "order_done", "reinspect_falls_due",
    "reinspect_clear", "reinspect_positive", "release", "suspect_again", "reopen_suspected", "reopen_reinspect",
    "reopen", "close", "open_tracing", "end_tracing", "open_radius", "end_radius", "correct", "anyway", "seen_again",
]  # fmt: skip
EvidenceField = Literal[
    "reference", "ordered_by", "text", "covers", "until", "option", "deadline", "witness", "hives", "frames",
    "pit_depth_cm", "disinfected", "brood_frames", "all_brood_frames", "rope_negative", "scales_negative",
    "colonies_examined", "hold_stays", "receipt_condition", "samples", "lessons", "cost",
]  # fmt: skip
ACTS: tuple[CaseAct, ...] = get_args(CaseAct)
STATES: tuple[CaseState, ...] = get_args(CaseState)

STAFF: frozenset[Actor] = frozenset({"administrator", "inspector", "mentor"})
FINDERS: frozenset[Actor] = frozenset({"keeper", "mentor", "inspector"})
INSPECTOR: frozenset[Actor] = frozenset({"inspector"})
AUTHORITY: frozenset[Actor] = INSPECTOR
"""What the authority decided is recorded by an inspector."""
STEWARD: frozenset[Actor] = frozenset({"inspector", "administrator"})
SYSTEM: frozenset[Actor] = frozenset({"system"})
LABORATORY: frozenset[Actor] = frozenset({"laboratory"})

OPEN_STATES: tuple[CaseState, ...] = tuple(one for one in STATES if one != "closed")


@dataclass(frozen=True, slots=True)
class Transition:
    """An act from a state of its track to another, by whom, what it must show, and what it does to the standstill."""

    act: CaseAct
    track: Track
    source: str
    target: str
    actors: frozenset[Actor]
    needs: tuple[EvidenceField, ...] = ()
    asks: tuple[EvidenceField, ...] = ()
    lifts: Literal["no", "yes", "unless_it_stays"] = "no"


_BY_ORDER: tuple[EvidenceField, ...] = ("reference", "ordered_by")


def _case(
    act: CaseAct,
    sources: tuple[CaseState, ...],
    target: CaseState,
    actors: frozenset[Actor],
    needs: tuple[EvidenceField, ...] = (),
    asks: tuple[EvidenceField, ...] = (),
    lifts: Literal["no", "yes", "unless_it_stays"] = "no",
) -> Iterator[Transition]:
    for source in sources:
        yield Transition(act, "case", source, target, actors, needs, asks, lifts)


def _rows() -> Iterator[Transition]:
    second_look: tuple[EvidenceField, ...] = ("all_brood_frames", "brood_frames", "rope_negative", "scales_negative")
    yield from _case("not_supported", ("suspected",), "not_supported", INSPECTOR, (*second_look, "text"), lifts="yes")
    yield from _case("report", ("suspected",), "reported", FINDERS, ("reference", "text"))
    yield from _case(
        "sample", ("reported", "inconclusive", "recheck_due", "reopened"), "sampled", INSPECTOR | {"mentor"},
        ("samples",), ("text",),
    )  # fmt: skip
    yield from _case("receive", ("sampled",), "lab_pending", LABORATORY, ("reference", "receipt_condition"))
    results: tuple[tuple[CaseAct, CaseState], ...] = (
        ("accept_negative", "negative"), ("accept_inconclusive", "inconclusive"), ("accept_confirmed", "confirmed"),
    )  # fmt: skip
    for act, result in results:
        yield from _case(act, ("lab_pending",), result, AUTHORITY, _BY_ORDER, ("text",))
    yield from _case(
        "recheck", ("negative",), "recheck_due", AUTHORITY, (*_BY_ORDER, "hold_stays"), ("text",), "unless_it_stays"
    )
    yield from _case(
        "order", ("confirmed", "reinspected_positive"), "order_issued", AUTHORITY,
        (*_BY_ORDER, "option", "text", "deadline"),
    )  # fmt: skip
    yield from _case(
        "order_done", ("order_issued",), "order_done", INSPECTOR, ("witness", "hives", "frames", "disinfected"),
        ("pit_depth_cm", "text"),
    )  # fmt: skip
    yield from _case("reinspect_falls_due", ("order_done",), "reinspect_due", SYSTEM)
    whole: tuple[EvidenceField, ...] = ("all_brood_frames", "colonies_examined", "brood_frames")
    # Some laws ask for two clear inspections: the second is made from the first.
    looked: tuple[CaseState, ...] = ("reinspect_due", "reinspected_clear")
    yield from _case("reinspect_clear", looked, "reinspected_clear", INSPECTOR, whole, ("text",))
    yield from _case("reinspect_positive", looked, "reinspected_positive", INSPECTOR, (*whole, "text"))
    yield from _case("release", ("reinspected_clear",), "released", AUTHORITY, _BY_ORDER, ("text",), "yes")
    # A re-check ends where no sign is left; else it begins again, or goes to the laboratory by `sample`.
    yield from _case("release", ("recheck_due",), "released", AUTHORITY, (*_BY_ORDER, *whole), ("text",), "yes")
    yield from _case("suspect_again", ("recheck_due",), "suspected", INSPECTOR, ("text",))
    not_yet: tuple[CaseState, ...] = tuple(one for one in OPEN_STATES if one != "reopened")
    yield from _case("reopen", not_yet, "reopened", AUTHORITY, ("text",))
    yield from _case("reopen_suspected", ("reopened",), "suspected", AUTHORITY, ("text",))
    yield from _case("reopen_reinspect", ("reopened",), "reinspect_due", AUTHORITY, ("text",))
    yield from _case("close", ("not_supported",), "closed", STEWARD, ("text",), ("lessons", "cost"))
    yield from _case("close", ("released",), "closed", STEWARD, ("text",), ("lessons", "cost"))
    official = (*_BY_ORDER, "covers", "until")
    yield Transition("hold_voluntary", "hold", "none", "voluntary", FINDERS | SYSTEM, ("covers",), ("text",))
    yield Transition("hold_voluntary", "hold", "lifted", "voluntary", FINDERS | SYSTEM, ("covers",), ("text",))
    for source in ("none", "voluntary", "official", "lifted"):
        yield Transition("hold_official", "hold", source, "official", AUTHORITY, official[:3], ("until", "text"))
    for track, begin, end in (("tracing", "open_tracing", "end_tracing"), ("radius", "open_radius", "end_radius")):
        yield Transition(begin, track, "not_begun", "open", AUTHORITY, (), ("text",))  # type: ignore[arg-type]
        yield Transition(end, track, "open", "done", AUTHORITY, ("text",))  # type: ignore[arg-type]


TABLE: tuple[Transition, ...] = tuple(_rows())
"""Every transition. `raise` begins a case; the other entries change no state."""
ENTRIES: dict[CaseAct, frozenset[Actor]] = {
    "raise": FINDERS | SYSTEM,
    "correct": FINDERS | {"administrator"},
    "anyway": FINDERS | {"administrator"},
    "seen_again": SYSTEM,
}
"""Acts that are no transition: who may record them."""


@dataclass(frozen=True, slots=True)
class Tracks:
    """Where the tracks of a case stand."""

    case: CaseState
    hold: HoldState
    tracing: TaskState
    radius: TaskState

    def of(self, track: Track) -> str:
        """The state of a track."""
        return {"case": self.case, "hold": self.hold, "tracing": self.tracing, "radius": self.radius}[track]

    @property
    def is_open(self) -> bool:
        """Whether the case is not closed."""
        return self.case != "closed"


def possible(tracks: Tracks) -> list[Transition]:
    """What the table lets follow, whoever does it; `guards.py` says what else a case must have shown."""
    return [one for one in TABLE if tracks.is_open and tracks.of(one.track) == one.source]


def transition(tracks: Tracks, act: CaseAct) -> Transition | None:
    """The row of an act from here; None where it may not follow."""
    return next((one for one in possible(tracks) if one.act == act), None)
