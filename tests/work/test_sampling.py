"""Counts through the use cases: what a wash does to a colony's level, its trend, the bench's ruler, and amendments."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.count import LookSample
from redframe.core.sampling.drone_brood import DroneSample
from redframe.core.sampling.jar import JarSample
from redframe.demo.scenario import made_id
from redframe.store.errors import Conflict, NotFound
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.places import read as places_read
from redframe.work.planning import read as planning_read
from redframe.work.policy import record as policy_record
from redframe.work.policy.record import ApiaryPolicyDraft
from redframe.work.sampling import boards as sampling_boards
from redframe.work.sampling import read as sampling_read
from redframe.work.sampling import record as sampling_record
from redframe.work.sampling import ruler as sampling_ruler
from redframe.work.sampling import trends as sampling_trends
from redframe.work.sampling.read import CountMeaning
from redframe.work.sampling.record import NewCount
from redframe.work.sampling.ruler import Measure, Ruler
from tests.support import at_work, demo_template, identity, new_database, owner_rows, washed

TODAY = date(2031, 8, 2)
HAY = made_id("corrane", "apiary", "Plover Hay")


def wash(colony: UUID, shakes: tuple[int, ...], day: date = TODAY, **changes: Any) -> NewCount:
    """A careful wash of about 300 bees of a brood frame, taken at noon."""
    return washed(colony, shakes, day, **changes)


def again(count: NewCount, **changes: Any) -> NewCount:
    """The same count with another jar."""
    assert isinstance(count.sample, JarSample)
    return replace(count, sample=replace(count.sample, **changes))


class Demo(unittest.TestCase):
    """A copy of the demo and a new colony in it for each test."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def setUp(self) -> None:
        self.colony = uuid4()
        fields: dict[str, Any] = {
            "apiary_id": made_id("corrane", "apiary", "Plover Hay"), "label": str(self.colony)[:8], "since": date(2031, 5, 1),
            "note": "", "hive_id": None, "hive_type": "", "boxes": [], "queen": None, "split_from": None,
        }  # fmt: skip
        at_work(
            self.url, lambda unit: colonies_record.add_colony(unit, colonies_record.NewColony(id=self.colony, **fields))
        )

    def record(self, new: NewCount, today: date = TODAY) -> CountMeaning:
        """Record a wash on a day."""
        return at_work(self.url, lambda unit: sampling_record.record_count(unit, new), day=today)

    def level(self, today: date = TODAY) -> tuple[str, str]:
        """Level and its reason on a day."""
        found = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony), day=today).colony
        return found.level, found.level_reason


class Status(Demo):
    def test_no_second_sample_when_it_would_cost_the_last_start(self) -> None:
        """Six in 300 is not settled. In June there is time for a second jar; three weeks before the winter bees it would
        cost the last sensible start, and who records many at once does not hear of it."""
        answer = []
        for day in (date(2031, 6, 10), date(2031, 8, 6)):
            self.setUp()
            new = washed(self.colony, (4, 2), day)
            to_json = at_work(self.url, lambda unit, new=new: sampling_record.record_count(unit, new), day=day)
            ahead = at_work(
                self.url, lambda unit, new=new: sampling_read.meaning_of(unit, new.id, look_ahead=True), day=day
            )
            assert to_json.judgement and ahead.judgement and ahead.last_start
            self.assertEqual((to_json.judgement.level, to_json.judgement.advice), ("act", "second_sample"))
            self.assertIsNone(to_json.last_start)
            answer.append((ahead.judgement.advice, ahead.last_start))
        (early, june), (late, august) = answer
        self.assertEqual((early, late), ("second_sample", "treat"))
        self.assertGreater(june.on, date(2031, 7, 1))
        self.assertLess(august.on, date(2031, 8, 13))

    def test_a_colony_is_unknown_until_counted_and_again_when_the_count_is_old(self) -> None:
        """Never counted; clear; three weeks later unknown, never quietly clear."""
        self.assertEqual(self.level(), ("unknown", "never_counted"))
        self.record(wash(self.colony, (0, 0)))
        self.assertEqual(self.level()[0], "clear")
        self.assertEqual(self.level(TODAY + timedelta(days=22)), ("unknown", "too_old"))

    def test_an_unanswered_act_does_not_go_away_with_time(self) -> None:
        """Over and not treated: three weeks later it is still over, and overdue."""
        self.record(wash(self.colony, (12, 3, 0)))
        self.assertIn(self.level()[0], ("act", "urgent"))
        level, reason = self.level(TODAY + timedelta(days=30))
        self.assertEqual((level in ("act", "urgent"), reason), (True, "overdue"))

    def test_a_lower_count_comes_down_one_step(self) -> None:
        """From urgent to none found: one level a count, since a treatment was not verified."""
        self.record(wash(self.colony, (30, 6, 1), date(2031, 7, 20)), date(2031, 7, 20))
        self.assertEqual(self.level(date(2031, 7, 20))[0], "urgent")
        self.record(wash(self.colony, (0, 0)))
        self.assertEqual(self.level(), ("act", "held_one_step"))

    def test_counts_told_late_are_put_in_their_place(self) -> None:
        """A wash of June that arrives in August changes the past, not today's verdict."""
        self.record(wash(self.colony, (0, 0)))
        self.record(wash(self.colony, (25, 4), date(2031, 6, 10)))
        found = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony))
        self.assertEqual([count.taken_on for count in found.counts], [TODAY, date(2031, 6, 10)])
        self.assertEqual(found.colony.counted_on, TODAY)

    def test_of_two_counts_of_one_moment_the_one_told_last_stands(self) -> None:
        """The same minute twice: what was recorded last is the latest count, whatever the ids are."""
        for shakes in ((0, 0), (1, 0), (20, 5)):
            self.record(wash(self.colony, shakes))
        found = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony)).colony
        self.assertEqual((found.mites, found.level), (25, "urgent"))

    def test_bees_of_a_honey_frame_cannot_show_clear(self) -> None:
        """None found among bees of a super says little: watch, with the reason, and a finding that says why."""
        answer = self.record(wash(self.colony, (0,), place_of_bees="super"))
        self.assertIn(self.level(), (("watch", "cannot_show_clear"), ("watch", "count")))
        self.assertTrue(any(finding.field == "place_of_bees" for finding in answer.findings), answer.findings)

    def test_a_dead_colony_takes_no_later_count(self) -> None:
        """A wash of the day before its end is a record; one after it is a mix-up of labels."""
        at_work(self.url, lambda unit: colonies_record.amend_colony(unit, self.colony, 1, label="gone", state="dead", state_since=date(2031, 7, 1), note=""))  # fmt: skip
        self.record(wash(self.colony, (9, 1), date(2031, 6, 30)))
        with self.assertRaisesRegex(InvalidInput, "^taken_at: .*dead since 2031-07-01"):
            self.record(wash(self.colony, (9, 1)))

    def test_days_are_those_of_the_place(self) -> None:
        """Corrane lies an hour behind: half past midnight in Greenwich is still the day before there."""
        answer = self.record(wash(self.colony, (1,), taken_at=datetime(2031, 8, 2, 0, 30, tzinfo=UTC)))
        self.assertEqual(answer.count.taken_on, date(2031, 8, 1))


class Trend(Demo):
    def test_growth_is_told_from_the_count_before(self) -> None:
        """From 2 to 18 in 300 within four weeks it really rose."""
        self.record(wash(self.colony, (2, 0), date(2031, 7, 5)), date(2031, 7, 5))
        answer = self.record(wash(self.colony, (15, 3)))
        assert answer.trend is not None
        self.assertEqual((answer.trend_since, answer.trend.days), (date(2031, 7, 5), 28))
        self.assertGreater(answer.trend.rate_per_day, 0.04)

    def test_across_a_treatment_there_is_no_growth(self) -> None:
        """Before and after a course is efficacy, not a trend."""
        rows = owner_rows(
            self.url,
            "SELECT m.id FROM mite_count m JOIN course t USING (colony_id) WHERE t.option_id LIKE 'FA%%' AND t.ended_on IS NOT NULL "
            "AND m.taken_on BETWEEN t.ended_on + 5 AND t.ended_on + 30 AND EXISTS (SELECT FROM mite_count b WHERE "
            "b.colony_id = m.colony_id AND b.taken_on BETWEEN t.placed_on - 14 AND t.placed_on) AND NOT EXISTS (SELECT FROM "
            "mite_count c WHERE c.colony_id = m.colony_id AND c.taken_on > t.ended_on AND c.taken_on < m.taken_on) AND m.association_id = %s LIMIT 5",
            made_id("corrane"),
        )
        self.assertTrue(rows)
        for (number,) in rows:
            answer = at_work(self.url, lambda unit, count=number: sampling_read.meaning_of(unit, count))
            self.assertIsNone(answer.trend)

    def test_without_bees_the_mites_are_kept_and_nothing_is_claimed(self) -> None:
        """No rate, no judgement, no level from it."""
        answer = self.record(wash(self.colony, (7,), known_by="not_recorded", bees=None))
        self.assertEqual((answer.reading, answer.judgement, answer.trend), (None, None, None))
        self.assertEqual(self.level(), ("unknown", "never_counted"))
        self.assertEqual(answer.count.shakes, [7])


class Amendments(Demo):
    def amend(self, count: UUID, version: int, amended: NewCount, reason: str = "misread the tray") -> CountMeaning:
        """Amend a wash with a reason."""
        return at_work(self.url, lambda unit: sampling_record.amend_count(unit, count, version, amended), reason=reason)

    def test_everything_that_follows_is_judged_anew(self) -> None:
        """From 30 to 1: the level falls, the history keeps both with the reason."""
        new = wash(self.colony, (30, 6))
        self.record(new)
        self.assertEqual(self.level()[0], "urgent")
        answer = self.amend(new.id, 1, again(new, shakes=(1, 0)))
        self.assertEqual((answer.count.version, answer.count.shakes), (2, [1, 0]))
        self.assertIn(self.level()[0], ("clear", "watch"))
        history = at_work(self.url, lambda unit: sampling_read.history(unit, new.id))
        self.assertEqual(
            [(entry.act, entry.reason) for entry in history], [("amended", "misread the tray"), ("created", "")]
        )
        former = history[0].previous
        assert former is not None
        self.assertEqual((former["shakes"], history[0].current["shakes"]), ([30, 6], [1, 0]))

    def test_what_an_amendment_refuses(self) -> None:
        """No reason, a stale version, another colony, a wash that cannot be; the first record stays."""
        new = wash(self.colony, (4,))
        self.record(new)
        with self.assertRaises(Conflict) as silent:
            self.amend(new.id, 1, again(new, shakes=(5,)), reason="")
        self.assertEqual(silent.exception.field, "reason")
        with self.assertRaises(Conflict):
            self.amend(new.id, 3, again(new, shakes=(5,)))
        with self.assertRaisesRegex(InvalidInput, "^colony_id:"):
            self.amend(new.id, 1, replace(new, colony_id=uuid4()))
        with self.assertRaisesRegex(InvalidInput, "^taken_at:"):
            self.amend(new.id, 1, replace(new, taken_at=datetime(2032, 1, 1, tzinfo=UTC)))
        self.assertEqual(at_work(self.url, lambda unit: sampling_read.meaning_of(unit, new.id)).count.shakes, [4])

    def test_a_keeper_reaches_no_count_of_others(self) -> None:
        """Neither its meaning nor its history."""
        new = wash(self.colony, (4,))
        self.record(new)
        orla = identity("keeper", keeper="Orla Fenwick")
        for look in (sampling_read.meaning_of, sampling_read.history):
            with self.assertRaises(NotFound):
                at_work(self.url, lambda unit, look=look: look(unit, new.id), orla)  # type: ignore[operator]


class Boards(Demo):
    def board(self, mites: int, days: float, **changes: Any) -> NewCount:
        """A clean, greased board read at noon."""
        at = datetime(2031, 8, 2, 11, tzinfo=UTC)
        fields = {"squares": (mites,), "cleaned": "yes", "greased": "yes", "ants": "no", **changes}
        return NewCount(uuid4(), self.colony, at, BoardSample(at - timedelta(days=days), at, **fields))

    def lay(self, number: UUID, days: float) -> None:
        """Lay a board so many days ago."""
        at = datetime(2031, 8, 2, 11, tzinfo=UTC) - timedelta(days=days)
        boards = sampling_boards
        at_work(
            self.url,
            lambda unit: boards.place_board(unit, number, self.colony, placed_at=at, cleaned="yes", greased="yes"),
        )

    def test_a_board_is_laid_read_and_gone(self) -> None:
        """Laid once, due on Today, read by a count, and no second one lies meanwhile."""
        number, other = uuid4(), uuid4()
        self.lay(number, 2)
        self.lay(number, 2)
        with self.assertRaises(Conflict):
            self.lay(other, 1)
        due = at_work(self.url, planning_read.worklist).boards
        self.assertIn(self.colony, [one for line in due for one in line.ids])
        answer = self.record(replace(self.board(20, 2), board_id=number))
        assert answer.reading is not None
        self.assertEqual((answer.reading.scale, answer.reading.as_counted), ("mites_per_day", 10.0))
        self.assertEqual(at_work(self.url, lambda unit: sampling_boards.boards_lying(unit, [self.colony])), [])
        with self.assertRaisesRegex(InvalidInput, "^board_id:"):
            self.record(replace(self.board(20, 2), board_id=number))

    def test_a_fall_leaves_a_school_of_rates_as_it_was_and_may_ask_for_a_wash(self) -> None:
        """Known clear, then a heavy fall: still clear, converted and wide, and the colony is to be counted now."""
        self.record(wash(self.colony, (0, 0)))
        answer = self.record(self.board(300, 2.5))
        self.assertIsNone(answer.judgement)
        assert answer.converted is not None and answer.prompt is not None
        self.assertGreater(answer.converted.high / answer.converted.low, 8)
        self.assertGreater(answer.prompt, 0.5)
        found = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony))
        self.assertEqual((found.colony.level, found.colony.recount_on), ("clear", TODAY))
        self.assertEqual([(one.method, one.converted) for one in found.points], [("wash", False), ("board", True)])

    def test_other_schools_speak_of_the_colony_and_not_only_of_its_last_count(self) -> None:
        """Beside a clear wash the daily fall of the board read a week before is urgent, and says of which day it is; once
        that board is too old, or treatment's fall, the school is silent. A board's slip has the schools of rates by the
        jar."""
        board = self.board(300, 2.5)
        week = timedelta(days=7)
        assert isinstance(board.sample, BoardSample)
        moved = replace(
            board.sample, placed_at=board.sample.placed_at - week, removed_at=board.sample.removed_at - week
        )
        before = replace(board, id=uuid4(), taken_at=board.taken_at - week, sample=moved)
        self.record(before, today=TODAY - week)
        answer = {one.scheme: one for one in self.record(wash(self.colony, (0, 0))).views}
        self.assertEqual((answer["fall_phase"].level, answer["fall_phase"].on), ("urgent", TODAY - week))
        self.assertEqual((answer["flat_2"].level, answer["flat_2"].on), ("clear", TODAY))
        fall = {one.scheme: one for one in self.record(replace(board, id=uuid4())).views}
        self.assertEqual((fall["flat_2"].level, fall["fall_phase"].on), ("clear", TODAY))
        later = TODAY + timedelta(days=30)
        late = {one.scheme: one for one in self.record(wash(self.colony, (0, 0), later), today=later).views}
        self.assertNotIn("fall_phase", late)
        self.assertEqual(late["observe"].on, later)

    def test_an_apiary_of_its_own_mind_is_judged_by_the_fall(self) -> None:
        """Under the daily fall the same board is urgent and the wash is silent; back again it is as before."""
        self.record(wash(self.colony, (0, 0)))
        self.record(self.board(300, 2.5))
        draft = ApiaryPolicyDraft("fall_phase", None, None, None)
        at_work(self.url, lambda unit: policy_record.set_apiary_policy(unit, HAY, draft, 0, "boards only here"))
        self.assertEqual(self.level(), ("urgent", "count"))
        with self.assertRaises(Conflict):
            at_work(self.url, lambda unit: policy_record.set_apiary_policy(unit, HAY, draft, 0, "again"))
        back = ApiaryPolicyDraft(None, None, None, None)
        at_work(self.url, lambda unit: policy_record.set_apiary_policy(unit, HAY, back, 1, "as all others"))
        self.assertEqual(self.level(), ("clear", "count"))

    def test_other_ways_are_kept_on_their_own_scale(self) -> None:
        """Drone cells in percent, a look without a figure; neither makes a colony known."""
        at = datetime(2031, 8, 2, 11, tzinfo=UTC)
        drones = self.record(NewCount(uuid4(), self.colony, at, DroneSample(80, 12, 19, 3)))
        look = self.record(NewCount(uuid4(), self.colony, at, LookSample(False)))
        assert drones.reading is not None
        self.assertEqual((drones.reading.scale, drones.reading.as_counted), ("percent_of_cells", 15.0))
        self.assertIsNone(look.reading)
        self.assertEqual(self.level(), ("unknown", "never_counted"))

    def test_what_was_chosen_on_purpose_is_judged_and_no_part_of_the_mean(self) -> None:
        """Fifty mites in the one colony that looked bad raise its level. Where all are counted nothing was chosen;
        with a newcomer uncounted it is no part of the mean, until an amendment says that it was drawn after all."""
        url = new_database(demo_template())
        bad = replace(wash(self.colony, (40, 10)), targeted=True)

        def mean() -> tuple[int, float]:
            found = at_work(url, lambda unit: places_read.apiary_view(unit, HAY)).estimate
            assert found is not None
            return found.counted, found.mean

        def add(colony: UUID) -> None:
            fields: dict[str, Any] = {
                "apiary_id": HAY, "label": str(colony)[:8], "since": date(2031, 5, 1), "note": "", "hive_id": None,
                "hive_type": "", "boxes": [], "queen": None, "split_from": None,
            }  # fmt: skip
            at_work(url, lambda unit: colonies_record.add_colony(unit, colonies_record.NewColony(id=colony, **fields)))

        living = [one.id for one in at_work(url, lambda unit: places_read.apiary_view(unit, HAY)).colonies]
        for colony in living:
            at_work(url, lambda unit, colony=colony: sampling_record.record_count(unit, wash(colony, (1, 0))))  # type: ignore[misc]
        counted, to_json = mean()
        self.assertEqual(counted, len(living))
        add(self.colony)
        answer = at_work(url, lambda unit: sampling_record.record_count(unit, bad))
        assert answer.judgement is not None
        self.assertEqual((answer.judgement.level, answer.count.targeted), ("urgent", True))
        self.assertEqual(mean()[0], len(living) + 1)
        self.assertGreater(mean()[1], 2 * to_json)
        add(uuid4())
        self.assertEqual(mean(), (len(living), to_json))
        drawn = replace(bad, targeted=False)
        at_work(url, lambda unit: sampling_record.amend_count(unit, bad.id, 1, drawn), reason="drawn by lot")
        self.assertEqual(mean()[0], len(living) + 1)

    def test_two_jars_are_judged_as_one(self) -> None:
        """5 in 300 asks for a second; with 7 more the two are 12 in 600, and half decides."""
        first = self.record(wash(self.colony, (5, 0)))
        second = self.record(wash(self.colony, (6, 1), taken_at=datetime(2031, 8, 2, 13, tzinfo=UTC)))
        assert first.judgement is not None and second.judgement is not None and second.pair is not None
        self.assertEqual(first.judgement.advice, "second_sample")
        self.assertGreater(first.judgement.flips or 0, 0.2)
        self.assertEqual((second.pair.mites, second.judgement.advice), (12, "treat"))

    def test_did_it_really_rise(self) -> None:
        """Any two counts of a colony of one scale are compared; of two scales, or of two colonies, not."""
        early, late = wash(self.colony, (2, 0), date(2031, 7, 5)), wash(self.colony, (15, 3))
        board = self.board(10, 2)
        for count in (early, late, board):
            self.record(count)
        found = at_work(self.url, lambda unit: sampling_trends.compare(unit, late.id, early.id))
        assert found.growth is not None
        self.assertEqual((found.first, found.growth.days, found.growth.words), (early.id, 28, "really_rose"))
        for other, why in ((board, "scale"), (early, "same_day")):
            answer = at_work(self.url, lambda unit, other=other: sampling_trends.compare(unit, early.id, other.id))
            self.assertEqual((answer.growth, answer.why_not), (None, why))

    def test_a_line_through_what_was_counted_since_the_split(self) -> None:
        """Three jars make a line; a roll among them widens it; what lies before a split is left out."""
        days = (date(2031, 6, 1), date(2031, 6, 22), date(2031, 7, 13), TODAY)
        for shakes, day in zip(((30, 5), (2, 0), (5, 1), (12, 3)), days, strict=True):
            self.record(wash(self.colony, shakes, day))
        late = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony)).trend
        assert late is not None
        self.assertEqual((late.line.counts, late.line.first), (4, days[0]))
        part = uuid4()
        fields = {"apiary_id": HAY, "label": str(part)[:8], "since": date(2031, 6, 10), "note": "", "hive_id": None, "hive_type": "",
                  "boxes": [], "queen": None, "split_from": self.colony}  # fmt: skip
        at_work(self.url, lambda unit: colonies_record.add_colony(unit, colonies_record.NewColony(id=part, **fields)))
        since = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony)).trend
        assert since is not None
        self.assertEqual((since.line.counts, since.line.first, since.line.words), (3, days[1], "really_rose"))
        roll = wash(self.colony, (9,), date(2031, 7, 20), method="sugar", rested_s=120, wet="no")
        self.record(roll)
        mixed = at_work(self.url, lambda unit: colonies_read.colony_view(unit, self.colony)).trend
        assert mixed is not None
        self.assertEqual((mixed.line.counts, mixed.methods), (4, ["sugar", "wash"]))


class BenchRuler(Demo):
    def ruler(self, **changes: Any) -> Ruler | None:
        """The ruler of a jar of 300 counted bees."""
        fields: dict[str, Any] = {
            "method": "wash", "known_by": "counted", "bees": 300, **changes,
        }  # fmt: skip
        span = fields.pop("mites_from", 0), fields.pop("mites_to", 60)
        return at_work(self.url, lambda unit: sampling_ruler.ruler(unit, HAY, Measure(**fields), *span))

    def test_the_ruler_says_what_the_record_will_say(self) -> None:
        """What the bench shows while counting is what the slip says afterwards, to the last digit."""
        ruler = self.ruler()
        assert ruler is not None
        for shakes, marks in (((7,), ruler.one_shake), ((5, 2), ruler.more_shakes)):
            self.setUp()  # another colony: a second jar of one would be taken together with the first
            answer = self.record(wash(self.colony, shakes))
            mark = marks[7]
            assert answer.reading is not None and answer.judgement is not None
            self.assertEqual((mark.mites, mark.median, mark.low, mark.high), (7, answer.reading.median, answer.reading.low, answer.reading.high))  # fmt: skip
            self.assertEqual((mark.level, mark.p_act), (answer.judgement.level, answer.judgement.p_act))

    def test_more_mites_never_mean_less(self) -> None:
        """Rate, its ends and the chance of being over rise with every tap."""
        ruler = self.ruler(known_by="volume_level", bees=None, volume_ml=120)
        assert ruler is not None
        for marks in (ruler.one_shake, ruler.more_shakes):
            for before, after in itertools.pairwise(marks):
                self.assertLess(before.median, after.median)
                self.assertLess(before.high, after.high)
                self.assertLessEqual(before.p_act, after.p_act)
        self.assertGreater(ruler.one_shake[10].median, ruler.more_shakes[10].median, "one shake misses more")

    def test_rulers_that_cannot_be(self) -> None:
        """Too long, upside down, wet bees; without bees there is none."""
        for changes in ({"mites_from": 9, "mites_to": 3}, {"mites_to": 30_000}):
            with self.subTest(changes=changes), self.assertRaisesRegex(InvalidInput, "^mites_to:"):
                self.ruler(**changes)
        with self.assertRaisesRegex(InvalidInput, "^mass_g:"):
            self.ruler(known_by="mass_wet", bees=None, mass_g=40.0)
        self.assertIsNone(self.ruler(known_by="not_recorded", bees=None))
