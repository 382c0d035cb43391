"""Options for many colonies say what they say for each alone, whatever else was asked before."""

from __future__ import annotations

import random
import unittest
from datetime import date, timedelta
from typing import Any, get_args

from redframe.core.errors import InvalidInput
from redframe.core.season.calendar import TreatmentSeason
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.days import option_days
from redframe.core.treatments.eligibility import choice_of, choose, suit
from redframe.core.treatments.many import ManyColonies
from redframe.core.treatments.rules import RULES
from redframe.core.treatments.situation import Situation

TODAY = date(2031, 8, 2)
CATALOGUE = default_catalogue()


def ago(chance: random.Random, *days: int) -> str | None:
    """One of some days before today, or none."""
    return chance.choice([None, *(str(TODAY - timedelta(days=one)) for one in days)])


def ahead(chance: random.Random, *days: int) -> str | None:
    """One of some days from today on, or none."""
    return ago(chance, *(-one for one in days))


def situation(chance: random.Random) -> Situation:
    """Colonies that often agree in one thing and seldom in all: every fact is one of a few."""
    options = [one.id for one in CATALOGUE.options]
    treated = [
        {"option": chance.choice(options[::4]), "start": str(TODAY - timedelta(days=begun)), "end": chance.choice([None, str(TODAY - timedelta(days=begun - 8))]),
         "due_out": ahead(chance, 5), "outcome": chance.choice([None, "worked", "failed"])}
        for begun in chance.sample([10, 30, 200], chance.randint(0, 2))
    ]  # fmt: skip
    colony: dict[str, Any] = {
        "strength": chance.choice([None, {"value": chance.choice([1.0, 5.0, 12.0]), "unit": chance.choice(["frames", "seams"])}]),
        "brood_boxes": chance.choice([1, 3]), "capped_worker_brood": chance.choice(["yes", "no", "unknown"]),
        "brood_seen_on": ago(chance, 2, 20), "brood_by_calendar": chance.choice([True, False]), "brood_event": chance.choice([None, {"type": "caging", "date": str(TODAY - timedelta(days=9))}]),
        "queen": chance.choice(["mated", "virgin", "caged", "queenless", "unknown"]), "queen_since": ago(chance, 5),
        "laying_since": ago(chance, 3, 90), "release_on": ahead(chance, 9), "eggs_seen_on": ago(chance, 1, 6),
        "supers_on": chance.choice([True, False, None]), "supers_off_by": ahead(chance, 4),
        "fed": chance.choice([True, False, None]), "fed_until": ahead(chance, 6), "last_treatments": treated,
        "infestation_pct": chance.choice([None, 0.4, 2.5, 8.0]), "counted_on": ago(chance, 3, 25, 50),
        "holds": chance.choice([[], [], [{"kind": "notifiable", "until": ahead(chance, 12)}], [{"kind": "other"}]]),
    }  # fmt: skip
    warm = chance.choice([9.0, 19.0, 27.0, 34.0])
    weather = {
        "start": str(TODAY),
        "tmax": [warm] * 6 + [22.0] * 4,
        "tmin": [5.0] * 10,
        "rain_mm": [0.0] * 3 + [9.0] * 7,
    }
    policy = chance.choice([
        {"winter_bee_date": "2031-08-25", "cold_date": "2031-09-20", "feed_start_by": "2031-08-20", "threshold_pct": 2.0},
        {"authorised": options[:6], "excluded_groups": ["THYM"], "trickle_repeat": True, "strict_rotation": True, "treatment_year_start": "07-01"},
        {"respirator_ok": True, "allow_oxalic_with_brood": True, "approach": "calendar", "planned_supers_on": "2031-08-30"},
    ])  # fmt: skip
    return Situation.model_validate(
        {"today": str(TODAY), "season_phase": chance.choice(get_args(TreatmentSeason)), "colony": colony,
         "forecast": chance.choice([None, weather]), "policy": policy}
    )  # fmt: skip


class ManyColoniesAtOnce(unittest.TestCase):
    def test_every_field_is_that_of_the_colony_alone(self) -> None:
        """Verdicts, days, reasons, doses, ranking; and rules are asked far less often than there are colonies."""
        chance, many = random.Random(4), ManyColonies(CATALOGUE)
        for number in range(500):
            now = situation(chance)
            self.assertEqual(choice_of(many.suit(now)), choose(CATALOGUE, now), number)
        self.assertLess(many.asked, 500 * len(RULES) / 2)

    def test_days_of_an_apiary_are_those_of_its_colonies(self) -> None:
        """Ready and asking colonies of each day, counted one by one."""
        chance, judge = random.Random(8), ManyColonies(CATALOGUE)
        judge.suit(situation(chance))
        some = CATALOGUE.options[::-2]
        fewer = judge.among(some)
        colonies = [situation(chance) for _ in range(12)]
        days = [[one.model_copy(update={"today": TODAY + timedelta(days=day)}) for one in colonies] for day in range(3)]
        grid = option_days([fewer.suit(one) for one in colonies] for colonies in days)
        self.assertEqual({one.option_id for one in grid}, {one.id for one in some})
        for found in grid:
            for day, judged in zip(found.days, days, strict=True):
                alone = [suit(CATALOGUE.option(found.option_id), CATALOGUE, one) for one in judged]
                self.assertEqual(day.ready, sum(one.verdict.startswith("allowed") for one in alone))

    def test_an_option_unknown_to_the_catalogue_is_named(self) -> None:
        """Every time that it is asked, not only the first."""
        chance, many = random.Random(1), ManyColonies(CATALOGUE)
        now = situation(chance)
        past = [{"option": "SMOKE", "start": "2031-01-01"}]
        bad = Situation.model_validate(
            {**now.model_dump(), "colony": {**now.colony.model_dump(), "last_treatments": past}}
        )
        for _ in range(2):
            with self.assertRaises(InvalidInput) as refused:
                many.suit(bad)
            self.assertEqual(refused.exception.field, "colony.last_treatments[0].option")
