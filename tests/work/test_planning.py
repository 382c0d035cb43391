"""Today and the apiaries through the use cases: who sees which work, what leaves the list, and what options are offered."""

from __future__ import annotations

import math
import unittest
from collections.abc import Callable
from datetime import UTC, date, datetime, timedelta
from uuid import UUID, uuid4

from redframe.core.errors import InvalidInput
from redframe.core.planning.due import rank
from redframe.core.status.apiary import WORST_FIRST
from redframe.core.status.apiary import worst as worst_of
from redframe.core.visits.record import After
from redframe.demo.scenario import made_id
from redframe.store.database import Identity
from redframe.store.errors import NotAllowed
from redframe.store.places import ApiaryDetails, ApiaryOrder, Fit, NewKeeper
from redframe.work.colonies import read as colonies_read
from redframe.work.colonies import record as colonies_record
from redframe.work.places import read as places_read
from redframe.work.places import record as places_record
from redframe.work.places.read import ListedApiary
from redframe.work.planning import read as planning_read
from redframe.work.planning.read import Worklist
from redframe.work.sampling import record as sampling_record
from redframe.work.treatments import options as treatments_options
from redframe.work.visits import record as visits_record
from tests.support import at_work, demo_template, identity, living, new_database, owner_rows, visited, washed

TODAY = date(2031, 8, 2)
ORLA = identity("keeper", keeper="Orla Fenwick")


class Demo(unittest.TestCase):
    """A copy of the demo and its worklist."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def today(self, who: Identity | None = None, day: date = TODAY) -> Worklist:
        """The worklist of a person on a day."""
        return at_work(self.url, planning_read.worklist, who, day=day)

    def count(self, colony: str, shakes: tuple[int, ...]) -> None:
        """Wash 300 bees of a colony today."""
        new = washed(UUID(colony), shakes, TODAY)
        at_work(self.url, lambda unit: sampling_record.record_count(unit, new))


class Today(Demo):
    def test_a_count_moves_a_colony_from_one_list_to_the_other(self) -> None:
        """Never counted: to be counted. Counted over: to be treated. Both name it once."""
        number = uuid4()
        place = made_id("corrane", "apiary", "Cairn Yard")
        at_work(self.url, lambda unit: colonies_record.add_colony(unit, colonies_record.NewColony(number, place, "Z9", TODAY)))  # fmt: skip
        self.assertIn(number, [one for line in self.today().counts for one in line.ids])
        self.count(str(number), (20, 4))
        now = self.today()
        self.assertNotIn(number, [one for line in now.counts for one in line.ids])
        self.assertEqual([line.apiary for line in now.over if number in line.ids], ["Cairn Yard"])
        at_work(self.url, lambda unit: colonies_record.amend_colony(unit, number, 1, label="Z9", state="dead", state_since=TODAY, note=""))  # fmt: skip
        self.assertNotIn(number, [one for line in self.today().over for one in line.ids], "the dead need no treatment")

    def test_a_visit_set_for_a_day_is_due_then(self) -> None:
        """What the last visit set is due from three days before, overdue after it, and done with the next visit."""
        labels = {line.apiary: (line.labels, line.overdue) for line in self.today().visits}
        self.assertEqual(labels["St Ossory"], (["O1", "O2", "O3", "O4", "O5", "O6", "O7"], 7))
        colony = made_id("corrane", "Kettle Wood", "K6")

        def visited(day: date, then: date) -> None:
            noon = datetime(day.year, day.month, day.day, 11, tzinfo=UTC)
            opened = at_work(self.url, lambda unit: visits_record.open_visit(unit, uuid4(), colony, noon), day=day)
            after = After(temper=8, next_visit=then, next_why="cells seen")
            at_work(self.url, lambda unit: visits_record.save_part(unit, opened.visit.id, "after", 0, after), day=day)
            at_work(self.url, lambda unit: visits_record.close_visit(unit, opened.visit.id), day=day)

        def due(day: date) -> list[tuple[bool, date, str]]:
            return [
                (line.overdue > 0, line.due_on, line.why) for line in self.today(day=day).visits if "K6" in line.labels
            ]

        visited(TODAY, date(2031, 8, 9))
        self.assertEqual(due(date(2031, 8, 5)), [])
        self.assertEqual(due(date(2031, 8, 6)), [(False, date(2031, 8, 9), "cells seen")])
        visited(date(2031, 8, 10), date(2031, 8, 25))
        self.assertEqual(due(date(2031, 8, 12)), [])

    def test_lists_are_in_the_order_of_their_urgency(self) -> None:
        """Overdue before due before waiting before soon; apiaries with urgent colonies first."""
        found = self.today()
        order = ["overdue", "due", "waiting_for_weather", "soon"]
        ranks = [order.index(line.urgency) for line in found.steps]
        self.assertEqual(ranks, sorted(ranks))
        urgent = [line.urgent for line in found.over]
        self.assertEqual(urgent, sorted(urgent, reverse=True))
        for line in found.steps:
            with self.subTest(step=line.due.step, apiary=line.due.apiary):
                self.assertEqual(line.urgency == "overdue", line.due.latest < TODAY and not line.weather)
                self.assertEqual(line.due.colonies, len(line.due.labels))

    def test_today_and_the_list_of_apiaries_name_the_same_first(self) -> None:
        """One order on both screens, by the last sensible day; late is what lies behind; each apiary stands once."""
        work = self.today().work
        listed = [one.work for one in at_work(self.url, places_read.places_view).apiaries if one.work]
        self.assertEqual([(one.apiary_id, one.by, one.late) for one in work], [(one.apiary_id, one.by, one.late) for one in listed])  # fmt: skip
        self.assertEqual(len({one.apiary_id for one in work}), len(work))
        for one in work:
            with self.subTest(apiary=one.apiary):
                self.assertEqual(one.by, one.due[0].by)
                self.assertEqual(one.late, max(0, (TODAY - one.by).days))
                self.assertEqual(len(one.colonies), len(self.alive({one.apiary})))
                for colony in one.colonies:
                    self.assertEqual(colony.rate is None, colony.scale is None)
        self.assertEqual((work[0].apiary, work[0].due[0].code, work[0].by), ("Mell Fold", "treat_overdue", date(2031, 7, 15)))  # fmt: skip
        self.assertTrue(all(colony.old for colony in work[0].colonies))

    def test_an_apiary_says_what_each_list_says(self) -> None:
        """Every line of the day's work is a piece of its apiary's, of as many colonies; nothing is there twice."""
        found = self.today()
        lines = sorted(
            [(one.apiary_id, one.colonies) for one in (*found.over, *found.counts, *found.boards, *found.visits)]
            + [(one.due.apiary_id, one.due.colonies) for one in found.steps]
        )
        self.assertEqual(sorted((one.apiary_id, due.colonies) for one in found.work for due in one.due), lines)
        self.assertEqual(found.apiaries, len(at_work(self.url, places_read.places_on_map).places))
        self.assertEqual(found.with_work, len(found.work))
        self.assertEqual(found.winter_bees, date(2031, 8, 25))
        self.assertIsNone(self.today(day=date(2031, 8, 25)).winter_bees, "they are being laid")

    def test_what_to_take_along_is_what_the_courses_state(self) -> None:
        """A strip a colony for the second dose at Kettle Wood, a jar for each to count, gloves; nothing of others."""
        [wood] = [one for one in self.today().work if one.apiary == "Kettle Wood"]
        washes = sum(due.colonies for due in wood.due if due.kind in ("count", "verify"))
        self.assertEqual(wood.kit.washes, washes)
        self.assertEqual([(dose.quantity, dose.unit) for dose in wood.kit.doses], [(5.0, "strip")])
        self.assertIn("acid-resistant gloves", wood.kit.protection)
        [fold] = [one for one in self.today().work if one.apiary == "Mell Fold"]
        self.assertEqual((fold.kit.doses, fold.kit.protection), ([], []))

    def test_a_keeper_has_the_own_apiaries_in_the_same_order(self) -> None:
        """Cut from the mentor's list, day and reasons alike."""
        own = [one for one in self.today().work if one.apiary in ("Tarn Head", "Skerrow Bank")]
        keeper = self.today(ORLA).work
        self.assertEqual([(one.apiary, one.by, list(one.due)) for one in keeper], [(one.apiary, one.by, list(one.due)) for one in own])  # fmt: skip

    def test_every_line_is_what_the_person_may_see(self) -> None:
        """The keeper's list is the mentor's, cut to the own apiaries; the southern association has its own."""
        own = {"Tarn Head", "Skerrow Bank"}
        keeper, mentor = self.today(ORLA), self.today()
        self.assertEqual([line.labels for line in keeper.over], [line.labels for line in mentor.over if line.apiary in own])  # fmt: skip
        self.assertEqual([line.due.course_id for line in keeper.steps], [line.due.course_id for line in mentor.steps if line.due.apiary in own])  # fmt: skip
        self.assertEqual(keeper.colonies, len(self.alive(own)))
        self.assertGreater(mentor.colonies, 100)
        south = self.today(identity(association="ellery"))
        self.assertEqual({line.apiary for line in south.counts} & {line.apiary for line in mentor.counts}, set())
        self.assertLess(south.colonies, 15)

    def alive(self, apiaries: set[str]) -> list[tuple[object, ...]]:
        """Living colonies of these apiaries as the owner sees them."""
        query = "SELECT c.id FROM colony c JOIN apiary a ON a.id = c.apiary_id WHERE a.name = ANY(%s) AND c.state IN ('alive', 'queenless')"
        return owner_rows(self.url, query, sorted(apiaries))

    def test_time_alone_brings_work(self) -> None:
        """Five weeks without a count: everything that was clear is to be counted again, and the overdue stay."""
        later = self.today(day=TODAY + timedelta(days=35))
        self.assertGreater(
            sum(line.colonies for line in later.counts), sum(line.colonies for line in self.today().counts)
        )
        over = {one for line in self.today().over for one in line.ids}
        self.assertLessEqual(over, {one for line in later.over for one in line.ids})


class Places(Demo):
    def test_the_overview_adds_up(self) -> None:
        """Each apiary's levels sum to its living colonies, and the apiary's own page shows the same."""
        view = at_work(self.url, places_read.places_view)
        for one, worst in ((listed.overview, listed.overview.worst) for listed in view.apiaries):
            with self.subTest(apiary=one.name):
                self.assertEqual(one.urgent + one.act + one.watch + one.clear + one.unknown, one.colonies)
                page = at_work(self.url, lambda unit, place=one.id: places_read.apiary_view(unit, place))  # type: ignore[misc]
                alive = [colony for colony in page.colonies if colony.state in ("alive", "queenless")]
                self.assertEqual((len(alive), worst_of(colony.level for colony in alive)), (one.colonies, worst))
                self.assertEqual(sum(colony.level == "urgent" for colony in alive), one.urgent)

    def test_a_list_in_pages_is_the_whole_list(self) -> None:
        """In every order, for staff and keeper, filtered or not: pages of three hold each apiary once, in the order of
        what the order names, and begin where the one before has ended, also when its last row has changed meanwhile."""
        orders: dict[ApiaryOrder, Callable[[ListedApiary], object]] = {
            "by": lambda one: (one.work is None, one.work and rank(one.work.due), one.overview.name.casefold()),
            "name": lambda one: one.overview.name.lower(),
            "level": lambda one: WORST_FIRST.index(one.overview.worst) if one.overview.worst else 9,
            "highest": lambda one: -(-1 if one.overview.highest is None else one.overview.highest),
            "forecast": lambda one: -one.overview.forecast_over,
            "counted": lambda one: one.overview.oldest_count_on or date.min,
        }
        for who in (None, ORLA):
            everything = at_work(self.url, places_read.places_on_map, who).places
            for sort, key in orders.items():
                for fit in (Fit(), Fit("E"), Fit(level="act")):
                    with self.subTest(sort=sort, fit=fit, keeper=who is not None):
                        found = self.pages(sort, fit, who)
                        self.assertEqual(
                            sorted(one.overview.name for one in found),
                            sorted(
                                one.name
                                for one in everything
                                if fit.find.lower() in f"{one.name} {one.keeper}".lower()
                                and fit.level in (None, one.worst)
                            ),
                        )
                        keys = [key(one) for one in found]
                        self.assertEqual(keys, sorted(keys))  # type: ignore[type-var]

    def test_the_order_that_is_kept_says_what_is_read_anew(self) -> None:
        """What is said of an apiary is the same in the kept order and where its name is looked for."""
        for who in (None, ORLA):
            kept = {one.overview.id: one for one in self.pages("by", Fit(), who)}
            found = self.pages("by", Fit("e"), who)
            self.assertGreater(len(found), 1)
            self.assertEqual(found, [kept[one.overview.id] for one in found])

    def pages(self, sort: ApiaryOrder, fit: Fit, who: Identity | None) -> list[ListedApiary]:
        found: list[ListedApiary] = []
        after = None
        while True:
            page = at_work(self.url, lambda unit, a=after: places_read.places_view(unit, sort, fit, a, 3), who)  # type: ignore[misc]
            found += page.apiaries
            after = page.next
            if after is None:
                return found

    def test_no_page_begins_anywhere_else(self) -> None:
        """A place that no page gave is refused, not guessed at."""
        for text in ("", "x", "____", "AAAA" * 40, "é"):
            with self.subTest(text=text), self.assertRaises(InvalidInput):
                at_work(self.url, lambda unit, a=text: places_read.places_view(unit, after=a))  # type: ignore[misc]

    def test_urgent_neighbours_are_told_to_those_who_may_see_them(self) -> None:
        """On the apiary's page: within three kilometres, urgent, with the distance on the sphere; a keeper, who sees no
        other apiary, hears of none."""
        view = at_work(self.url, places_read.places_on_map).places
        urgent = {one.overview.id: one.overview.urgent for one in at_work(self.url, places_read.places_view).apiaries}
        place = {one.name: one for one in view}
        answer = 0
        for own in place.values():
            page = at_work(self.url, lambda unit, one=own.id: places_read.apiary_view(unit, one))  # type: ignore[misc]
            found = {one.name: (one.urgent, round(one.km, 3)) for one in page.urgent_near}
            expected = {}
            for other in place.values():
                here, there = ((math.radians(one.latitude), math.radians(one.longitude)) for one in (own, other))
                cosine = math.sin(here[0]) * math.sin(there[0]) + math.cos(here[0]) * math.cos(there[0]) * math.cos(here[1] - there[1])  # fmt: skip
                km = 6371.0 * math.acos(min(1.0, cosine))
                if other is not own and urgent[other.id] and km <= 3.0:
                    expected[other.name] = (urgent[other.id], round(km, 3))
            self.assertEqual(found, expected, own.name)
            answer += len(found)
        self.assertGreater(answer, 0)
        page = at_work(self.url, lambda unit: places_read.apiary_view(unit, place["Tarn Head"].id), ORLA)
        self.assertLessEqual({one.name for one in page.urgent_near}, {"Skerrow Bank"})

    def test_strips_hold_what_the_colony_holds(self) -> None:
        """Counts and courses of an apiary's strips are those of its colonies' own pages, within the strip's days."""
        place = made_id("corrane", "apiary", "Kettle Wood")
        page = at_work(self.url, lambda unit: places_read.apiary_view(unit, place))
        for colony in page.colonies[:4]:
            own = at_work(self.url, lambda unit, one=colony.id: colonies_read.colony_view(unit, one))  # type: ignore[misc]
            expected = {count.id for count in own.counts if count.taken_on >= page.first}
            with self.subTest(colony=colony.label):
                self.assertEqual({count.id for count in page.counts if count.colony_id == colony.id}, expected)

    def test_a_keeper_adds_only_to_the_own(self) -> None:
        """Another keeper's name is no choice; keepers are added by the association; the same write again is one apiary."""
        moss_end = ApiaryDetails("Moss End", 44.2, -31.4, 10)
        number, quill = uuid4(), made_id("corrane", "keeper", "Tobias Quill")
        with self.assertRaisesRegex(InvalidInput, "^keeper_id:"):
            at_work(self.url, lambda unit: places_record.add_apiary(unit, number, quill, moss_end), ORLA)
        with self.assertRaises(NotAllowed):
            at_work(self.url, lambda unit: places_record.add_keeper(unit, uuid4(), NewKeeper("Wren")), ORLA)
        for _ in range(2):
            added = at_work(self.url, lambda unit: places_record.add_apiary(unit, number, made_id("corrane", "keeper", "Orla Fenwick"), moss_end), ORLA)  # fmt: skip
            self.assertEqual((added.id, added.keeper), (number, "Orla Fenwick"))


class Options(Demo):
    def test_what_was_seen_is_what_is_judged_by(self) -> None:
        """Supers and feed hold for days, then are not known; brood and strength come from the latest look at each."""
        number, label = living(self.url, "Skerrow Bank")[0]
        place, colony = made_id("corrane", "apiary", "Skerrow Bank"), UUID(number)
        looked = After(seams_of_bees=8.0, capped_brood=False, eggs_seen=False, supers_on=True, feed="none")
        visited(self.url, colony, TODAY, looked)
        visited(self.url, colony, TODAY, After(note="a glance"))
        near = at_work(self.url, lambda unit: treatments_options.options_for(unit, place, [colony])).colonies[0]
        facts = near.situation.colony
        self.assertEqual((near.colony.label, facts.supers_on, facts.fed, facts.capped_worker_brood), (label, True, False, "no"))  # fmt: skip
        assert facts.strength is not None
        self.assertEqual((facts.strength.value, facts.strength.unit), (8.0, "seams"))
        far = at_work(
            self.url, lambda unit: treatments_options.options_for(unit, place, [colony], TODAY + timedelta(days=200))
        )
        self.assertIsNone(far.colonies[0].situation.colony.supers_on, "what was on in August is not known in February")
        self.assertIsNone(far.colonies[0].situation.colony.strength)

    def test_days_and_colonies_that_cannot_be_asked_for(self) -> None:
        """Yesterday, the year after next, a colony of another apiary."""
        place, colony = made_id("corrane", "apiary", "Skerrow Bank"), UUID(living(self.url, "Skerrow Bank")[1][0])
        stranger = UUID(living(self.url, "Plover Hay")[0][0])
        for field, ids, day in (
            ("start_on", [colony], TODAY - timedelta(days=1)), ("start_on", [colony], TODAY + timedelta(days=400)),
            ("colony_ids", [colony, stranger], TODAY),
        ):  # fmt: skip
            with self.subTest(field=field, day=day), self.assertRaisesRegex(InvalidInput, rf"^{field}"):
                at_work(self.url, lambda unit, ids=ids, day=day: treatments_options.options_for(unit, place, ids, day))  # type: ignore[misc]
