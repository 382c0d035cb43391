"""The states of a colony with their properties, once: rules ask for a property, never for a list of states.

The lookup table `colony_state` of the database holds the same; a test holds the two together.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

ColonyState = Literal["alive", "queenless", "dead", "merged", "gone"]


@dataclass(frozen=True, slots=True)
class ColonyStateProperties:
    """`is_living`: it is visited, counted and treated. `is_lost`: it died or disappeared, so that its combs stay until
    foulbrood is excluded. `has_queen`: a queen may be present."""

    is_living: bool
    is_lost: bool
    has_queen: bool


COLONY_STATES: Mapping[ColonyState, ColonyStateProperties] = {
    "alive": ColonyStateProperties(is_living=True, is_lost=False, has_queen=True),
    "queenless": ColonyStateProperties(is_living=True, is_lost=False, has_queen=False),
    "dead": ColonyStateProperties(is_living=False, is_lost=True, has_queen=False),
    "merged": ColonyStateProperties(is_living=False, is_lost=False, has_queen=False),
    "gone": ColonyStateProperties(is_living=False, is_lost=True, has_queen=False),
}


def is_living(state: ColonyState) -> bool:
    """Whether a colony in this state is visited, counted and treated."""
    return COLONY_STATES[state].is_living


def is_lost(state: ColonyState) -> bool:
    """Whether a colony in this state died or disappeared without going into another."""
    return COLONY_STATES[state].is_lost


def has_queen(state: ColonyState) -> bool:
    """Whether a colony in this state may have a queen."""
    return COLONY_STATES[state].has_queen
