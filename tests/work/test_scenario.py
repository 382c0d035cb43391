"""The demo scenario hangs together: what product.md promises is there, and the use cases made it."""

from __future__ import annotations

import unittest
from datetime import date

import numpy as np

from redframe.core.season.calendar import Calendar
from redframe.demo.population import Life
from redframe.demo.scenario import ACCOUNTS, CORRANE, ELLERY, made_id
from redframe.stand_ins.weather import StandInWeather
from redframe.work.places import read as places_read
from redframe.work.planning import read as planning_read
from redframe.work.treatments import options as treatments_options
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, demo_template, identity, new_database, owner_rows


class Scenario(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def one(self, query: str, *parameters: object) -> int:
        """The single figure of a query."""
        return int(owner_rows(self.url, query, *parameters)[0][0])

    def test_sizes(self) -> None:
        """At least 16 apiaries, 10 keepers and 100 living colonies; the southern association is small."""
        corrane = made_id("corrane")
        self.assertGreaterEqual(self.one("SELECT count(*) FROM apiary WHERE association_id = %s", corrane), 16)
        self.assertGreaterEqual(self.one("SELECT count(*) FROM keeper WHERE association_id = %s", corrane), 10)
        living = "SELECT count(*) FROM colony WHERE association_id = %s AND state = 'alive'"
        self.assertGreaterEqual(self.one(living, corrane), 100)
        self.assertLess(self.one(living, made_id("ellery")), 15)
        self.assertEqual(len(ACCOUNTS), self.one("SELECT count(*) FROM person"))

    def test_two_seasons_with_their_stories(self) -> None:
        """Counts in two summers, dead-outs in winter, a failed treatment, one that worked, a reinvasion, a split."""
        for summer in (2030, 2031):
            counted = "SELECT count(*) FROM mite_count WHERE extract(year FROM taken_on) = %s"
            self.assertGreater(self.one(counted, summer), 300)
        self.assertGreaterEqual(self.one("SELECT count(*) FROM colony WHERE state = 'dead'"), 3)
        words = {
            row[0]
            for row in owner_rows(self.url, "SELECT DISTINCT verdict ->> 'word' FROM course WHERE verdict IS NOT NULL")
        }
        self.assertLessEqual({"worked", "failed", "cannot_tell_yet"}, words)
        self.assertGreater(
            self.one("SELECT count(*) FROM course WHERE jsonb_array_length(verdict -> 'controls') > 0"), 0
        )
        kinds = {row[0] for row in owner_rows(self.url, "SELECT DISTINCT kind FROM colony_event")}
        self.assertLessEqual({"started", "split_from", "merged_into", "renumbered", "state"}, kinds)

    def test_standings_are_spread(self) -> None:
        """The day has something of everything, and red stays the exception."""
        rows = owner_rows(
            self.url,
            "SELECT coalesce(s.level, 'unknown'), count(*) FROM colony c LEFT JOIN colony_status s ON s.colony_id = c.id "
            "AND s.since <= '2031-08-02' AND (s.until IS NULL OR s.until > '2031-08-02') WHERE c.state = 'alive' GROUP BY 1",
        )
        levels = {str(level): int(number) for level, number in rows}
        self.assertEqual(set(levels), {"clear", "watch", "act", "urgent", "unknown"})
        self.assertGreater(levels["clear"] + levels["watch"], levels["act"] + levels["urgent"])

    def test_the_same_state_everywhere(self) -> None:
        """Today's list and the places agree on how many colonies are over without a course."""

        async def look(unit: UnitOfWork) -> tuple[int, int]:
            listed = await planning_read.worklist(unit)
            view = await places_read.places_view(unit)
            over = sum(one.overview.act + one.overview.urgent for one in view.apiaries)
            return sum(line.colonies for line in listed.over), over

        unanswered, over = at_work(self.url, look)
        self.assertLessEqual(unanswered, over)
        self.assertGreater(unanswered, 0)

    def test_inland_waits_for_the_heat_and_the_coast_does_not(self) -> None:
        """Formic strips today: not now at Tarn Head, from 6 August; allowed at Skerrow Bank on the western shore."""

        async def verdicts(unit: UnitOfWork) -> dict[str, tuple[str, date | None]]:
            found = {}
            for name in ("Tarn Head", "Skerrow Bank"):
                apiary = made_id("corrane", "apiary", name)
                colony = (await places_read.apiary_view(unit, apiary)).colonies[0]
                choice = await treatments_options.options_for(unit, apiary, [colony.id])
                strips = choice.colonies[0].choice.options["FA_STRIP2"]
                found[name] = (strips.verdict, strips.from_day)
            return found

        found = at_work(self.url, verdicts)
        self.assertEqual(found["Tarn Head"], ("not_now", date(2031, 8, 6)))
        self.assertIn(found["Skerrow Bank"][0], ("allowed", "allowed_with_cautions"))

    def test_southern_seasons_are_turned(self) -> None:
        """August is dormant at Port Ellery while Corrane raises its winter bees."""
        self.assertEqual(at_work(self.url, planning_read.worklist, identity(association="ellery")).phase, "dormant")
        self.assertEqual(at_work(self.url, planning_read.worklist).phase, "pre_winter")


class Population(unittest.TestCase):
    def life(self, **changes: float) -> Life:
        """A colony of the demo from a fixed random state."""
        return Life(Calendar.parse(CORRANE.calendar), np.random.default_rng(4), mites=40.0, arrivals=0.0, **changes)  # type: ignore[arg-type]

    def test_mites_grow_in_summer_and_not_in_the_cluster(self) -> None:
        """About one and a half doublings in fifty days of summer; a slow loss without brood."""
        summer, winter = self.life(), self.life()
        for number in range(50):
            summer.step(date.fromordinal(date(2031, 5, 20).toordinal() + number))
            winter.step(date.fromordinal(date(2030, 11, 10).toordinal() + number))
        self.assertTrue(80 < summer.mites < 160)
        self.assertTrue(30 < winter.mites < 40)

    def test_a_wash_finds_what_is_on_the_bees(self) -> None:
        """The mean of many washes is the true load times 300 bees times what three shakes release."""
        life, day = self.life(), date(2031, 7, 1)
        life.mites = 900.0
        mean = np.mean([sum(life.wash(day)) for _ in range(3000)])
        self.assertAlmostEqual(float(mean), 3 * life.per_100(day) * (1 - 0.28**3), delta=0.25)

    def test_an_overloaded_cluster_dies(self) -> None:
        """Deaths come from the load, not from a list."""
        life = self.life()
        life.mites = 4000.0
        life.step(date(2030, 12, 1))
        self.assertFalse(life.alive)


class Weather(unittest.TestCase):
    def test_the_same_place_and_day_have_the_same_weather(self) -> None:
        """Deterministic, different between places, a hot spell inland, a rainy week, no day upside down."""
        service = StandInWeather()
        inland = service.forecast(44.235, -31.370, date(2031, 8, 2))
        coast = service.forecast(44.262, -31.428, date(2031, 8, 2))
        self.assertEqual(inland, service.forecast(44.235, -31.370, date(2031, 8, 2)))
        self.assertGreater(max(inland.tmax), 29.5)
        self.assertLess(max(coast.tmax), 29.5)
        self.assertGreaterEqual(sum(1 for mm in coast.rain_mm if mm >= 5), 3)
        for forecast in (inland, coast, service.forecast(-39.9, 158.4, date(2031, 8, 2))):
            self.assertTrue(all(low < high for low, high in zip(forecast.tmin, forecast.tmax, strict=True)))
        tomorrow = service.forecast(44.235, -31.370, date(2031, 8, 3))
        self.assertEqual(list(tomorrow.tmax[:5]), list(inland.tmax[1:6]), "a forecast of the same day does not change")

    def test_the_south_has_its_winter_in_july(self) -> None:
        """Seasons turn with the hemisphere."""
        service = StandInWeather()
        july, january = date(2031, 7, 10), date(2031, 1, 10)
        plan = ELLERY.apiaries[0]
        self.assertLess(
            max(service.forecast(plan.latitude, plan.longitude, july).tmax),
            max(service.forecast(plan.latitude, plan.longitude, january).tmax),
        )
