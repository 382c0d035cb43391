"""The forecast of the demo's colonies: from which counts and courses it starts, when there is none, and scenarios."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from types import SimpleNamespace
from typing import Any
from uuid import UUID

from redframe.core.errors import InvalidInput
from redframe.core.forecast.effects import effects, kill_of, modelled, span_days
from redframe.core.forecast.events import LayingBreak, Treat
from redframe.core.treatments.catalogue import default_catalogue
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.store.errors import NotFound
from redframe.work.forecast import read as forecast_read
from redframe.work.forecast.read import ColonyForecast, Scenario
from tests.support import at_work, demo_template, identity, new_database, owner_rows

K8, W1 = made_id("corrane", "Kettle Wood", "K8"), made_id("corrane", "Whin Moor", "W1")


class Forecasts(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def ahead(self, colony: UUID, *scenarios: Scenario, day: date = DEMO_TODAY) -> ColonyForecast:
        return at_work(self.url, lambda unit: forecast_read.colony_forecast(unit, colony, scenarios), day=day)

    def test_it_starts_from_the_latest_counts_and_knows_the_courses(self) -> None:
        """At most five counts, newest first; the course that was verified to work is one of its events; the same record
        gives the same picture twice."""
        answer = self.ahead(W1)
        self.assertEqual(answer.why_not, "")
        self.assertLessEqual(len(answer.counts), 5)
        self.assertEqual(
            sorted((one.count.taken_on for one in answer.counts), reverse=True),
            [one.count.taken_on for one in answer.counts],
        )
        self.assertIn("FA_STRIP2", [one.option_id for one in answer.courses])
        self.assertEqual(answer.views[0].days[0].date, answer.counts[0].count.taken_on)
        self.assertGreaterEqual(answer.views[0].days[-1].date, DEMO_TODAY + timedelta(days=60))
        self.assertEqual(answer.views, self.ahead(W1).views)

    def test_scenarios_are_compared_on_the_same_members(self) -> None:
        """A course that reaches under cappings helps, mites from outside harm, and the first future stays what it is."""
        formic = Scenario("course", "FA_STRIP2", DEMO_TODAY + timedelta(days=4))
        arrivals = Scenario("arrivals", None, DEMO_TODAY)
        alone, (nothing, treated, invaded) = self.ahead(K8).views[0], self.ahead(K8, formic, arrivals).views
        self.assertEqual(alone.days, nothing.days)
        ends = [view.outcome.at[-1].median for view in (treated, nothing, invaded)]
        self.assertEqual(ends, sorted(ends))
        self.assertLess(treated.outcome.at[-1].median, 0.5 * nothing.outcome.at[-1].median)
        self.assertEqual(treated.days[:8], nothing.days[:8], "before it is done nothing differs")
        assert treated.window is not None
        self.assertIsNone(invaded.window)

    def test_when_there_is_none(self) -> None:
        """A dead colony, one never counted, one whose count is old: said in words, not guessed."""
        dead = owner_rows(self.url, "SELECT id FROM colony WHERE state = 'dead' LIMIT 1")[0][0]
        self.assertIn("dead", self.ahead(dead).why_not)
        never = owner_rows(
            self.url,
            "SELECT id FROM colony c WHERE state = 'alive' AND association_id = %s "
            "AND NOT EXISTS (SELECT FROM mite_count m WHERE m.colony_id = c.id) LIMIT 1",
            made_id("corrane"),
        )[0][0]
        self.assertIn("count first", self.ahead(never).why_not)
        self.assertIn("older than 90 days", self.ahead(K8, day=DEMO_TODAY + timedelta(days=100)).why_not)

    def test_what_is_refused(self) -> None:
        """An option without an effect, a start out of reach, another keeper's colony."""
        for scenario, field in (
            (Scenario("course", "MESH_FLOOR", DEMO_TODAY), "scenarios[0].option_id"),
            (Scenario("course", None, DEMO_TODAY), "scenarios[0].option_id"),
            (Scenario("arrivals", None, DEMO_TODAY - timedelta(days=1)), "scenarios[0].start"),
            (Scenario("course", "FA_STRIP2", DEMO_TODAY + timedelta(days=61)), "scenarios[0].start"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                self.ahead(K8, scenario)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(NotFound):
            at_work(
                self.url,
                lambda unit: forecast_read.colony_forecast(unit, K8),
                identity("keeper", keeper="Orla Fenwick"),
            )


class Courses(unittest.TestCase):
    def test_what_is_planned_has_not_been_done(self) -> None:
        """A course planned for a day that went by without it lies ahead; one verified to have failed killed nothing."""
        planned: Any = SimpleNamespace(state="planned", outcome=None, option_id="FA_STRIP2", placed_on=None, ended_on=None, start_on=date(2031, 7, 1))  # fmt: skip
        failed: Any = SimpleNamespace(
            **{**vars(planned), "state": "verified_failed", "outcome": "failed", "placed_on": date(2031, 7, 1)}
        )
        self.assertEqual(forecast_read.known_events([planned], DEMO_TODAY), effects("FA_STRIP2", DEMO_TODAY))
        self.assertEqual(forecast_read.known_events([failed], DEMO_TODAY), [])

    def test_effects_of_options(self) -> None:
        """Every modelled option is in the catalogue; a course ended early stops working that day; a placing after the end
        never was; a cage opened early is a shorter break."""
        known = {option.id for option in default_catalogue().options}
        self.assertLessEqual(set(modelled()), known)
        start = date(2031, 7, 1)
        for option in [one for one in modelled() if kill_of(one) is not None]:
            whole = [event for event in effects(option, start) if isinstance(event, Treat)]
            ends = max(event.start + timedelta(days=event.days) for event in whole)
            self.assertEqual((ends - start).days, span_days(option))
            cut = [event for event in effects(option, start, start + timedelta(days=4)) if isinstance(event, Treat)]
            if not kill_of(option).stays:  # type: ignore[union-attr]
                ends = max(event.start + timedelta(days=event.days) for event in cut)
                self.assertLessEqual(ends, start + timedelta(days=5))
        for option in ("OX_TRICKLE", "OX_VAP1"):
            self.assertEqual(effects(option, start, start), effects(option, start), "a dose given goes on working")
        self.assertEqual(len(effects("OX_VAPN", start, start + timedelta(days=7))), 2)
        self.assertEqual(effects("QUEEN_CAGE", start, start + timedelta(days=9)), [LayingBreak(start, 10)])
        self.assertEqual(effects("SUGAR_DUST", start), ())


if __name__ == "__main__":
    unittest.main()
