"""Winter losses of an association: what share of the colonies that went into a winter did not come out of it, with
intervals that take colonies of one apiary as alike.

See docs/methods/winter-losses.md for the formulas and their sources.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from scipy import special

TreatedInTime = Literal["in_time", "late", "none", "not_known"]
SizeGoingIn = Literal["small", "usual", "large", "not_known"]
LEVEL = 0.95
SMALL_BELOW, LARGE_FROM = 5.0, 9.0
"""Frames of bees going in: below five a colony is small, from nine large."""


@dataclass(frozen=True, slots=True)
class Wintered:
    """A colony that went into a winter: at which apiary, of which size, how it was treated, and whether it was lost; of
    a lost one the cause that its examination names (None: not examined) and whether its record shows what was
    missed."""

    apiary: str
    frames: float | None
    treated: TreatedInTime
    is_lost: bool
    cause: str | None = None
    was_avoidable: bool | None = None


@dataclass(frozen=True, slots=True)
class LossGroup:
    """Of `of` colonies `lost` were lost: the share with its 95 % interval. `apiaries`: of how many they are;
    `clustering`: by what factor the losses of an apiary are more alike than chance makes them."""

    key: str
    of: int
    lost: int
    share: float | None
    low: float | None
    high: float | None
    apiaries: int
    clustering: float


@dataclass(frozen=True, slots=True)
class CauseShare:
    """How many of the lost were put down to a cause."""

    cause: str
    lost: int
    share: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Losses:
    """A winter: all, by treatment and by size going in, by apiary (most lost first), by cause of those examined, and of
    how many examined the record shows what a timely act would have met."""

    whole: LossGroup
    by_treatment: Sequence[LossGroup]
    by_size: Sequence[LossGroup]
    by_apiary: Sequence[LossGroup]
    by_cause: Sequence[CauseShare]
    examined: int
    avoidable: int
    avoidable_low: float | None
    avoidable_high: float | None


def size_going_in(frames: float | None) -> SizeGoingIn:
    """The class of a colony's size."""
    if frames is None:
        return "not_known"
    return "small" if frames < SMALL_BELOW else "large" if frames >= LARGE_FROM else "usual"


def winter_losses(colonies: Sequence[Wintered]) -> Losses:
    """The losses of a winter; `key` of a group is its class or the name of its apiary."""
    lost = [one for one in colonies if one.is_lost]
    examined = [one for one in lost if one.cause is not None]
    avoidable = sum(one.was_avoidable is True for one in examined)
    low, high = share_interval(avoidable, len(examined)) if examined else (None, None)
    return Losses(
        whole=loss_group("", colonies),
        by_treatment=_grouped(colonies, lambda one: one.treated, ("in_time", "late", "none", "not_known")),
        by_size=_grouped(colonies, lambda one: size_going_in(one.frames), ("small", "usual", "large", "not_known")),
        by_apiary=sorted(
            _grouped(colonies, lambda one: one.apiary, sorted({one.apiary for one in colonies})),
            key=lambda one: (-one.lost, -(one.share or 0), one.key),
        ),
        by_cause=_by_cause(examined),
        examined=len(examined),
        avoidable=avoidable,
        avoidable_low=low,
        avoidable_high=high,
    )


def _grouped(colonies: Sequence[Wintered], key: Callable[[Wintered], str], order: Sequence[str]) -> list[LossGroup]:
    members: dict[str, list[Wintered]] = {}
    for one in colonies:
        members.setdefault(key(one), []).append(one)
    return [loss_group(name, members[name]) for name in order if name in members]


def _by_cause(examined: Sequence[Wintered]) -> list[CauseShare]:
    counts: dict[str, int] = {}
    for one in examined:
        if one.cause is not None:
            counts[one.cause] = counts.get(one.cause, 0) + 1
    found = []
    for cause, lost in counts.items():
        low, high = share_interval(lost, len(examined))
        found.append(CauseShare(cause, lost, lost / len(examined), low, high))
    return sorted(found, key=lambda one: (-one.lost, one.cause))


def loss_group(key: str, colonies: Sequence[Wintered]) -> LossGroup:
    """The loss of a group of colonies."""
    of, lost = len(colonies), sum(one.is_lost for one in colonies)
    apiaries: dict[str, list[bool]] = {}
    for one in colonies:
        apiaries.setdefault(one.apiary, []).append(one.is_lost)
    factor = clustering(list(apiaries.values()))
    if not of:
        return LossGroup(key, 0, 0, None, None, None, 0, factor)
    low, high = share_interval(lost, of, factor)
    return LossGroup(key, of, lost, lost / of, low, high, len(apiaries), factor)


def clustering(apiaries: Sequence[Sequence[bool]]) -> float:
    """The overdispersion of losses between apiaries: Pearson's chi squared over its freedom, at least 1."""
    of = sum(map(len, apiaries))
    lost = sum(map(sum, apiaries))
    if len(apiaries) < 2 or lost in (0, of):
        return 1.0
    share = lost / of
    chi = sum((sum(one) - len(one) * share) ** 2 / (len(one) * share * (1 - share)) for one in apiaries)
    return max(1.0, chi / (len(apiaries) - 1))


def share_interval(hits: int, of: int, factor: float = 1.0) -> tuple[float, float]:
    """The 95 % interval of a share by Jeffreys' prior, on as many colonies as the clustering leaves of them."""
    yes, no = hits / factor, (of - hits) / factor
    tail = (1 - LEVEL) / 2
    low = 0.0 if hits == 0 else float(special.betaincinv(yes + 0.5, no + 0.5, tail))
    high = 1.0 if hits == of else float(special.betaincinv(yes + 0.5, no + 0.5, 1 - tail))
    return low, high
