"""One apiary under each scheme of thresholds: who stands where, what is advised, what is offered, in which unit."""

from __future__ import annotations

import json
import unittest
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import uuid4

from redframe.api import views
from redframe.core.colonies.hive_state import WantedBox
from redframe.core.policy.schemes import SCHEMES, SchemeId
from redframe.core.sampling.board import BoardSample
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.overrides import Override
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store.places import ApiaryDetails
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.colonies.queens import QueenRecord
from redframe.work.colonies.record import NewColony
from redframe.work.places import read as places_read
from redframe.work.places import record as places_record
from redframe.work.planning import read as planning_read
from redframe.work.policy import record as policy_record
from redframe.work.policy.record import ApiaryPolicyDraft
from redframe.work.sampling import record as sampling_record
from redframe.work.sampling.record import NewCount
from redframe.work.treatments import abandon as treatments_abandon
from redframe.work.treatments import options as treatments_options
from redframe.work.treatments import plan as treatments_plan
from redframe.work.treatments.options import ApiaryChoice
from redframe.work.treatments.plan import PlannedRow, WantedCourse
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, demo_template, new_database, visited, washed

TODAY = date(2031, 8, 2)
KEEPER = made_id("corrane", "keeper", "Garrow Pike")
QUEEN = QueenRecord(2030, None, "mated", date(2031, 5, 1), date(2031, 5, 1), None)
ORDER: tuple[SchemeId, ...] = ("flat_2", "flat_3", "season_phase", "fall_phase", "any_mite", "observe")
NAMES = ("high", "low", "free", "board", "never")
LEVELS: dict[SchemeId, tuple[str, str, str, str, str]] = {
    # Washed at about 8 per 100, washed at 2.5, washed without a mite, a board of 100 a day, never counted.
    "flat_2": ("urgent", "act", "clear", "unknown", "unknown"),
    "flat_3": ("urgent", "watch", "clear", "unknown", "unknown"),
    "season_phase": ("urgent", "act", "clear", "unknown", "unknown"),
    "fall_phase": ("unknown", "unknown", "unknown", "urgent", "unknown"),
    "any_mite": ("urgent", "urgent", "watch", "urgent", "unknown"),
    "observe": ("urgent", "watch", "clear", "unknown", "unknown"),
}
"""Where each of the five colonies stands before winter bees (act at 2, 3, 2, 8 a day, any, 3)."""
NEXT: dict[SchemeId, tuple[str, str, str, str, str]] = {
    "flat_2": ("treat", "treat", "count_by", "count", "count"),
    "flat_3": ("treat", "count_by", "count_by", "count", "count"),
    "season_phase": ("treat", "treat", "count_by", "count", "count"),
    "fall_phase": ("count", "count", "count", "treat", "count"),
    "any_mite": ("report", "report", "count_by", "report", "count"),
    "observe": ("flag", "count_by", "count_by", "count", "count"),
}
"""The next act with each of them; `second_sample` stands for treat where one more jar may turn the verdict."""


class Schemes(unittest.TestCase):
    """Five colonies of one apiary of their own, the same counts under one scheme after the other."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())
        cls.apiary = uuid4()
        details = ApiaryDetails("Scheme Field", 44.21, -31.40)
        at_work(cls.url, lambda unit: places_record.add_apiary(unit, cls.apiary, KEEPER, details))
        cls.colonies = {name: uuid4() for name in NAMES}
        for name, number in cls.colonies.items():
            new = NewColony(id=number, apiary_id=cls.apiary, label=name, since=date(2031, 5, 1), boxes=[WantedBox("brood", "A_deep", 10)], queen=QUEEN)  # fmt: skip
            at_work(cls.url, lambda unit, new=new: colonies_record.add_colony(unit, new))  # type: ignore[misc]
            looked = After(frames_of_bees=9.0, capped_brood=True, eggs_seen=True, queen="seen", supers_on=False, feed="none")  # fmt: skip
            visited(cls.url, number, TODAY, looked)
        at = datetime(2031, 8, 2, 11, tzinfo=UTC)
        board = BoardSample(at - timedelta(days=3), at, (300,), cleaned="yes", greased="yes", ants="no")
        for count in (
            washed(cls.colonies["high"], (20, 4, 0), TODAY),
            washed(cls.colonies["low"], (7, 0), TODAY),
            washed(cls.colonies["free"], (0, 0), TODAY),
            NewCount(uuid4(), cls.colonies["board"], at, board),
        ):
            at_work(cls.url, lambda unit, count=count: sampling_record.record_count(unit, count))  # type: ignore[misc]
        cls.version = 0

    def under(self, scheme: SchemeId) -> None:
        """Let the apiary follow a scheme."""
        draft = ApiaryPolicyDraft(scheme, "single_colony")
        at_work(self.url, lambda unit: policy_record.set_apiary_policy(unit, self.apiary, draft, type(self).version, "tried"))  # fmt: skip
        type(self).version += 1

    def each(self, look: Callable[[SchemeId], None]) -> None:
        """Look at the apiary under every scheme."""
        for scheme in ORDER:
            self.under(scheme)
            with self.subTest(scheme=scheme):
                look(scheme)

    def view(self) -> places_read.ApiaryView:
        """The apiary as its screen shows it."""
        return at_work(self.url, lambda unit: places_read.apiary_view(unit, self.apiary))

    def options(self, *names: str) -> ApiaryChoice:
        """The options for some of the colonies."""
        ids = [self.colonies[name] for name in names]
        return at_work(self.url, lambda unit: treatments_options.options_for(unit, self.apiary, ids, TODAY))

    def test_where_each_colony_stands(self) -> None:
        """By its own scale alone: a rate never speaks under the daily fall, a board never under rates; where one mite
        is too many, each of both does."""

        def look(scheme: SchemeId) -> None:
            levels = {one.label: one.level for one in self.view().colonies}
            self.assertEqual(tuple(levels[name] for name in NAMES), LEVELS[scheme])

        self.each(look)

    def test_what_comes_next_for_each(self) -> None:
        """Treat, report, flag or count, as the scheme answers; never "treat" where a scheme does not treat."""

        def look(scheme: SchemeId) -> None:
            found = []
            for name in NAMES:
                view = at_work(self.url, lambda unit, name=name: colonies_read.colony_view(unit, self.colonies[name]))  # type: ignore[misc]
                found.append("treat" if view.advice.act == "second_sample" and scheme in ("flat_2", "season_phase") else view.advice.act)  # fmt: skip
            self.assertEqual(tuple(found), NEXT[scheme])

        self.each(look)

    def test_the_apiary_says_the_same(self) -> None:
        """The head of the apiary's page answers as its colonies do, and names only those that are over."""
        answers = {"flat_2": "treat", "flat_3": "treat", "season_phase": "treat", "fall_phase": "treat", "any_mite": "report", "observe": "flag"}  # fmt: skip

        def look(scheme: SchemeId) -> None:
            view = self.view()
            over = {one.id for one in view.colonies if one.is_over}
            self.assertEqual(view.advice.act, answers[scheme])
            self.assertEqual(set(view.advice.colonies), over)
            self.assertEqual(view.axis, "mites_per_day" if scheme == "fall_phase" else "mites_per_100")
            self.assertEqual(view.status.treat != (), SCHEMES[scheme].treats and bool(over))

        self.each(look)

    def test_the_days_work_is_in_the_unit_of_the_scheme(self) -> None:
        """The line of those over names the scheme, its answer, its act level and the highest figure on one scale: where
        one mite is too many a fall of 100 a day is no rate of 100; what is not known is to be counted under all."""

        def look(scheme: SchemeId) -> None:
            work = at_work(self.url, planning_read.worklist)
            over = [one for one in work.over if one.apiary_id == self.apiary]
            counts = [one for one in work.counts if one.apiary_id == self.apiary]
            self.assertEqual(len(counts), 1)
            [line] = over
            self.assertEqual((line.scheme, line.answer), (scheme, SCHEMES[scheme].answer))
            self.assertEqual(line.scale, "mites_per_day" if scheme == "fall_phase" else "mites_per_100")
            levels = SCHEMES[scheme].levels["pre_winter"]
            self.assertEqual(line.act_at, levels.act)
            self.assertEqual(line.colonies, sum(level in ("act", "urgent") for level in LEVELS[scheme]))
            if scheme == "fall_phase":
                self.assertAlmostEqual(line.highest, 100, delta=1)
            else:
                self.assertTrue(7 <= line.highest <= 11, line.highest)

        self.each(look)

    def test_what_is_safe_does_not_hang_on_the_scheme(self) -> None:
        """Schemes say when; labels, law and the season say what: the options that may never be used here are the same
        under all, and so is the dose."""
        seen: set[tuple[Any, ...]] = set()

        def look(scheme: SchemeId) -> None:
            choice = self.options("high").colonies[0].choice
            self.assertEqual(len(choice.options), len(default_catalogue().options))
            seen.add(
                tuple(
                    (
                        name,
                        one.verdict,
                        one.dose.quantity if one.dose else None,
                        tuple(rule for rule in one.rules if not rule.startswith("T6")),
                    )
                    for name, one in sorted(choice.options.items())
                )
            )

        self.each(look)
        self.assertEqual(len(seen), 1)

    def test_options_reach_the_screen_under_every_scheme(self) -> None:
        """As the wire carries them: every figure is a number that JSON has, a threshold of nought among them."""

        def look(scheme: SchemeId) -> None:
            ids = [self.colonies[name] for name in NAMES]
            found = at_work(self.url, lambda unit: treatments_options.options_by_day(unit, self.apiary, ids))
            plain = views.options(*found).model_dump(mode="json")
            self.assertEqual({len(one["days"]) for one in plain["days"]}, {len(plain["forecast"])})
            json.dumps(plain, allow_nan=False)
            self.assertEqual(len(plain["colonies"]), len(NAMES))
            known = {one["label"]: one["per_100"] for one in plain["colonies"]}
            self.assertIsNone(known["never"])
            self.assertIsNone(known["board"], "a fall is no rate")
            self.assertIsNotNone(known["high"])

        self.each(look)

    def test_a_course_is_planned_and_answers_the_colony(self) -> None:
        """Under every scheme strips can be planned for the colony that is over; it is then no line of the day's work."""

        def look(scheme: SchemeId) -> None:
            name = "board" if scheme == "fall_phase" else "high"
            rules = [one.rule for one in self.plan(name, []).held_by]
            row = self.plan(name, [Override(rule, "Idris Calloway", "to be tried") for rule in rules])
            self.assertIsNotNone(row.course_id, row.held_by)
            work = at_work(self.url, planning_read.worklist)
            lines = [one for one in work.over if one.apiary_id == self.apiary]
            self.assertNotIn(self.colonies[name], [number for line in lines for number in line.ids])
            course = row.course_id
            assert course is not None
            at_work(self.url, lambda unit: treatments_abandon.abandon(unit, course, "only tried", None))
            again = at_work(self.url, planning_read.worklist)
            lines = [one for one in again.over if one.apiary_id == self.apiary]
            self.assertIn(self.colonies[name], [number for line in lines for number in line.ids])

        self.each(look)

    def plan(self, name: str, overrides: list[Override]) -> PlannedRow:
        """Plan gel for one colony."""
        wanted = [WantedCourse(uuid4(), self.colonies[name], overrides)]

        async def act(unit: UnitOfWork) -> list[PlannedRow]:
            return list(
                await treatments_plan.plan_courses(
                    unit, plan_id=uuid4(), apiary_id=self.apiary, option_id="THY_GEL", start_on=TODAY, interval_override=None, wanted=wanted,
                )
            )  # fmt: skip

        return at_work(self.url, act)[0]

    def test_strips_are_drawn_by_the_scheme_in_force(self) -> None:
        """The act level under a season strip is that of the scheme, phase by phase; nought where any mite counts."""

        def look(scheme: SchemeId) -> None:
            for band in self.view().phases:
                levels = SCHEMES[scheme].levels[band.phase]
                self.assertEqual((band.watch, band.act, band.urgent), (levels.watch, levels.act, levels.urgent))

        self.each(look)

    def test_back_to_the_associations_own(self) -> None:
        """Whatever was tried, following the association again makes levels what they were at first."""
        before = {one.label: one.level for one in self.view().colonies} if type(self).version == 0 else None
        self.under("flat_3")
        own = ApiaryPolicyDraft()
        at_work(self.url, lambda unit: policy_record.set_apiary_policy(unit, self.apiary, own, type(self).version, "as all others"))  # fmt: skip
        type(self).version += 1
        after = {one.label: one.level for one in self.view().colonies}
        self.assertEqual(tuple(after[name] for name in NAMES), LEVELS["season_phase"])
        if before is not None:
            self.assertEqual(before, after)
