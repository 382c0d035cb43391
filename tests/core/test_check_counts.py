"""Which counts verify a course, without a database: the one before, the check count, the untreated neighbours."""

from __future__ import annotations

import unittest
from dataclasses import asdict, replace
from datetime import date, timedelta
from uuid import UUID

from pydantic import TypeAdapter

from redframe.core.errors import InvalidInput, Refused
from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.reading import read_jar
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.check_counts import (
    CourseVerdict,
    JarCount,
    Neighbours,
    Treated,
    check_post,
    choose_controls,
    choose_pre,
    verify,
)
from redframe.core.treatments.verification import earliest_post, henderson_tilton

CALENDAR = Calendar.parse(
    {"dormant": "11-01", "build_up": "03-01", "peak": "05-15", "decline": "07-25", "winter_bees": "08-25", "lead_days": 42}
)  # fmt: skip
POLICY = Policy(CALENDAR, SCHEMES["season_phase"].levels)
OWN, NEIGHBOUR, OTHER = (UUID(int=number) for number in (1, 2, 3))
START, END = date(2031, 7, 1), date(2031, 7, 9)
TREATED = Treated(OWN, default_catalogue().option("FA_STRIP2"), START, END, broodless=False, seed=7)
EARLIEST = earliest_post(TREATED.option, END, broodless=False)


def jar(number: int, mites: int, day: date, colony: UUID = OWN) -> JarCount:
    """A wash of 300 counted bees."""
    return JarCount(UUID(int=100 + number), colony, day, read_jar(mites, BeesInSample(300, 0.0), "all"))


class Before(unittest.TestCase):
    def test_the_last_before_the_first_dose(self) -> None:
        """Not the first, not one of another colony, not one taken after the dose; on the day of the dose is before it."""
        history = [
            jar(1, 10, START - timedelta(days=20)),
            jar(2, 12, START),
            jar(3, 1, START + timedelta(days=1)),
            jar(4, 30, START - timedelta(days=1), NEIGHBOUR),
        ]
        chosen = choose_pre(history, TREATED, None)
        assert chosen is not None
        self.assertEqual(chosen.id, UUID(int=102))

    def test_the_one_that_the_course_names_goes_first(self) -> None:
        """The count that was recorded as its baseline, even where a later one was taken."""
        history = [jar(1, 10, START - timedelta(days=3)), jar(2, 12, START - timedelta(days=1))]
        chosen = choose_pre(history, TREATED, UUID(int=101))
        assert chosen is not None
        self.assertEqual(chosen.id, UUID(int=101))
        fallen_back = choose_pre(history, TREATED, UUID(int=999))
        assert fallen_back is not None
        self.assertEqual(fallen_back.id, UUID(int=102))

    def test_none_before(self) -> None:
        """A course without a count before it has none."""
        self.assertIsNone(choose_pre([jar(1, 3, START + timedelta(days=2))], TREATED, None))


class CheckCount(unittest.TestCase):
    def test_what_cannot_verify_says_why(self) -> None:
        """Another colony's, without a rate, before the end, too early: each is refused in its own words."""
        early = EARLIEST - timedelta(days=1)
        cases = (
            (jar(1, 2, EARLIEST), NEIGHBOUR, EARLIEST, InvalidInput, "another colony"),
            (None, OWN, EARLIEST, InvalidInput, "no rate"),
            (jar(1, 2, END - timedelta(days=1)), OWN, END - timedelta(days=1), InvalidInput, "before the course ended"),
            (jar(1, 2, early), OWN, early, Refused, "too early"),
        )
        for post, colony, day, error, words in cases:
            with self.subTest(words=words), self.assertRaisesRegex(error, words):
                check_post(post, TREATED, colony, day)
        good = jar(1, 2, EARLIEST)
        self.assertIs(check_post(good, TREATED, OWN, EARLIEST), good)


class ControlColonies(unittest.TestCase):
    pre, post = jar(1, 30, START - timedelta(days=2)), jar(2, 3, EARLIEST)

    def test_counted_near_both_days(self) -> None:
        """The nearest count to each day; a neighbour counted at one end only, or a fortnight off, takes no part."""
        history = [
            jar(11, 10, START - timedelta(days=6), NEIGHBOUR),
            jar(12, 11, START - timedelta(days=3), NEIGHBOUR),
            jar(13, 14, EARLIEST + timedelta(days=2), NEIGHBOUR),
            jar(14, 9, START - timedelta(days=2), OTHER),
            jar(15, 9, EARLIEST + timedelta(days=15), OTHER),
        ]
        controls = choose_controls(history, [NEIGHBOUR, OTHER], self.pre, self.post)
        self.assertEqual(controls.colonies, (NEIGHBOUR,))
        self.assertEqual((controls.before[0].mites, controls.after[0].mites), (11, 14))

    def test_one_count_is_not_both(self) -> None:
        """Where the two days lie close together, a single count of a neighbour is no pair."""
        near = replace(self.post, taken_on=self.pre.taken_on + timedelta(days=8))
        history = [jar(11, 10, self.pre.taken_on + timedelta(days=4), NEIGHBOUR)]
        self.assertEqual(choose_controls(history, [NEIGHBOUR], self.pre, near).colonies, ())

    def test_the_season_is_taken_out(self) -> None:
        """Where the neighbours doubled, the share killed is near what Henderson and Tilton give, not the plain fall."""
        history = [jar(11, 60, self.pre.taken_on, NEIGHBOUR), jar(12, 120, EARLIEST, NEIGHBOUR)]
        pre, post = jar(1, 90, self.pre.taken_on), jar(2, 30, EARLIEST)
        controls = choose_controls(history, [NEIGHBOUR], pre, post)
        said = verify(TREATED, pre, post, controls, POLICY, labels={NEIGHBOUR: "K2"}, policy_version=3)
        assert said.median_pct is not None
        self.assertAlmostEqual(said.median_pct, henderson_tilton(30, 10, 20, 40), delta=2.5)
        self.assertEqual((said.controls, said.policy_version), (("K2",), 3))
        self.assertEqual(said.neighbours, Neighbours(20.0, 40.0), "what it was corrected by, as counted")
        alone = verify(TREATED, pre, post, None, POLICY, labels={}, policy_version=3)
        assert alone.median_pct is not None
        self.assertLess(alone.median_pct, said.median_pct - 8)
        self.assertIsNone(alone.neighbours)

    def test_a_verdict_kept_before_neighbours_were_told_reads_the_same(self) -> None:
        """What was kept without their figures is read without them."""
        said = verify(TREATED, self.pre, self.post, None, POLICY, labels={}, policy_version=1)
        kept = {key: value for key, value in asdict(said).items() if key != "neighbours"}
        self.assertEqual(TypeAdapter(CourseVerdict).validate_python(kept), said)


class Verdicts(unittest.TestCase):
    def test_the_same_counts_give_the_same_verdict(self) -> None:
        """The draws follow the course: read again, it says the same."""
        pre, post = jar(1, 30, START), jar(2, 4, EARLIEST)
        first, again = (verify(TREATED, pre, post, None, POLICY, labels={}, policy_version=1) for _ in range(2))
        self.assertEqual(first, again)

    def test_what_is_left_is_judged_by_the_level_of_its_day(self) -> None:
        """30 to 3 in 300: worked, hardly over any more; 30 to 28: failed, and surely over."""
        for after, word, over in ((1, "worked", False), (28, "failed", True)):
            said = verify(
                TREATED, jar(1, 30, START), jar(2, after, EARLIEST), None, POLICY, labels={}, policy_version=1
            )
            with self.subTest(after=after):
                self.assertEqual(said.word, word)
                assert said.residual_p_act is not None and said.pre is not None and said.post is not None
                self.assertEqual(said.residual_p_act > 0.8, over)
                self.assertEqual((said.pre.mites, said.post.mites, said.earliest), (30, after, EARLIEST))
