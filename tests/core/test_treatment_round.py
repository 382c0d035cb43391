"""The round of a day: which steps it asks for, what to take along and from which lots."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from uuid import UUID

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.stock.balance import Available, Need
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.progress import StepProgress, steps_on
from redframe.core.treatments.round import AtHive, is_due, steps_of_day, take_along, waits_for_weather
from redframe.core.treatments.weather import Forecast
from tests.core.test_course_progress import START, Act, acts, day, plan

PLACE, KEEPER, OTHER = UUID(int=9), UUID(int=10), UUID(int=11)
MILD, HOT = 20.0, 34.0


def forecast(*warmest: float) -> Forecast:
    """Dry days from the planned start on."""
    return Forecast(START, list(warmest), [10.0] * len(warmest), [0.0] * len(warmest))


def steps(option: str, done: list[Act], on: int, weather: Forecast | None = None) -> list[StepProgress]:
    """The steps of a course on a day counted from its start."""
    state = "under_way" if any(act.step == "place_1" for act in done) else "planned"
    return steps_on(plan(option), state, done, {}, weather, today=day(on))[0]


def names(option: str, done: list[Act], on: int, weather: Forecast | None = None) -> list[str]:
    """What a day asks for."""
    found = steps_of_day(default_catalogue().option(option), steps(option, done, on, weather), day(on))
    return [step.name for step in found]


def hive(option: str, quantity: float, done: list[Act], on: int, keeper: UUID = KEEPER) -> AtHive:
    """A hive at its steps of a day."""
    one = default_catalogue().option(option)
    need = Need(option, day(on), day(on + 7), quantity, PLACE, keeper)
    return AtHive(one, steps_of_day(one, steps(option, done, on), day(on)), quantity, need)


class StepsOfADay(unittest.TestCase):
    def test_first_dose(self) -> None:
        """On the day of the first dose all that goes before it is done on the same round; days before, only what may."""
        first = ["prepare", "close_supers_feeder", "place_1"]
        self.assertEqual(names("FA_STRIP11", [], 0, forecast(*[MILD] * 12)), first)
        self.assertEqual(names("FA_STRIP11", [], -2, forecast(*[MILD] * 12)), first[:2])
        self.assertEqual(names("FA_STRIP11", [], -10), first[:1])

    def test_weather(self) -> None:
        """A dose that is forbidden today is not asked for; it is said to wait, late as it may be."""
        done = acts(prepare=-3, close_supers_feeder=-1, place_1=0)
        hot = forecast(*[HOT] * 30)
        for on in (7, 20):
            with self.subTest(on=on):
                self.assertNotIn("place_2", names("FA_STRIP11", done, on, hot))
                self.assertTrue(waits_for_weather(steps("FA_STRIP11", done, on, hot)))
        self.assertIn("place_2", names("FA_STRIP11", done, 7, forecast(*[MILD] * 30)))
        self.assertFalse(waits_for_weather(steps("FA_STRIP11", done, 3, forecast(*[MILD] * 30))))

    def test_may_wait(self) -> None:
        """Strips that may come out from day 42 are best out on day 49: until then they may wait."""
        done = acts(prepare=-3, close_supers_feeder=-1, place_1=0, interim_check=21)
        for on, asked in ((41, []), (42, ["remove"]), (49, ["remove", "dispose"])):
            found = steps_of_day(default_catalogue().option("AMZ_STRIP"), steps("AMZ_STRIP", done, on), day(on))
            with self.subTest(on=on):
                self.assertEqual([step.name for step in found], asked)
                self.assertEqual(is_due(found, day(on)), on == 49)

    def test_nothing_to_record(self) -> None:
        """A trickle ends with its dose: nobody is asked for that end."""
        self.assertNotIn("end", names("OX_TRICKLE", acts(prepare=-3, close_supers_feeder=-1, place_1=0), 0))


class TakenAlong(unittest.TestCase):
    def test_out_of_the_hive(self) -> None:
        """What is exchanged or taken out is carried off; what is placed first takes nothing's place."""
        first = take_along([hive("THY_GEL", 50, [], 0)], [])
        self.assertEqual((len(first.doses), first.out), (1, []))
        done = acts(prepare=-3, close_supers_feeder=-1, place_1=0)
        second = take_along([hive("THY_GEL", 50, done, 14), hive("THY_GEL", 25, done, 14)], [])
        self.assertEqual([(one.quantity, one.hives) for one in second.out], [(75, 2)])
        self.assertEqual(second.doses[0].lacking, 75)
        self.assertIn("gloves", second.wear)

    def test_kit_for_work_at_the_hive(self) -> None:
        """Two shaken swarms need each their box and excluder; taking a drone comb out needs no drone comb."""
        found = take_along([hive("SHAKEN", 1, [], 0) for _ in range(2)], [])
        self.assertEqual([(one.hives, "queen excluder" in one.things) for one in found.kit], [(2, True)])
        self.assertEqual(found.doses, [])
        out = take_along([hive("DRONE_TRAP", 1, acts(place_1=0, interim_check=10), 21)], [])
        self.assertEqual((out.kit, out.wear), ([], ["veil and gloves"]))

    @settings(max_examples=80, deadline=None)
    @given(
        doses=st.lists(st.sampled_from([1.0, 2.0, 4.0]), min_size=1, max_size=8),
        lots=st.lists(st.tuples(st.integers(0, 9), st.integers(-5, 60), st.booleans()), max_size=5),
    )
    def test_from_lots(self, doses: list[float], lots: list[tuple[int, int, bool]]) -> None:
        """Lots and what is lacking make up the doses; no lot gives more than it has, what is out of date before the
        strips are out or another keeper's gives nothing, and the first to expire is used up first."""
        stock = [
            Available(
                UUID(int=at), ["FA_STRIP2"], "strip", left, START + timedelta(days=days), OTHER if other else None
            )
            for at, (left, days, other) in enumerate(lots)
        ]
        (found,) = take_along([hive("FA_STRIP2", one, [], 0) for one in doses], stock).doses
        self.assertAlmostEqual(sum(one.quantity for one in found.lots) + found.lacking, sum(doses))
        good = sorted((one for one in stock if one.keeper_id is None and good_for(one)), key=expiry)
        left = sum(doses)
        for lot in good:
            used = sum(one.quantity for one in found.lots if one.lot_id == lot.id)
            self.assertAlmostEqual(used, min(lot.left, left))
            left -= used
        self.assertLessEqual({one.lot_id for one in found.lots}, {one.id for one in good})


def good_for(lot: Available) -> bool:
    """Whether it is good until the strips are out."""
    return lot.expires_on is not None and lot.expires_on >= day(7)


def expiry(lot: Available) -> tuple[date, str]:
    """The order in which lots are used."""
    assert lot.expires_on is not None
    return lot.expires_on, str(lot.id)
