"""What came to the suspect colony of the demo and went from it over two seasons, as its keeper told it."""

from __future__ import annotations

from datetime import UTC, date, datetime
from typing import Literal
from uuid import UUID

from redframe.core.tracing.elsewhere import MovedKind, OutsideMovement, Way
from redframe.demo.acting import People
from redframe.demo.scenario import CORRANE, made_id
from redframe.demo.sick_brood import SUSPECT_COLONY
from redframe.work.movements import record

ASKED = datetime(2031, 7, 30, 16, tzinfo=UTC)
DEALER = "Nucleus dealer, mainland harbour"
CLUB = "Club extractor, Orrin Quay"
Hive = tuple[str, str]
How = Literal["seen", "told", "cleaned"]
"""Seen; told by the keeper; told to have been cleaned."""
Line = tuple[Hive, Way, MovedKind, date, date, Hive | str, How, str]
DEAD, WEAK, RAISED = ("Saltby Rise", "R3"), ("Whin Moor", "W2"), ("Quarrel Lane", "A2")
SECOND_COLONY = ("Saltby Rise", "R4")
LINES: tuple[Line, ...] = (
    (SUSPECT_COLONY, "came", "brood_frame", date(2029, 9, 5), date(2029, 9, 30), DEALER, "told", "two combs bought"),
    (SECOND_COLONY, "came", "brood_frame", date(2030, 5, 2), date(2030, 5, 2), DEALER.lower(), "told", "a bill"),
    (SUSPECT_COLONY, "went", "brood_frame", date(2031, 7, 14), date(2031, 7, 14), WEAK, "told", "for a weak colony"),
    (SUSPECT_COLONY, "came", "extractor", date(2030, 8, 8), date(2030, 8, 8), CLUB, "told", "wet combs came back"),
    (DEAD, "went", "honey_frame", date(2031, 3, 10), date(2031, 3, 20), SUSPECT_COLONY, "told", "of the dead hive"),
    (DEAD, "went", "equipment", date(2031, 4, 10), date(2031, 4, 10), SECOND_COLONY, "cleaned", "floor, box scorched"),
    (SUSPECT_COLONY, "went", "swarm", date(2031, 5, 28), date(2031, 5, 28), "Church roof, Saltby", "seen", "not taken"),
    (SUSPECT_COLONY, "went", "queen_cell", date(2031, 7, 8), date(2031, 7, 12), RAISED, "told", "cut from comb 4"),
)  # fmt: skip


async def outside_movements(people: People) -> None:
    """Record what the keeper told when the inspector asked."""
    for number, (hive, way, kind, earliest, latest, other, how, note) in enumerate(LINES):
        moved = OutsideMovement(
            _colony(hive), way, kind, earliest, latest, None if isinstance(other, str) else _colony(other),
            other if isinstance(other, str) else "", how == "seen", how == "cleaned", note,
        )  # fmt: skip
        await _recorded(people, made_id("movement", CORRANE.key, str(number)), moved)


async def _recorded(people: People, movement: UUID, moved: OutsideMovement) -> None:
    await people.act(people.inspector, ASKED, lambda unit: record.record_movement(unit, movement, moved))


def _colony(hive: Hive) -> UUID:
    return made_id(CORRANE.key, *hive)
