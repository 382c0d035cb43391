"""The autumn programme of a colony: treat, feed, weigh, close down, as dates that move with what was done.

Stores as they were last judged, what was fed since and what was eaten give what is lacking; the courses that bar
feeding give the days on which it may be fed; the cold gives the day by which it must be over. See
docs/methods/feeding.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil
from typing import Literal

from redframe.core.feeding.stores import BEFORE_COLD_DAYS, BEFORE_CRYSTALS_DAYS, is_small, winter_target
from redframe.core.feeding.syrup import LOSS, Ratio, litres_of, stored, sugar_for
from redframe.core.said import Params
from redframe.core.season.calendar import TreatmentSeason
from redframe.core.visits.record import Feed, StoresKind

RATIO: Ratio = "2:1"
"""What is fed for the winter."""
SYRUPS: dict[Feed, Ratio] = {"syrup_1_1": "1:1", "syrup_2_1": "2:1"}
EATEN_KG_A_DAY: dict[TreatmentSeason, float] = {
    "winter_cluster": 0.03, "spring_build": 0.15, "swarm": 0.2, "flow": 0.2, "post_harvest": 0.08, "autumn": 0.06,
}  # fmt: skip
"""What a colony of ten frames of bees eats of its stores a day (defaults from practice); others by their bees."""
FRAMES_OF_THAT = 10.0
TIGHT_DAYS = 5
WEIGH_AFTER_DAYS = 5
CLOSE_BEFORE_COLD_DAYS = 14
ENOUGH_KG = 0.5
LEAST_ROUND_L = 1.0
"""For less nobody opens a hive."""
FONDANT_UP_TO_KG = 5.0

ProgrammeWord = Literal["enough", "on_time", "tight", "too_late", "not_known"]
ProgrammeCode = Literal[
    "course_bars_feed", "supers_first", "supers_not_recorded", "amount_not_recorded", "stores_old", "ends_late",
    "cold_not_known", "part_set_hard", "part_ferments",
]  # fmt: skip
STORES_OLD_DAYS = 28
Instead = Literal["fondant", "combs_of_stores", "unite", "option_that_bears_feed"]


@dataclass(frozen=True, slots=True)
class StoresSeen:
    """Stores as they were judged on a day, in kg, with how far the figure may be off (share of it, one standard
    deviation), and what part of them is."""

    on: date
    kg: float
    spread: float
    kinds: Sequence[StoresKind] = ()


@dataclass(frozen=True, slots=True)
class Fed:
    """A round that was given: litres of syrup, kilograms of anything else (None: nobody said)."""

    on: date
    feed: Feed
    amount: float | None


@dataclass(frozen=True, slots=True)
class Barred:
    """Days, both included, on which a course bars feed from the hive."""

    first: date
    last: date
    option: str


@dataclass(frozen=True, slots=True)
class FeedingRules:
    """What a place aims at: stores in kg, what a feeder holds and how much is taken a day in litres; when the cold
    comes, and forage that sets hard in the comb (None: not known)."""

    target_kg: float
    feeder_l: float
    rate_l_day: float
    cold: date | None
    crystals: date | None

    @property
    def finish_by(self) -> date | None:
        """The last day on which syrup may still be in the feeder."""
        days = []
        if self.cold is not None:
            days.append(self.cold - timedelta(days=BEFORE_COLD_DAYS))
        if self.crystals is not None:
            days.append(self.crystals - timedelta(days=BEFORE_CRYSTALS_DAYS))
        return min(days, default=None)


@dataclass(frozen=True, slots=True)
class ColonyFood:
    """What is known of a colony's food: its bees, stores, what was fed since a while, what bars feed, supers on it
    (None: not recorded)."""

    frames: float | None
    stores: StoresSeen | None
    fed: Sequence[Fed]
    barred: Sequence[Barred]
    supers_on: bool | None


@dataclass(frozen=True, slots=True)
class Round:
    """A round of syrup to give on a day, taken in so many days."""

    on: date
    litres: float
    days: int


@dataclass(frozen=True, slots=True)
class ProgrammeSaid:
    """What bears on the dates."""

    code: ProgrammeCode
    params: Params


@dataclass(frozen=True, slots=True)
class Programme:
    """The autumn of a colony. Kilograms and litres; None where stores or the cold are not known. `fed_kg`: stores that
    came of what was fed since they were judged, `eaten_kg` what was eaten since; `days_left`: so long what is there
    lasts as it is eaten now. `begin_by`: the last day on which the first round may be given, with feeders one after the
    other, for the syrup to be gone by `finish_by`. `instead`: what can be done where syrup would come too late."""

    word: ProgrammeWord
    target_kg: float
    stores_kg: float | None
    low_kg: float | None
    high_kg: float | None
    fed_kg: float
    eaten_kg: float
    days_left: int | None
    lacks_kg: float | None
    sugar_kg: float | None
    syrup_l: float | None
    rounds: Sequence[Round]
    ends_on: date | None
    begin_by: date | None
    finish_by: date | None
    weigh_on: date | None
    close_on: date | None
    because: Sequence[ProgrammeSaid]
    instead: Sequence[Instead]


def programme(colony: ColonyFood, rules: FeedingRules, season: TreatmentSeason, today: date) -> Programme:
    """The autumn of a colony from today on."""
    small = is_small(colony.frames)
    target = winter_target(rules.target_kg, colony.frames)
    a_day = EATEN_KG_A_DAY[season] * (colony.frames or FRAMES_OF_THAT) / FRAMES_OF_THAT
    because: list[ProgrammeSaid] = []
    finish = rules.finish_by
    if finish is None:
        because.append(ProgrammeSaid("cold_not_known", {}))
    if colony.stores is None:
        return Programme(
            "not_known", target, None, None, None, 0.0, 0.0, None, None, None, None, (), None, None, finish, today,
            None, because, (),
        )  # fmt: skip
    since = colony.stores.on
    given = sum(_stored(one) for one in colony.fed if since <= one.on <= today)
    eaten = min(colony.stores.kg + given, a_day * (today - since).days)
    held = colony.stores.kg + given - eaten
    if (today - since).days > STORES_OLD_DAYS:
        because.append(ProgrammeSaid("stores_old", {"on": since}))
    if "fermenting" in colony.stores.kinds:
        because.append(ProgrammeSaid("part_ferments", {"on": since}))
    if "set_hard" in colony.stores.kinds:
        because.append(ProgrammeSaid("part_set_hard", {"on": since}))
    doubt = 1.96 * colony.stores.spread * colony.stores.kg
    lacks = max(0.0, target - held)
    sugar = sugar_for(lacks, RATIO) if lacks > ENOUGH_KG else 0.0
    litres = litres_of(sugar, RATIO)
    unknown = [one.on for one in colony.fed if since <= one.on <= today and one.amount is None and one.feed != "none"]
    if unknown:
        because.append(ProgrammeSaid("amount_not_recorded", {"on": max(unknown)}))
    if sugar and colony.supers_on is not False:
        because.append(ProgrammeSaid("supers_not_recorded" if colony.supers_on is None else "supers_first", {}))
    rounds = _rounds(litres, _next_day(colony.fed, rules, today), colony.barred, rules, because)
    ends = rounds[-1].on + timedelta(days=rounds[-1].days) if rounds else None
    word = _word(ends, finish)
    if word == "too_late" and ends is not None and finish is not None:
        because.append(ProgrammeSaid("ends_late", {"ends": ends, "finish": finish}))
    weigh = (ends or today) + timedelta(days=WEIGH_AFTER_DAYS) if rounds else None
    close = None if rules.cold is None else max(weigh or today, rules.cold - timedelta(days=CLOSE_BEFORE_COLD_DAYS))
    return Programme(
        word, target, held, max(0.0, held - doubt), held + doubt, given, eaten, int(held / a_day) if a_day else None,
        lacks, sugar, litres, rounds, ends, _begin_by(litres, rules), finish, weigh, close, because,
        _instead(word, lacks, colony.barred, small=small),
    )  # fmt: skip


def _next_day(fed: Sequence[Fed], rules: FeedingRules, today: date) -> date:
    """The day on which the feeder is empty again, as it is taken as a rule."""
    taken = [
        one.on + timedelta(days=ceil(one.amount / rules.rate_l_day - 1e-9))
        for one in fed
        if one.feed in SYRUPS and one.amount is not None and one.on <= today
    ]
    return max([today, *taken])


def _stored(fed: Fed) -> float:
    """Kilograms of ripe stores that come of a round; of one whose amount nobody said, none."""
    if fed.amount is None or fed.feed == "none":
        return 0.0
    ratio = SYRUPS.get(fed.feed)
    if ratio is None:
        return stored(fed.amount, LOSS[RATIO]) if fed.feed == "fondant" else 0.0
    return stored(fed.amount / litres_of(1.0, ratio), LOSS[ratio])


def _rounds(
    litres: float, start: date, barred: Sequence[Barred], rules: FeedingRules, because: list[ProgrammeSaid]
) -> list[Round]:
    """Feeders one after the other, each when the one before is empty. None while a course that bars feed is in the
    hive; before one, no more than is taken until then."""
    found: list[Round] = []
    left, day = litres, start
    while left > 1e-9:
        barring = next((one for one in sorted(barred, key=lambda one: one.first) if day <= one.last), None)
        amount = min(left, rules.feeder_l)
        if barring is not None:
            before = max(0, (barring.first - day).days) * rules.rate_l_day
            if amount > before:
                said = ProgrammeSaid("course_bars_feed", {"option": barring.option, "until": barring.last})
                if said not in because:
                    because.append(said)
                if before < LEAST_ROUND_L:
                    day = barring.last + timedelta(days=1)
                    continue
                amount = before
        days = max(1, ceil(amount / rules.rate_l_day - 1e-9))
        found.append(Round(day, amount, days))
        left -= amount
        day += timedelta(days=days)
    return found


def _begin_by(litres: float, rules: FeedingRules) -> date | None:
    if not litres or rules.finish_by is None:
        return None
    return rules.finish_by - timedelta(days=ceil(litres / rules.rate_l_day - 1e-9))


def _word(ends: date | None, finish: date | None) -> ProgrammeWord:
    if ends is None:
        return "enough"
    if finish is None or (finish - ends).days > TIGHT_DAYS:
        return "on_time"
    return "too_late" if ends > finish else "tight"


def _instead(word: ProgrammeWord, lacks: float, barred: Sequence[Barred], *, small: bool) -> list[Instead]:
    if word not in ("too_late", "tight"):
        return []
    found: list[Instead] = ["option_that_bears_feed"] if barred else []
    if word == "too_late":
        found += ["fondant", "combs_of_stores"] if lacks <= FONDANT_UP_TO_KG else ["combs_of_stores"]
        if small or lacks > FONDANT_UP_TO_KG:
            found.append("unite")
    return found
