"""Forecasts of a whole association: asked for once, computed by the worker, laid with their progress."""

from __future__ import annotations

import statistics
import unittest
from collections.abc import Sequence
from datetime import date
from pathlib import Path
from uuid import uuid4

from redframe.api.settings import Settings
from redframe.demo.scenario import made_id
from redframe.jobs import worker
from redframe.store.association_forecast import ListedColony, ListOrder
from redframe.store.errors import NotAllowed
from redframe.store.roles import application_url
from redframe.work.forecast import association as forecast_association
from redframe.work.forecast import read as forecast_read
from redframe.work.forecast.association import AssociationForecast
from redframe.work.forecast.outlook import ColonyOutlook
from redframe.work.places.read import apiary_view, places_view
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
        ahead = [one for _, one in view.colonies if one is not None]
        self.assertGreater(len(ahead), 60)
        self.assertEqual(view.tally.colonies, view.run.colonies)
        days = [(one.date50 or date.max) if one else date.max for _, one in view.colonies]
        self.assertEqual(days, sorted(days))
        self.lists_agree(view)
        own = self.view(identity("keeper", keeper="Orla Fenwick")).colonies
        self.assertEqual({one.apiary for one, _ in own}, {"Tarn Head", "Skerrow Bank"})
        self.assertEqual(owner_rows(self.url, "SELECT count(*) FROM procrastinate_jobs"), [(0,)])
        self.one_says_what_all_say(view)
        self.earlier_forecasts_did_well(view)

    def lists_agree(self, view: AssociationForecast) -> None:
        """The list of apiaries and an apiary's page count and say what the list of all colonies says; a page has the
        colonies that its order puts there, each once."""
        everybody = [(one, ahead) for skip in (0, 100) for one, ahead in self.page_of(skip)]
        self.assertEqual(len({one.colony_id for one, _ in everybody}), view.tally.living)
        places = at_work(self.url, places_view).apiaries
        for place in (one.overview for one in places):
            here = [ahead for one, ahead in everybody if one.apiary_id == place.id and ahead is not None]
            crossing = [one.date50 for one in here if one.date50 is not None]
            later = [day for day in crossing if day > TODAY]
            self.assertEqual(
                (place.forecast_of, place.forecast_over, place.over_next_by),
                (len(here), sum(day <= TODAY for day in crossing), min(later, default=None)),
            )
        one = places[0].overview.id
        shown = at_work(self.url, lambda unit: apiary_view(unit, one)).forecasts
        self.assertEqual(
            {each.colony_id: each for each in shown},
            {each.colony_id: ahead for each, ahead in everybody if each.apiary_id == one and ahead is not None},
        )
        self.assertEqual(
            sum(each.colonies for each in view.crossings), view.tally.within_three_weeks + view.tally.later
        )
        by_name = [one.apiary for one, _ in self.page_of(0, "name")]
        self.assertEqual(by_name, sorted(by_name))

    def page_of(self, skip: int, sort: ListOrder = "forecast") -> Sequence[tuple[ListedColony, ColonyOutlook | None]]:
        """A page of all colonies."""
        return at_work(self.url, lambda unit: forecast_association.view(unit, skip, sort)).colonies

    def one_says_what_all_say(self, view: AssociationForecast) -> None:
        """Colonies' own forecasts, of other and more members, agree with their lines among all: as shares of the figure,
        or of one mite in a hundred bees where it is less."""
        off = []
        for line in [ahead for one, ahead in view.colonies if ahead is not None and one.apiary == "Tarn Head"]:
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
            async with worker.at_desk(desk_settings) as desk:
                app = desk.app
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
