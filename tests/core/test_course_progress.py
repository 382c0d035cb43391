"""Courses as they go, without a database: states, dates, what may be recorded, what waits for the weather."""

from __future__ import annotations

import unittest
from dataclasses import dataclass
from datetime import date, timedelta

from redframe.core.errors import InvalidInput, Refused
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.progress import (
    ActOutcome,
    MovedWhy,
    Plan,
    Report,
    StepProgress,
    check_abandoned,
    check_amended_day,
    check_report,
    progress,
    steps_on,
)
from redframe.core.treatments.states import COURSE_STATES, CourseState, VerdictWord
from redframe.core.treatments.weather import Forecast, blocked_on

START = date(2031, 8, 10)


def day(number: int) -> date:
    """So many days after the planned start."""
    return START + timedelta(days=number)


@dataclass(frozen=True)
class Act:
    """What was recorded of a step."""

    step: str
    done_on: date
    outcome: ActOutcome = "done"


def acts(**days: int) -> list[Act]:
    """Steps done on days counted from the start."""
    return [Act(step, day(number)) for step, number in days.items()]


def plan(option: str) -> Plan:
    """An option planned for the start."""
    return Plan(default_catalogue().option(option), START)


def report(step: str, number: int, **more: object) -> Report:
    """A step reported as done on a day, with a dose and a count."""
    fields: dict[str, object] = {"quantity": 2.0, "has_count": True, "note": "", "is_set_aside": False, **more}
    return Report(step, "skipped" if fields.pop("skipped", False) else "done", day(number), **fields)  # type: ignore[arg-type]


BEFORE = {"prepare": -3, "close_supers_feeder": -1}


class States(unittest.TestCase):
    def test_what_was_done_makes_the_state(self) -> None:
        """One row a story: option, acts, the verdict, whether abandoned; state, begun, ended."""
        formic, trickle, series = "FA_STRIP2", "OX_TRICKLE", "OX_VAPN"
        rows: list[tuple[str, dict[str, int], VerdictWord | None, bool, CourseState, int | None, int | None]] = [
            (formic, {}, None, False, "planned", None, None),
            (formic, BEFORE, None, False, "planned", None, None),
            (formic, {**BEFORE, "place_1": 0}, None, False, "under_way", 0, None),
            (formic, {**BEFORE, "place_1": 0, "end": 7}, None, False, "awaiting_verification", 0, 7),
            (formic, {"place_1": 0, "end": 7, "verify": 17}, "worked", False, "awaiting_outcome", 0, 7),
            (formic, {"place_1": 0, "end": 7, "verify": 17, "close": 18}, "worked", False, "verified_worked", 0, 7),
            (formic, {"place_1": 0, "end": 7, "close": 18}, None, False, "awaiting_verification", 0, 7),
            (formic, {"place_1": 0, "end": 7, "verify": 9, "close": 9}, "cannot_tell_yet", False, "verified_cannot_tell", 0, 7),
            (formic, {"place_1": 0}, None, True, "abandoned", 0, 4),
            (trickle, {**BEFORE, "place_1": 2}, None, False, "awaiting_verification", 2, 2),
            (series, {"place_1": 0, "place_2": 5, "place_3": 10}, None, False, "under_way", 0, None),
            (series, {"place_1": 0, "place_2": 5, "place_3": 10, "place_4": 16}, None, False, "awaiting_verification", 0, 16),
        ]  # fmt: skip
        for option, done, verdict, abandoned, state, begun, ended in rows:
            with self.subTest(option=option, done=done):
                now = progress(
                    plan(option),
                    acts(**done),
                    verdict=verdict,
                    is_abandoned=abandoned,
                    removed_on=day(4) if abandoned else None,
                )
                self.assertEqual(now.state, state)
                self.assertEqual(now.placed_on, None if begun is None else day(begun))
                self.assertEqual(now.ended_on, None if ended is None else day(ended))
                self.assertLessEqual(now.occupies_from, now.occupies_to)

    def test_honey_clears_from_the_day_it_came_out(self) -> None:
        """Whether the course was ended or abandoned: the withdrawal counts from the removal, never from the plan."""
        for option in default_catalogue().options:
            if not option.chemical or option.ends_at_placing:
                continue
            withdrawal = timedelta(days=option.withdrawal_days)
            given_up = progress(
                Plan(option, START), acts(place_1=0), verdict=None, is_abandoned=True, removed_on=day(1)
            )
            with self.subTest(option=option.id):
                self.assertEqual(given_up.honey_clear_on, day(1) + withdrawal)
                self.assertEqual(given_up.occupies_to, day(1))

    def test_only_open_courses_are_recorded_and_abandoned(self) -> None:
        """Every state of the table: open ones take a step, the others refuse it and refuse to be abandoned."""
        for state, properties in COURSE_STATES.items():
            for act in (
                lambda state=state: check_report(
                    plan("FA_STRIP2"), state, [], report("prepare", -1), today=START, dose_unit="strip"
                ),
                lambda state=state: check_abandoned(state, None, None, "queen lost", None, today=START),
            ):
                with self.subTest(state=state):
                    if properties.is_open:
                        act()
                    else:
                        with self.assertRaises(Refused) as refused:
                            act()
                        self.assertEqual(refused.exception.rule, "closed")


class Reported(unittest.TestCase):
    def check(self, option: str, done: dict[str, int], reported: Report, today: int = 60) -> str:
        """The step that may be recorded."""
        state = progress(plan(option), acts(**done), verdict=None).state
        return check_report(plan(option), state, acts(**done), reported, today=day(today), dose_unit="strip").name

    def refused(self, option: str, done: dict[str, int], reported: Report, today: int = 60) -> str:
        """The rule, or the field, by which a report is refused."""
        try:
            self.check(option, done, reported, today)
        except Refused as error:
            return error.rule
        except InvalidInput as error:
            return error.field
        return ""

    def test_the_order_and_the_windows(self) -> None:
        """What is refused, and by which rule or field."""
        placed = {**BEFORE, "place_1": 0}
        rows: list[tuple[str, dict[str, int], Report, str]] = [
            ("FA_STRIP2", {}, report("place_1", 0), "order"),
            ("FA_STRIP2", BEFORE, report("place_1", 0), ""),
            ("FA_STRIP2", BEFORE, report("place_1", -1), ""),
            ("FA_STRIP2", {"prepare": -8, "close_supers_feeder": -8}, report("place_1", -8), "S2"),
            ("FA_STRIP2", {"prepare": -8, "close_supers_feeder": -8}, report("place_1", -8, is_set_aside=True), ""),
            ("FA_STRIP2", BEFORE, report("place_1", 8), "S4"),
            ("FA_STRIP2", BEFORE, report("place_1", 8, is_set_aside=True), ""),
            ("FA_STRIP2", BEFORE, report("place_1", 0, quantity=None), "quantity"),
            ("FA_STRIP2", BEFORE, report("place_1", -2), "done_on"),
            ("FA_STRIP2", placed, report("verify", 20), "order"),
            ("FA_STRIP2", {**placed, "end": 7}, report("verify", 9), "S2"),
            ("FA_STRIP2", {**placed, "end": 7}, report("verify", 17, has_count=False), "count_id"),
            ("FA_STRIP2", {**placed, "end": 7}, report("verify", 17), ""),
            ("FA_STRIP2", placed, report("end", 7, skipped=True), "skip"),
            ("FA_STRIP2", placed, report("interim_check", 3, skipped=True), "note"),
            ("FA_STRIP2", placed, report("interim_check", 3, skipped=True, note="rain"), ""),
            ("FA_STRIP2", BEFORE, report("place_2", 0), "step"),
            ("OX_TRICKLE", {"prepare": -1, "close_supers_feeder": -1, "place_1": 0}, report("end", 0), "order"),
            ("OX_TRICKLE", {"prepare": -1, "close_supers_feeder": -1, "place_1": 0}, report("dispose", 0), ""),
            ("SUGAR_DUST", {}, report("place_1", 0), ""),
            ("DRONE_TRAP", {}, report("place_1", 0), ""),
        ]
        for option, done, reported, wanted in rows:
            with self.subTest(option=option, done=done, step=reported.step, day=reported.done_on):
                self.assertEqual(self.refused(option, done, reported), wanted)

    def test_tomorrow_is_not_done(self) -> None:
        """A day that has not come is named."""
        self.assertEqual(self.refused("FA_STRIP2", BEFORE, report("place_1", 1), today=0), "done_on")

    def test_every_option_can_be_walked_to_its_end(self) -> None:
        """Taking the next step on its best day, each option of the catalogue reaches its verdict and is closed."""
        for option in default_catalogue().options:
            course, done, today = Plan(option, START), list[Act](), START - timedelta(days=14)
            state: CourseState = "planned"
            for _ in range(30):
                steps, following = steps_on(course, state, done, {}, None, today=today)
                if following is None:
                    break
                step = next(one for one in steps if one.name == following)
                today = max(today, step.ideal)
                reported = Report(following, "done", today, 1.0, True, "", False)
                check_report(course, state, done, reported, today=today, dose_unit="ml")
                done.append(Act(following, today))
                state = progress(course, done, verdict="worked").state
            with self.subTest(option=option.id):
                self.assertEqual(state, "verified_worked")

    def test_an_amended_day_stays_between_its_neighbours(self) -> None:
        """Before the step before it and after the one that follows are refused; between them it may move."""
        done = acts(prepare=-3, close_supers_feeder=-1, place_1=0, end=7)
        for number, fits in ((-2, False), (-1, True), (3, True), (7, True), (8, False), (40, False)):
            with self.subTest(day=number):
                if fits:
                    check_amended_day(plan("FA_STRIP2"), done, "place_1", day(number), today=day(30))
                else:
                    with self.assertRaisesRegex(InvalidInput, "^done_on:"):
                        check_amended_day(plan("FA_STRIP2"), done, "place_1", day(number), today=day(30))


class Overtaken(unittest.TestCase):
    def test_nobody_is_asked_for_what_a_later_step_has_overtaken(self) -> None:
        """An interim check after the end, a count before after the first dose: behind the course, and never overdue."""
        course = plan("FA_STRIP2")
        for done, name in (
            ({**BEFORE, "place_1": 0, "end": 7}, "interim_check"),
            ({**BEFORE, "place_1": 0}, "baseline_count"),
        ):
            with self.subTest(step=name):
                recorded = acts(**done)
                now = progress(course, recorded, verdict=None)
                self.assertIn(name, now.done)
                first = {step.name: step.window.ideal for step in now.course.steps}
                steps, following = steps_on(course, now.state, recorded, first, None, today=day(40))
                state = {step.name: step.state for step in steps}[name]
                self.assertEqual(state, "cancelled")
                self.assertNotEqual(following, name)
        early = progress(course, acts(**BEFORE), verdict=None)
        self.assertFalse({"interim_check", "baseline_count"} & early.done)


class Weather(unittest.TestCase):
    def forecast(self, hot: set[int], days: int = 20) -> Forecast:
        """Mild days from the start on, some of them too hot for formic acid."""
        tmax = [34.0 if number in hot else 22.0 for number in range(days)]
        return Forecast(START, tmax, [12.0] * days, [0.0] * days)

    def view(self, forecast: Forecast, today: int, **done: int) -> tuple[dict[str, StepProgress], str | None]:
        """Steps by name, and the next one."""
        course, recorded = plan("FA_STRIP2"), acts(**done)
        state = progress(course, recorded, verdict=None).state
        first = {step.name: step.window.ideal for step in course.course({}).steps}
        steps, following = steps_on(course, state, recorded, first, forecast, today=day(today))
        return {step.name: step for step in steps}, following

    def test_a_hot_spell_moves_the_dose_and_what_follows(self) -> None:
        """Three hot days: the dose waits until the first that is cool with two after it; the end moves as far."""
        steps, following = self.view(self.forecast({0, 1, 2}), 0, **BEFORE, baseline_count=-2)
        self.assertEqual(following, "place_1")
        place, end = steps["place_1"], steps["end"]
        self.assertEqual((place.state, place.next_usable), ("waiting_for_weather", day(3)))
        self.assertEqual((place.moved_days, end.moved_days), (3, 3))
        self.assertEqual(end.moved_why, MovedWhy("counts_from_dose_expected", {"dose": 1, "day": day(3)}))
        blocked = blocked_on(plan("FA_STRIP2").option, self.forecast({0, 1, 2}), START)
        assert blocked is not None
        self.assertEqual((blocked.code, blocked.params), ("day_too_hot", {"day": START, "value": 34.0, "limit": 29.5}))
        self.assertEqual(place.moved_why, MovedWhy(blocked.code, blocked.params))

    def test_no_forecast_is_looked_at_again(self) -> None:
        """A day past the forecast stops nobody from being ready; on the day itself the dose is refused."""
        far = Forecast(START - timedelta(days=30), [20.0] * 5, [10.0] * 5, [0.0] * 5)
        steps, _ = self.view(far, 0, **BEFORE)
        self.assertEqual(steps["place_1"].state, "ready")
        blocked = blocked_on(plan("FA_STRIP2").option, far, START)
        assert blocked is not None
        self.assertTrue(blocked.code.startswith("no_forecast"), blocked)

    def test_once_placed_no_weather_moves_it(self) -> None:
        """What was placed stays placed; the plan of record is still shown."""
        steps, following = self.view(self.forecast({4, 5, 6}), 4, **BEFORE, place_1=2)
        self.assertEqual((steps["place_1"].state, steps["end"].moved_days, following), ("done", 2, "interim_check"))
        self.assertEqual(steps["end"].moved_why, MovedWhy("counts_from_dose_done", {"dose": 1, "day": day(2)}))
