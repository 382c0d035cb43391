"""Who may do what. Row-level security holds which records a person reaches; this holds which acts a role may start."""

from __future__ import annotations

from typing import Literal

from redframe.core.members.roles import Role
from redframe.store.database import Identity
from redframe.store.errors import NotAllowed

Act = Literal[
    "record", "keep_places", "keep_keepers", "keep_members", "set_policy", "set_apiary_policy", "release_combs",
    "exclude_foulbrood", "ask_forecasts", "organise", "read_count_week",
]  # fmt: skip

STAFF: frozenset[Role] = frozenset({"administrator", "inspector", "mentor"})
MAY: dict[Act, frozenset[Role]] = {
    "record": STAFF | {"keeper"},
    "keep_places": STAFF | {"keeper"},
    "keep_keepers": STAFF,
    "keep_members": frozenset({"administrator"}),
    "set_policy": frozenset({"administrator"}),
    "ask_forecasts": STAFF,
    "organise": STAFF,
    "read_count_week": STAFF | {"read_only"},
    "set_apiary_policy": STAFF | {"keeper"},
    "exclude_foulbrood": STAFF,
    "release_combs": frozenset({"administrator", "inspector"}),
}


def may(who: Identity, act: Act) -> bool:
    """Whether the role allows the act."""
    return who.role in MAY[act]


def require(who: Identity, act: Act) -> None:
    """Raise NotAllowed unless the role allows the act."""
    if not may(who, act):
        raise NotAllowed(f"the role {who.role.replace('_', '-')} may not do this")
