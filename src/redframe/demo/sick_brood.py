"""Brood disease in the demo: a suspicion, chalkbrood that falls off or grows, sacbrood that passes; how combs are read.

Where brood is sick the bees are shaken off every comb; elsewhere they are mostly moved to one side. What was not seen
is recorded too.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from redframe.core.disease.groups import GroupId, groups
from redframe.core.visits.examination import Examination
from redframe.core.visits.record import FrameRecord

OnTwoCombs = tuple[Sequence[Mapping[str, Any]], Sequence[Mapping[str, Any]]]
"""Signs on the two middle combs of the lowest box."""
NONE: OnTwoCombs = ((), ())
SUSPECT_COLONY = ("Saltby Rise", "R2")
SUSPECT_FROM = date(2031, 7, 20)
GREASY = {"sign": "cap_greasy", "extent": "few", "side": "a"}
TORN = {"sign": "cap_perforated", "extent": "few", "side": "a"}
SUSPECT: OnTwoCombs = (
    ({"sign": "cap_sunken", "extent": "some", "side": "a"}, GREASY, TORN),
    ({"sign": "cap_sunken", "extent": "few", "side": "a"}, TORN),
)
"""A suspected foulbrood: nobody has opened a cell yet."""


def _mummies(first: int, second: int) -> OnTwoCombs:
    return ([{"sign": "mummy_white", "number": first}], [{"sign": "mummy_white", "number": second}] if second else [])


def _sacs(sacs: int, slippers: int) -> OnTwoCombs:
    return (
        [{"sign": "larva_sac", "number": sacs}],
        [{"sign": "larva_slipper", "number": slippers}] if slippers else [],
    )


CASES: Mapping[tuple[str, str], Sequence[tuple[date, OnTwoCombs]]] = {
    SUSPECT_COLONY: ((SUSPECT_FROM, SUSPECT),),
    ("Whin Moor", "W5"): (
        (date(2031, 6, 1), _mummies(60, 35)),
        (date(2031, 6, 28), _mummies(14, 6)),
        (date(2031, 7, 19), _mummies(3, 0)),
    ),
    ("Cairn Yard", "C2"): (
        (date(2031, 6, 1), _mummies(8, 0)),
        (date(2031, 7, 1), _mummies(40, 18)),
        (date(2031, 7, 20), _mummies(12, 0)),
    ),
    ("Plover Hay", "P2"): (
        (date(2031, 6, 1), _sacs(9, 5)),
        (date(2031, 6, 28), _sacs(2, 0)),
        (date(2031, 7, 19), NONE),
    ),
}
"""Sick colonies: what is on the two combs from a day on."""
SHAKEN = frozenset(apiary for apiary, _ in CASES)


def signs_on(apiary: str, label: str, day: date) -> OnTwoCombs:
    """The signs of sick brood in a colony on a day."""
    begun = [seen for since, seen in CASES.get((apiary, label), ()) if since <= day]
    return begun[-1] if begun else NONE


def examined(apiary: str, records: Sequence[FrameRecord]) -> Examination:
    """How these combs were examined, and what was not seen on them."""
    brood = sum(one.tenths_of_brood > 0 for one in records)
    seen = {sign.sign for one in records for sign in one.signs}
    shaken = apiary in SHAKEN and not seen & {"cap_sunken"}
    looked: dict[str, Any] = {"brood_combs": brood, "combs_read": brood, "bees_off": "shaken" if shaken else "moved"}
    if shaken:
        looked |= {"scale_read": True, "smelled": True, "cells_opened": 10, "bees_looked_at": 100}
    not_seen: list[GroupId] = [
        name
        for name, group in groups().items()
        if not seen & set(group.signs) and (group.looked_at == "combs" or shaken)
    ]
    return Examination.model_validate({**looked, "not_seen": not_seen if brood else []})
