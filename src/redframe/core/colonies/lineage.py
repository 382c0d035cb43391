"""Whose history is whose: labels and places by day, and what may become of colonies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.colonies.states import ColonyState, is_living
from redframe.core.errors import InvalidInput

EventKind = Literal["started", "split_from", "merged_into", "renumbered", "moved", "state", "boxes"]
QueenOfMerger = Literal["of_this", "of_other", "none", "not_known"]
"""Whose queen heads a merged colony: that of the colony that goes in, that of the one that receives it, no queen at
all, or it is not known and she is to be looked for."""
CombsOfMerger = Literal["onto_other", "store"]
"""What becomes of the combs of a colony that is merged: its boxes go onto the other hive, or the combs go into
store."""


@dataclass(frozen=True, slots=True)
class DatedChange:
    """A change of a label or of a place: what it was before that day."""

    kind: EventKind
    happened_on: date
    previous: str


def value_on(day: date, now: str, changes: Sequence[DatedChange], kind: EventKind) -> str:
    """A label or a place as it was on a day, from what it is now and the changes since; `changes` in any order.

    On the day of a change the new value holds.
    """
    later = [one for one in changes if one.kind == kind and one.happened_on > day]
    return min(later, key=lambda one: one.happened_on).previous if later else now


def check_parent(label: str, state: ColonyState, state_since: date, split_on: date) -> None:
    """A split needs a colony that lived on its day. Raises InvalidInput("split_from")."""
    if not is_living(state) and split_on > state_since:
        text = f"colony {label} is {state} since {state_since}: nothing could be split from it on {split_on}"
        raise InvalidInput("split_from", text, code="refused")


def check_requeened(label: str, state: ColonyState, state_since: date, since: date) -> None:
    """A queen is given to a colony that lives on that day. Raises InvalidInput("since")."""
    if not is_living(state) and since > state_since:
        text = f"colony {label} is {state} since {state_since}: it takes no queen on {since}"
        raise InvalidInput("since", text, code="refused")


def check_merger(
    *,
    own_queen: bool,
    other_queen: bool,
    queen: QueenOfMerger | None,
    own_combs: bool,
    combs: CombsOfMerger | None,
) -> None:
    """A merger says whose queen stays where both colonies have one, and where the combs go where there are any.

    Raises InvalidInput naming `queen` or `combs`.
    """
    if queen is None and own_queen and other_queen:
        raise InvalidInput("queen", "both colonies have a queen: say which one stays", code="missing")
    if queen == "of_this" and not own_queen:
        raise InvalidInput("queen", "the colony that goes in has no queen on record", code="refused")
    if queen == "of_other" and not other_queen:
        raise InvalidInput("queen", "the colony that receives it has no queen on record", code="refused")
    if combs is None and own_combs:
        raise InvalidInput("combs", "say where its combs go: onto the other hive, or into store", code="missing")
