"""Who may do what. Row-level security holds which records a person reaches; this holds which acts a role may start."""

from __future__ import annotations

from typing import Literal

from redframe.store.database import Identity
from redframe.store.errors import NotAllowed

Role = Literal["administrator", "inspector", "mentor", "keeper", "read_only"]
Act = Literal[
    "record", "keep_places", "keep_keepers", "keep_members", "set_policy", "set_apiary_policy", "release_combs",
    "ask_forecasts", "organise", "read_count_week",
]  # fmt: skip

HOUSE: frozenset[Role] = frozenset({"administrator", "inspector", "mentor"})
MAY: dict[Act, frozenset[Role]] = {
    "record": HOUSE | {"keeper"},
    "keep_places": HOUSE | {"keeper"},
    "keep_keepers": HOUSE,
    "keep_members": frozenset({"administrator"}),
    "set_policy": frozenset({"administrator"}),
    "ask_forecasts": HOUSE,
    "organise": HOUSE,
    "read_count_week": HOUSE | {"read_only"},
    "set_apiary_policy": HOUSE | {"keeper"},
    "release_combs": frozenset({"administrator", "inspector"}),
}


def may(who: Identity, act: Act) -> bool:
    """Whether the role allows the act."""
    return who.role in MAY[act]


def require(who: Identity, act: Act) -> None:
    """Raise NotAllowed unless the role allows the act."""
    if not may(who, act):
        raise NotAllowed(f"the role {who.role.replace('_', '-')} may not do this")
