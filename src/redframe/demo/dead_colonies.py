"""Colonies that died in the demo's last winter: what was found of each, what was excluded, where the combs went.

One of mites that was robbed afterwards, one of mites alone, one that lost its queen, one that was cut off from its
food, one of which nobody can say, and one that nobody has opened yet.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any

from redframe.core.deadouts.fates import FateId
from redframe.core.deadouts.record import CombLooked, DeadSeen, DeadStepRecord
from redframe.core.deadouts.signs import DeadStep
from redframe.demo.acting import People
from redframe.demo.scenario import CORRANE, made_id
from redframe.work.deadouts import exclusion, fates, record
from redframe.work.deadouts.exclusion import WantedExclusion
from redframe.work.deadouts.fates import Item
from redframe.work.deadouts.read import DeadOutView
from redframe.work.deadouts.record import NewDeadOut
from redframe.work.unit_of_work import UnitOfWork

Seen = Mapping[str, Any]


@dataclass(frozen=True, slots=True)
class Story:
    """A dead colony: when it was found, what was found at each step, what was seen on its combs from the first on, and
    how many of them were read (None: all)."""

    apiary: str
    label: str
    found_on: date
    steps: Mapping[DeadStep, Seen]
    combs: Sequence[Seen] = ()
    combs_read: int | None = None

    @property
    def key(self) -> tuple[str, str]:
        """Its apiary and label."""
        return self.apiary, self.label


SHUT: Seen = {"is_shut": True, "sure_by": ["opened", "tap"]}
ROBBED = Story(
    "Cairn Yard", "C3", date(2030, 12, 3),
    {
        "shut": SHUT,
        "outside": {
            "signs": {"d_rob_ragged": 2, "d_wasps_seen": "absent", "d_outside_pile": "absent"},
            "robbing_seen_on": "2030-11-30",
        },
        "floor": {"signs": {"d_floor_many": 120, "d_mites_floor": 260, "d_wax_bits_floor": 2}},
        "lid": {"signs": {"d_lid_drip": 0}},
        "cluster": {"signs": {"d_bees_gone": "some", "d_wet_cluster": 0, "d_mould": 0}},
        "queen": {"bees_left": 120},
        "stores": {"stores_place": "far", "signs": {"d_stores_plenty": 1.5}},
        "brood": {"youngest": "capped", "signs": {"d_capped_patch_normal": "absent"}},
        "cells": {
            "cells_opened": 12,
            "signs": {"d_brood_perforated": 35, "d_ropy": 0, "d_sunken_greasy": "absent", "d_emerging_dead": 8},
        },
        "wash": {"wash_bees": 100, "wash_mites": 19, "signs": {"d_dwv": 6}},
    },
    ({"d_guanine": 150}, {"d_guanine": 80}),
)  # fmt: skip
MITES = Story(
    "Thrift Point", "J4", date(2030, 11, 10),
    {
        "shut": SHUT,
        "outside": {"signs": {"d_rob_ragged": 0, "d_outside_pile": "absent"}},
        "floor": {"signs": {"d_floor_many": 200, "d_mites_floor": 90}},
        "cluster": {"signs": {"d_cluster_fist": "some", "d_wet_cluster": 0}, "bees_look": "soft", "seams": 1.5},
        "stores": {"stores_place": "touching", "signs": {"d_stores_plenty": 12}},
        "brood": {"youngest": "capped"},
        "wash": {"wash_bees": 220, "wash_mites": 33},
    },
    ({"d_guanine": 60, "d_brood_perforated": 20},), combs_read=6,
)  # fmt: skip
QUEEN = Story(
    "Orrin Quay", "Q4", date(2030, 11, 5),
    {
        "shut": SHUT,
        "floor": {"signs": {"d_floor_many": 150, "d_mites_floor": 4}},
        "cluster": {"signs": {"d_cluster_fist": "some", "d_bees_gone": "absent"}, "bees_look": "soft"},
        "queen": {"bees_left": 700, "signs": {"d_queen_absent": "some", "d_drone_winter": "some"}},
        "stores": {"stores_place": "touching", "signs": {"d_stores_plenty": 14}},
        "brood": {
            "youngest": "none", "drone_brood": "emerged", "queen_cells": "opened",
            "signs": {
                "d_bullet": "some", "d_qcells_old": "some", "d_eggs_multiple": "absent", "d_no_brood_ever": "absent",
            },
        },
        "wash": {"wash_bees": 300, "wash_mites": 2, "signs": {"d_dwv": "absent"}},
        "cells": {
            "cells_opened": 10,
            "signs": {"d_brood_perforated": "absent", "d_sunken_greasy": "absent", "d_emerging_dead": "absent"},
        },
    },
)  # fmt: skip
CUT_OFF = Story(
    "Mell Fold", "M5", date(2030, 11, 10),
    {
        "shut": SHUT,
        "outside": {"signs": {"d_rob_ragged": 0, "d_outside_pile": "absent", "d_blocked_or_flood": "absent"}},
        "floor": {"signs": {"d_floor_many": 80, "d_mites_floor": 3}},
        "cluster": {"signs": {"d_cluster_fist": "some"}, "bees_look": "dry", "seams": 1.0},
        "heads": {"signs": {"d_heads_in_cells": 90, "d_tongues_out": "absent"}},
        "stores": {"stores_place": "far", "signs": {"d_stores_plenty": 9}},
        "brood": {"youngest": "none", "signs": {"d_bullet": "absent", "d_qcells_old": "absent"}},
        "wash": {"wash_bees": 180, "wash_mites": 1},
        "record": {"signs": {"d_cold_spell": "some"}, "medicines_declared": True, "medicines": "thymol gel, August"},
    },
)  # fmt: skip
UNKNOWN = Story(
    "Saltby Rise", "R3", date(2030, 11, 10),
    {
        "shut": SHUT,
        "floor": {"signs": {"d_floor_many": 400}},
        "cluster": {"signs": {"d_mould": 2}, "bees_look": "dry"},
        "stores": {"signs": {"d_stores_plenty": 6}},
    },
    combs_read=2,
)  # fmt: skip
STORIES = (QUEEN, MITES, CUT_OFF, UNKNOWN, ROBBED)


async def dead_colonies(people: People) -> None:
    """Examine them, clear those whose combs were all read, and send what they left where it goes."""
    for story in STORIES:
        await _examined(people, story)
    for story in (QUEEN, CUT_OFF, ROBBED):
        await _cleared(people, story)
    await _sent(people, ROBBED, "freeze", combs=8, carried_out=True)
    await _sent(people, ROBBED, "melt", combs=2, reason="black, five years old", carried_out=True)
    await _sent(people, CUT_OFF, "freeze", combs=6)


async def _examined(people: People, story: Story) -> None:
    deadout = made_id("deadout", *story.key)
    colony = made_id(CORRANE.key, *story.key)

    async def walked(unit: UnitOfWork) -> None:
        new = NewDeadOut(deadout, colony, story.found_on, "dead", _morning(story.found_on))
        view = await record.open_deadout(unit, new)
        for step, seen in story.steps.items():
            await record.save_step(unit, deadout, step, 0, _record(seen))
        await record.save_step(unit, deadout, "combs", 0, _combs(view, story))
        await record.close_deadout(unit, deadout)

    await people.act(people.mentor, _morning(story.found_on), walked)


def _record(seen: Seen) -> DeadStepRecord:
    signs = [{"sign": sign, "value": value} for sign, value in seen.get("signs", {}).items()]
    return DeadStepRecord.model_validate({**seen, "signs": signs, "is_done": True})


def _combs(view: DeadOutView, story: Story) -> DeadStepRecord:
    read = view.place.combs[: story.combs_read]
    looked = []
    for at, comb in enumerate(read):
        seen = story.combs[at] if at < len(story.combs) else {}
        signs = [DeadSeen(sign=sign, value=value) for sign, value in seen.items()]
        looked.append(CombLooked(box_id=comb.box_id, slot=comb.slot, signs=signs))
    return DeadStepRecord(is_done=True, combs=looked)


async def _cleared(people: People, story: Story) -> None:
    on = story.found_on + timedelta(days=1)
    wanted = WantedExclusion(
        made_id("exclusion", *story.key), "examination", on, "", "every comb read in side light, no remains that draw"
    )
    colony = made_id(CORRANE.key, *story.key)
    await people.act(people.mentor, _morning(on), lambda unit: exclusion.exclude_foulbrood(unit, colony, wanted))


async def _sent(
    people: People, story: Story, fate: FateId, *, combs: int, reason: str = "", carried_out: bool = False
) -> None:
    """Send combs that nothing was decided of where they go."""
    on = story.found_on + timedelta(days=2)
    colony = made_id(CORRANE.key, *story.key)

    async def sent(unit: UnitOfWork) -> None:
        view = await fates.fates_view(unit, colony)
        waiting = [one for one in view.items if one.frame_id is not None and one.fate == "hold" and one.is_there]
        items = [Item(one.box_id, one.frame_id) for one in waiting[:combs]]
        await fates.decide_fates(unit, colony, items, fate, reason or "the keeper has a freezer")
        if carried_out:
            await fates.carry_out(unit, colony, fate, on)

    await people.act(people.mentor, _morning(on), sent)


def _morning(on: date) -> datetime:
    return datetime(on.year, on.month, on.day, 10, tzinfo=UTC)
