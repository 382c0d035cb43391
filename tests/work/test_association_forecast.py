"""Forecasts of a whole association: asked for once, computed by the worker, laid with their progress."""

from __future__ import annotations

import statistics
import unittest
from datetime import date
from pathlib import Path
from uuid import uuid4

from redframe.api.settings import Settings
from redframe.demo.scenario import made_id
from redframe.jobs import worker
from redframe.store.errors import NotAllowed
from redframe.store.migrate import application_url
from redframe.work.forecast import association as forecast_association
from redframe.work.forecast import read as forecast_read
from redframe.work.forecast.association import AssociationForecast
from tests.support import aside, at_work, demo_template, identity, new_database, owner_rows

TODAY = date(2031, 8, 2)


class Ahead(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())
        cls.settings = Settings(application_url(cls.url), Path(), demo_today=TODAY)

    def view(self, who: object = None) -> AssociationForecast:
        """What is shown to a person."""
        return at_work(self.url, forecast_association.view, who)  # type: ignore[arg-type]

    def work_off(self) -> None:
        """Let a worker do all that waits."""
        aside(worker.run(self.settings, wait=False))

    def test_asked_once_computed_and_seen_by_those_who_may(self) -> None:
        """Two who ask get one run; the worker brings it to its end; a keeper sees the own colonies of it."""
        first, second = uuid4(), uuid4()
        run = at_work(self.url, lambda unit: forecast_association.ask(unit, first))
        again = at_work(self.url, lambda unit: forecast_association.ask(unit, second))
        assert run is not None and again is not None
        self.assertEqual((run.id, run.state, again.id), (first, "waiting", first))
        self.work_off()
        view = self.view()
        assert view.run is not None
        self.assertEqual((view.run.id, view.run.state, view.run.done), (first, "done", view.run.colonies))
        self.assertGreater(len(view.colonies), 60)
        self.assertEqual(view.tally.colonies, view.run.colonies)
        days = [one.date50 or date.max for one in view.colonies]
        self.assertEqual(days, sorted(days))
        own = self.view(identity("keeper", keeper="Orla Fenwick")).colonies
        self.assertEqual({one.apiary for one in own}, {"Tarn Head", "Skerrow Bank"})
        self.assertEqual(owner_rows(self.url, "SELECT count(*) FROM procrastinate_jobs"), [(0,)])
        self.one_says_what_all_say(view)
        self.earlier_forecasts_did_well(view)

    def one_says_what_all_say(self, view: AssociationForecast) -> None:
        """Colonies' own forecasts, of other and more members, agree with their lines among all: as shares of the figure,
        or of one mite in a hundred bees where it is less."""
        off = []
        for line in [one for one in view.colonies if one.apiary == "Tarn Head"]:
            own = at_work(self.url, lambda unit, line=line: forecast_read.colony_forecast(unit, line.colony_id)).views[
                0
            ]  # type: ignore[misc]
            for index, number in ((0, 0), (14, 42)):
                band = next(one for one in own.days if (one.date - TODAY).days == number)
                for ours, theirs in ((line.median[index], band.median), (line.high80[index], band.high80)):
                    off.append(abs(ours - theirs) / max(theirs, 1.0))
        self.assertGreater(len(off), 20)
        self.assertLess(statistics.median(off), 0.08)
        self.assertLess(max(off), 0.3)

    def earlier_forecasts_did_well(self, view: AssociationForecast) -> None:
        """The demo's own later counts lie in the bands as promised; "over two in three weeks" is said as well as by a
        plain person, whose word is hard to beat where most colonies stay low; a colony's page says the same."""
        alone, treated = view.evaluation
        self.assertEqual((alone.between, treated.between, alone.looked_on), ("untreated", "treated", TODAY))
        self.assertGreater(alone.counts, 300)
        self.assertTrue(0.75 <= alone.held80 <= 0.88, alone.held80)
        self.assertLess(alone.brier, 1.05 * min(alone.brier_stays, alone.brier_one_rate))
        self.assertLess(alone.brier, max(alone.brier_stays, alone.brier_one_rate))
        colony = made_id("corrane", "Tarn Head", "T4")
        answer = at_work(self.url, lambda unit: forecast_read.colony_forecast(unit, colony))
        self.assertEqual(answer.evaluation, alone)
        now, later = answer.next_counts
        self.assertEqual((now.on, (later.on - now.on).days, now.bees), (TODAY, 21, 300.0))
        self.assertTrue(now.low80 <= now.middle <= now.high80 and now.middle < later.middle)

    def test_the_night_asks_for_everybody(self) -> None:
        """Both associations get their forecasts, each for its own day, and nobody is named."""
        desk_settings = self.settings

        async def night() -> None:
            async with worker.at_desk(desk_settings) as app:
                await app.tasks["forecast_everybody"].defer_async(timestamp=0)
                await app.tasks["forecast_newcomers"].defer_async()
                await app.run_worker_async(queues=[worker.QUEUE], wait=False, install_signal_handlers=False)

        aside(night())
        runs = owner_rows(self.url, "SELECT association_id, state, asked_by FROM forecast_run WHERE asked_by IS NULL")
        expected = [(made_id("corrane"), "done"), (made_id("ellery"), "done")]
        self.assertEqual(sorted((row[0], row[1]) for row in runs), sorted(expected), "and no newcomer a second time")

    def test_a_keeper_does_not_ask_for_all(self) -> None:
        """That is for those who keep the association."""
        with self.assertRaises(NotAllowed):
            at_work(
                self.url,
                lambda unit: forecast_association.ask(unit, uuid4()),
                identity("keeper", keeper="Orla Fenwick"),
            )
