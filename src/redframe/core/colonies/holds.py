"""What a hold stops: one table of acts and of what holds a colony back, and who may set it aside.

A colony is held back by a hold that somebody put on it (for a notifiable disease, or for another reason), by signs that
nobody has explained, because it died or disappeared and foulbrood is not excluded, or because its apiary stands still
for a suspect case. `FREE`: the act may be done. `CAUTION`: it may, with a word. `ANYWAY`: nothing of it is planned or
done, but what happened is recorded by whoever may record, with its reason: a swarm is not denied. `RELEASE`: only with
a reason, by a role that may release combs (inspector or administrator). What was set aside stays on the record. The
table is that of docs/methods/holds.md.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, get_args
from uuid import UUID

from redframe.core.colonies.states import ColonyState, is_lost
from redframe.core.disease.signs import signs
from redframe.core.errors import Refused

HoldKind = Literal["notifiable", "other"]
HoldReason = Literal["notifiable", "standstill", "other", "lost", "signs"]
Standstill = Literal["voluntary", "official"]
HeldAct = Literal[
    "comb_out",
    "merge",
    "receive_merger",
    "split",
    "move",
    "rehouse",
    "house",
    "requeen",
    "boxes",
    "treat",
    "honey",
    "honey_for_bees",
]
Ruling = Literal["free", "caution", "anyway", "release"]

FREE: Ruling = "free"
CAUTION: Ruling = "caution"
ANYWAY: Ruling = "anyway"
RELEASE: Ruling = "release"

NOTHING_IS_DONE: frozenset[HoldReason] = frozenset({"notifiable", "standstill"})
"""Reasons for which a treatment waits for the authority."""
REASONS: tuple[HoldReason, ...] = get_args(HoldReason)
STOPS: tuple[Ruling, ...] = (RELEASE, ANYWAY)
"""Rulings under which an act needs a reason, the strictest first."""
TABLE: Mapping[HeldAct, Mapping[HoldReason, Ruling]] = {
    # A comb goes to another colony.
    "comb_out": {"notifiable": RELEASE, "standstill": ANYWAY, "other": RELEASE, "lost": RELEASE, "signs": RELEASE},
    # It is merged into another, or another into it: a sick colony is never united.
    "merge": {"notifiable": RELEASE, "standstill": ANYWAY, "other": RELEASE, "lost": RELEASE, "signs": RELEASE},
    "receive_merger": {
        "notifiable": RELEASE,
        "standstill": ANYWAY,
        "other": RELEASE,
        "lost": RELEASE,
        "signs": RELEASE,
    },
    "split": {"notifiable": RELEASE, "standstill": ANYWAY, "other": RELEASE, "lost": RELEASE, "signs": RELEASE},
    # To another apiary, and into another hive of the same one.
    "move": {"notifiable": RELEASE, "standstill": ANYWAY, "other": RELEASE, "lost": RELEASE, "signs": RELEASE},
    "rehouse": {"notifiable": RELEASE, "standstill": ANYWAY, "other": CAUTION, "lost": RELEASE, "signs": CAUTION},
    # Another colony is put into its hive.
    "house": {"notifiable": RELEASE, "standstill": ANYWAY, "other": RELEASE, "lost": RELEASE, "signs": RELEASE},
    "requeen": {"notifiable": RELEASE, "standstill": ANYWAY, "other": FREE, "lost": FREE, "signs": CAUTION},
    # A box with frames comes onto its hive, or is taken off it.
    "boxes": {"notifiable": RELEASE, "standstill": ANYWAY, "other": CAUTION, "lost": RELEASE, "signs": CAUTION},
    "treat": {"notifiable": RELEASE, "standstill": RELEASE, "other": CAUTION, "lost": RELEASE, "signs": CAUTION},
    # Honey for people, whose extractor and supers go on to other hives; and for other bees, to which it carries spores.
    "honey": {"notifiable": RELEASE, "standstill": CAUTION, "other": CAUTION, "lost": RELEASE, "signs": RELEASE},
    "honey_for_bees": {
        "notifiable": RELEASE,
        "standstill": ANYWAY,
        "other": RELEASE,
        "lost": RELEASE,
        "signs": RELEASE,
    },
}


@dataclass(frozen=True, slots=True)
class HeldBack:
    """What keeps a colony back: its open hold, its state, signs seen of late that nobody has explained, the open case
    that is its own, the standstill that it lies under with the number of its case, and whether foulbrood was excluded
    for it when it died."""

    colony_id: UUID
    label: str
    state: ColonyState
    hold_kind: HoldKind | None
    hold_why: str | None
    suspicious: Sequence[str]
    case_number: str | None = None
    standstill: Standstill | None = None
    standstill_case: str | None = None
    is_cleared: bool = False


@dataclass(frozen=True, slots=True)
class Held:
    """One reason that holds a colony back, in words."""

    reason: HoldReason
    text: str


def reasons_of(held: HeldBack) -> list[Held]:
    """What holds a colony back, the weightiest first."""
    found = []
    if held.hold_kind is not None:
        found.append(Held(held.hold_kind, f"{held.label} is on hold: {held.hold_why}"))
    if held.case_number is not None:
        text = f"{held.label} is the suspect of case {held.case_number}: nothing is done without the inspector"
        found.append(Held("notifiable", text))
    if held.standstill is not None:
        found.append(Held("standstill", standstill_text(held.standstill, held.standstill_case or "")))
    if is_lost(held.state) and not held.is_cleared:
        text = f"{held.label} died and was not explained: what it left stays until foulbrood is excluded"
        found.append(Held("lost", text))
    if held.suspicious:
        named = ", ".join(signs()[one].name if one in signs() else one for one in held.suspicious)
        found.append(Held("signs", f"{held.label} shows signs that are not explained: {named}"))
    return sorted(found, key=lambda one: REASONS.index(one.reason))


IF_IT_HAPPENED = "record it only if it happened anyway, and say why"
"""What is said where an act under a standstill is not done, but may be recorded."""


def standstill_text(kind: Standstill, case_number: str) -> str:
    """That an apiary stands still, and for which case."""
    return f"the apiary stands still (case {case_number}, {kind})"


def ruling(act: HeldAct, held: HeldBack) -> tuple[Ruling, Held | None]:
    """The strictest ruling on an act, and the reason that makes it; (free, None) where nothing holds it back."""
    for wanted in (*STOPS, CAUTION):
        for one in reasons_of(held):
            if TABLE[act][one.reason] == wanted:
                return wanted, one
    return FREE, None


def check(act: HeldAct, colonies: Sequence[HeldBack], *, may_release: bool, why: str) -> HoldReason | None:
    """Let an act pass, or refuse it; the reason that was set aside for it (None: nothing held it back).

    Raises Refused at `override_why` where a colony is held back and nobody who may set it aside says why.
    """
    stands = [(found, reason) for found, reason in (ruling(act, one) for one in colonies) if reason is not None]
    # The strictest of all colonies is said first: what one may say happened anyway does not open another.
    weighty = sorted((one for one in stands if one[0] in STOPS), key=lambda one: STOPS.index(one[0]))
    for found, reason in weighty:
        may_say = may_release or found == ANYWAY
        if not why.strip() or not may_say:
            text = f"{reason.text}: {IF_IT_HAPPENED}" if found == ANYWAY else reason.text
            raise Refused(f"hold_{reason.reason}", text, field="override_why", can_override=may_say)
    return weighty[0][1].reason if weighty else None
