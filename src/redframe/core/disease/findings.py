"""What was seen of each sign, read by its scale: present to an extent, absent at an effort, or not examined.

A sign that nobody looked for says nothing. Numbers are read by the scale of the sign (docs/methods/brood-diagnosis.md).
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from redframe.core.disease.settings import Effort
from redframe.core.disease.signs import Extent, Scale, signs
from redframe.core.errors import InvalidInput

Value = Literal["absent", "few", "some", "many"] | float
ROPY_MM, SHORT_MM = 20.0, 10.0
"""From how many millimetres a thread is ropy, and from how many it is one at all."""
NOT_ENTERED = "ropy_short"
"""A row of the matrix that stands for a short thread; nobody enters it."""
COUNTED = "mite_count_high"
"""A finding that follows from the count of a colony; nobody enters it at a visit."""


@dataclass(frozen=True, slots=True)
class SignSeen:
    """A sign as it was entered; `value` None where it was not `examined`."""

    sign: str
    examined: bool
    value: Value | None
    effort: Effort = "standard"


@dataclass(frozen=True, slots=True)
class Finding:
    """A sign of the matrix that was examined: the extent to which it is there (None: absent), at which effort."""

    sign: str
    extent: Extent | None
    effort: Effort

    @property
    def present(self) -> bool:
        """Whether it was seen."""
        return self.extent is not None


Findings = Mapping[str, Finding]
Steps = Sequence[tuple[float, Extent]]
"""Extents by the least value that has them, the greatest first; below all of them a sign is absent."""
COUNT: Steps = ((50.0001, "many"), (5.0001, "some"), (1.0, "few"))
STEPS: Mapping[Scale, Steps] = {
    "cells": ((100.0001, "many"), (10.0001, "some"), (1.0, "few")),
    "bees": COUNT,
    "number": COUNT,
    "per_5_min": COUNT,
    "extent": ((1000.0001, "many"), (100.0, "some"), (1.0, "few")),
    "percent": ((40.0001, "many"), (25.0001, "some"), (15.0, "few")),
    "grade_2": ((2.0, "many"), (1.0, "some")),
    "grade_3": ((3.0, "many"), (2.0, "some"), (1.0, "few")),
    "tenths": ((5.0001, "many"), (2.0001, "some"), (0.0001, "few")),
    "dm2": ((3.0001, "many"), (1.0, "some"), (0.0001, "few")),
    "per_100_cells": ((15.0001, "many"), (5.0, "some"), (0.0001, "few")),
}
ANY: Steps = ((0.0001, "some"),)
OWN_STEPS: Mapping[str, Steps] = {
    **dict.fromkeys(
        ("qc_emergency", "qc_supersedure", "qc_swarm", "qc_emerged"), ((10.0001, "many"), (4.0, "some"), (1.0, "few"))
    ),
    "nosema_micro": ((1_000_000.0, "some"),),
    "testframe_cells": ((1.0, "some"),),
}
"""Signs whose numbers are read otherwise than their scale says."""
BELOW: Mapping[str, float] = {"low_pollen": 1.0, "stores_nil": 1.0}
"""Signs that are there where less than so much was seen (dm2 of pollen, kg of stores)."""


def read_findings(seen: Sequence[SignSeen]) -> dict[str, Finding]:
    """What was examined of a living colony, by the rows of the matrix, whatever the order of entry.

    Raises InvalidInput naming the entry for a sign that is none or stands twice, and for a value that cannot be.
    """
    return read_seen(seen, signs().keys() - {NOT_ENTERED}, _by_number)


def read_seen(
    seen: Sequence[SignSeen], known: Collection[str], by_number: Callable[[SignSeen, float], Finding]
) -> dict[str, Finding]:
    """What was examined of signs of a vocabulary, numbers read by `by_number`. Raises InvalidInput as above."""
    found: dict[str, Finding] = {}
    named: set[str] = set()
    for number, one in enumerate(seen):
        at = f"signs[{number}]"
        if one.sign not in known:
            raise InvalidInput(f"{at}.sign", "is not a sign", code="unknown")
        if one.sign in named:
            raise InvalidInput(f"{at}.sign", "stands twice", code="refused")
        named.add(one.sign)
        if not one.examined:
            if one.value is not None:
                raise InvalidInput(f"{at}.value", "was not examined", code="refused")
            continue
        finding = _read(one, at, by_number)
        found[finding.sign] = finding
    return {name: found[name] for name in sorted(found)}


def _read(one: SignSeen, at: str, by_number: Callable[[SignSeen, float], Finding]) -> Finding:
    if one.value is None:
        raise InvalidInput(f"{at}.value", "say what was seen", code="missing")
    if isinstance(one.value, str):
        return Finding(one.sign, None if one.value == "absent" else one.value, one.effort)
    if one.value < 0:
        raise InvalidInput(f"{at}.value", "must not be below 0", code="out_of_range")
    return by_number(one, one.value)


def by_steps(one: SignSeen, value: float, steps: Steps) -> Finding:
    """A number read by the steps of a scale."""
    return Finding(one.sign, next((name for least, name in steps if value >= least), None), one.effort)


def _by_number(one: SignSeen, value: float) -> Finding:
    if one.sign == "ropy_thread":
        # A short thread is weighed by its own row; the test as such was done.
        if SHORT_MM <= value < ROPY_MM:
            return Finding(NOT_ENTERED, "some", one.effort)
        return Finding(one.sign, "some" if value >= ROPY_MM else None, one.effort)
    if one.sign in BELOW:
        return Finding(one.sign, "some" if value < BELOW[one.sign] else None, one.effort)
    scale = signs()[one.sign].scale
    return by_steps(one, value, OWN_STEPS.get(one.sign) or STEPS.get(scale, ANY))
