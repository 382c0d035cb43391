"""From records to the facts of the eligibility engine: nothing left out, nothing stale, holds and courses as they are."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise
from typing import Any

from redframe.core.colonies.brood_state import BroodRecord, Stop
from redframe.core.colonies.condition import Closing, Recorded, Seen
from redframe.core.colonies.holds import Held
from redframe.core.policy.schemes import SCHEMES
from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.season.calendar import Calendar
from redframe.core.treatments.catalogue import default_catalogue
from redframe.core.treatments.eligibility import Choice, choose, suit
from redframe.core.treatments.facts import (
    GivenCourse,
    KnownQueen,
    KnownRate,
    KnownStrength,
    colony_facts,
    policy_facts,
)
from redframe.core.treatments.progress import Plan
from redframe.core.treatments.reasons import Reason
from redframe.core.treatments.situation import ColonyFacts, ForecastFacts, PolicyFacts, Situation
from redframe.core.treatments.together import rank_together
from redframe.core.treatments.verification import earliest_post, target_of

TODAY = date(2031, 8, 2)
CALENDAR = Calendar.parse(
    {"dormant": "11-05", "build_up": "02-20", "peak": "05-15", "decline": "07-25", "winter_bees": "09-01"}
)
QUEEN = KnownQueen("mated", date(2031, 5, 1), date(2031, 5, 1), None)


def before(days: int) -> date:
    """So many days before today."""
    return TODAY - timedelta(days=days)


def colony(day: date = TODAY, **more: Any) -> ColonyFacts:
    """A strong colony with capped brood, counted at 6.4 per 100 today, with some of it otherwise."""
    known: dict[str, Any] = {
        "today": TODAY,
        "strength": KnownStrength(9, "frames", TODAY),
        "brood_boxes": 1,
        "queen": QUEEN,
        "visits": [Seen(TODAY, "yes", True, supers_on=False, fed=False)],
        "courses": [],
        "brood": None,
        "rate": KnownRate(6.4, TODAY),
        "held": [],
    }
    given_now = known | more
    visits, courses = given_now.pop("visits"), given_now["courses"]
    closings = [
        Closing(one.days["close_supers_feeder"], supers_on=False, fed=False)
        for one in courses
        if "close_supers_feeder" in one.days
    ]
    return colony_facts(day, now=Recorded(visits, closings=closings).on(day), **given_now)


def policy(rules: TreatmentRules | None = None, day: date = TODAY, act: float = 2.0) -> PolicyFacts:
    """The policy of a place in the north."""
    return policy_facts(
        day,
        rules=rules or TreatmentRules(),
        calendar=CALENDAR,
        scope="whole_apiary",
        act_per_100=act,
        apiary_over=False,
    )


def mild() -> ForecastFacts:
    """Two weeks that suit everything."""
    return ForecastFacts(start=TODAY, tmax=[21.0] * 14, tmin=[12.0] * 14, rain_mm=[0.0] * 14)


def reasons_of(option: str, found: ColonyFacts, here: PolicyFacts | None = None) -> Sequence[Reason]:
    """The rules that fire for an option."""
    situation = Situation(
        today=TODAY, season_phase="post_harvest", colony=found, forecast=mild(), policy=here or policy()
    )
    return choose(default_catalogue(), situation).options[option].reasons


def rules_of(option: str, found: ColonyFacts, here: PolicyFacts | None = None) -> dict[str, date | None]:
    """The same with the day until which each does."""
    return {one.rule: one.until for one in reasons_of(option, found, here)}


def given(option: str, placed: date, ended: date | None = None, **days: date) -> GivenCourse:
    """A course of an option that was placed on a day."""
    done = {"place_1": placed, **days}
    state = "under_way" if ended is None else "awaiting_verification"
    plan = Plan(default_catalogue().option(option), placed)
    return GivenCourse(plan, state, None, placed, ended, done)  # type: ignore[arg-type]


class ByCalendar(unittest.TestCase):
    """What stopped the laying says when no brood is capped, until somebody looks."""

    def facts(self, day: int, *visits: Seen, kind: str = "queen_caged", release: int | None = 24, **more: Any) -> ColonyFacts:  # fmt: skip
        """The colony so many days after the laying stopped."""
        stop = Stop(kind, TODAY, None if release is None else TODAY + timedelta(days=release), "said")  # type: ignore[arg-type]
        seen = [Seen(TODAY, "yes", True), *visits]
        on = TODAY + timedelta(days=day)
        brood = BroodRecord([stop], (), seen).on(on, drone_season=False)
        return colony(on, visits=seen, brood=brood, **more)

    def test_from_its_day_on_none_is_capped(self) -> None:
        """Up to the day before the brood that was seen stays; the day is given all the while."""
        before, after = self.facts(21), self.facts(22)
        self.assertEqual((before.capped_worker_brood, before.brood_by_calendar), ("yes", False))
        self.assertEqual((after.capped_worker_brood, after.brood_by_calendar), ("no", True))
        self.assertEqual(after.brood_seen_on, TODAY + timedelta(days=22))
        for facts in (before, after):
            assert facts.brood_event is not None
            self.assertEqual((facts.brood_event.date, facts.release_on), (TODAY, TODAY + timedelta(days=24)))
            self.assertIsNone(facts.eggs_seen_on, "eggs of that day were laid before she was caged")

    def test_who_looked_is_believed(self) -> None:
        """Capped brood on day 23: no calendar any more; none on day 23: seen, and not by the calendar."""
        seen = self.facts(23, Seen(TODAY + timedelta(days=23), "yes"))
        self.assertEqual((seen.capped_worker_brood, seen.brood_event), ("yes", None))
        seen = self.facts(23, Seen(TODAY + timedelta(days=23), "no"))
        self.assertEqual((seen.capped_worker_brood, seen.brood_by_calendar), ("no", False))

    def test_after_her_release_she_lays(self) -> None:
        """So that the acid is asked for before her brood is capped."""
        self.assertIsNone(self.facts(23).laying_since)
        self.assertEqual(self.facts(26).laying_since, TODAY + timedelta(days=24))

    def test_the_acid_is_held_and_then_allowed(self) -> None:
        """A trickle: capped brood with its day, then allowed with a caution to look first."""
        expected = {15: ("not_now", TODAY + timedelta(days=22)), 23: ("allowed_with_cautions", None)}
        for day, (verdict, until) in expected.items():
            on = TODAY + timedelta(days=day)
            now = Situation(
                today=on,
                season_phase="flow",
                colony=self.facts(day, queen=replace(QUEEN, state="caged")),
                policy=policy(day=on),
            )
            trickle = suit(default_catalogue().option("OX_TRICKLE"), default_catalogue(), now)
            brood = [one for one in trickle.reasons if one.rule in ("T20", "T21")]
            with self.subTest(day=day):
                self.assertEqual(
                    [(one.level, one.until) for one in brood],
                    [("not_now", until)] if verdict == "not_now" else [("caution", None)],
                )


class Nothing(unittest.TestCase):
    def test_every_fact_is_said(self) -> None:
        """No field of the colony's or the policy's facts is left to a default."""
        self.assertEqual(colony().model_fields_set, set(ColonyFacts.model_fields))
        self.assertEqual(policy().model_fields_set, set(PolicyFacts.model_fields))

    def test_every_rule_of_the_policy_reaches_the_engine(self) -> None:
        """Each rule of treating, set apart from its default, changes the facts of the engine."""
        changed: dict[str, Any] = {
            "authorised": ["FA_STRIP2"], "excluded_groups": ["AMI"], "prescription_needed": ["AMZ_STRIP"], "resistance": ["PYR"],
            "cold": "10-20", "feed_start_by": "08-25", "supers_on": "09-10", "respirator_ok": True, "strict_rotation": True,
            "trickle_repeat": True, "vapour_series": True, "allow_oxalic_with_brood": True, "approach": "calendar",
            "prescriber": "Halla Brand", "honey_off": "07-20", "open_from_c": 17.0, "treatment_year": "07-01",
            "product_labels": [{"option": "THY_GEL", "withdrawal_days": 14}], "register_years": 8, "winter_target_kg": 18.0, "feeder_l": 3.0, "feed_l_day": 0.8, "crystals": "09-15",
        }  # fmt: skip
        self.assertEqual(set(changed), set(TreatmentRules.model_fields))
        # The season, the visit, the catalogue, the register, the autumn programme.
        elsewhere = {
            "honey_off", "open_from_c", "product_labels", "register_years", "winter_target_kg", "feeder_l", "feed_l_day",
            "crystals",
        }  # fmt: skip
        for name, value in changed.items():
            with self.subTest(rule=name):
                facts = policy(TreatmentRules.model_validate({name: value}))
                self.assertEqual(facts == policy(), name in elsewhere)


class Colonies(unittest.TestCase):
    def test_what_was_seen_long_ago_is_not_known(self) -> None:
        """Strength of two months, supers and feed of six weeks: older ones are unknown, never no."""
        for age, known in ((42, True), (43, False), (61, False)):
            found = colony(visits=[Seen(before(age), "yes", supers_on=True, fed=False)])
            with self.subTest(age=age):
                self.assertEqual((found.supers_on, found.fed), (True, False) if known else (None, None))
                self.assertEqual(found.brood_seen_on, before(age))
        for age, strong in ((60, True), (61, False)):
            found = colony(strength=KnownStrength(9, "frames", before(age)))
            self.assertEqual(found.strength is not None, strong)

    def test_the_step_that_took_supers_off_is_believed(self) -> None:
        """After a visit that saw them they are off; a visit that sees them later puts them back."""
        off = given("OX_EXT", before(2), close_supers_feeder=before(3))
        for seen, expected in ((before(10), False), (before(3), False), (before(1), True)):
            with self.subTest(seen=seen):
                found = colony(visits=[Seen(seen, supers_on=True, fed=True)], courses=[off])
                self.assertEqual((found.supers_on, found.fed), (expected, expected))

    def test_holds_are_told(self) -> None:
        """A notifiable disease stops every option; another hold and unexplained signs are a caution."""
        for reason, rule in (("notifiable", "T05"), ("other", "T06"), ("signs", "T06")):
            found = colony(held=[Held(reason, "ropy brood")])  # type: ignore[arg-type]
            with self.subTest(reason=reason):
                for option in ("FA_STRIP2", "DRONE_TRAP"):
                    self.assertIn(rule, rules_of(option, found))
        self.assertFalse({"T05", "T06"} & set(rules_of("FA_STRIP2", colony())))

    def test_a_course_under_way_says_when_it_is_out(self) -> None:
        """One chemical at a time, until the day on which the other should be out; an overdue one is out on no day."""
        due = TODAY + timedelta(days=4)
        for placed, until, was_due in ((before(3), due, None), (before(20), None, before(13))):
            with self.subTest(placed=placed):
                found = colony(courses=[given("FA_STRIP2", placed)])
                under_way = next(one for one in reasons_of("THY_GEL", found) if one.rule == "T09")
                self.assertEqual((under_way.until, under_way.was_due), (until, was_due))
        ahead = colony(TODAY + timedelta(days=10), courses=[given("FA_STRIP2", before(3))])
        self.assertEqual(ahead.last_treatments[0].end, TODAY + timedelta(days=4))
        overdue = colony(TODAY + timedelta(days=10), courses=[given("FA_STRIP2", before(20))])
        self.assertIsNone(overdue.last_treatments[0].end)


class Policies(unittest.TestCase):
    def test_what_the_association_says_is_done(self) -> None:
        """Prescription, resistance, feed and supers to come: each holds or warns as its rule says."""
        needed = TreatmentRules(prescription_needed=["AMZ_STRIP"])
        self.assertIn("T03", rules_of("AMZ_STRIP", colony(), policy(needed)))
        named = TreatmentRules(prescription_needed=["AMZ_STRIP"], prescriber="Halla Brand")
        self.assertNotIn("T03", rules_of("AMZ_STRIP", colony(), policy(named)))
        self.assertIn("T12", rules_of("FLUM_STRIP", colony(), policy(TreatmentRules(resistance=["PYR"]))))
        self.assertIn("T53", rules_of("FA_STRIP2", colony(), policy(TreatmentRules(feed_start_by="08-05"))))
        self.assertIn("T54", rules_of("AMZ_STRIP", colony(), policy(TreatmentRules(supers_on="08-20"))))

    def test_days_are_those_of_the_running_season(self) -> None:
        """A day gone by stays gone by until the dormant time begins; then it is next year's."""
        rules = TreatmentRules(cold="10-20", feed_start_by="08-25", supers_on="04-20")
        for day, year in ((date(2031, 9, 5), 2031), (date(2031, 10, 30), 2031), (date(2031, 11, 5), 2032)):
            with self.subTest(day=day):
                facts = policy(rules, day)
                self.assertEqual(facts.cold_date, date(year, 10, 20))
                self.assertEqual(facts.feed_start_by, date(year, 8, 25))
                self.assertEqual(facts.planned_supers_on, date(2032, 4, 20))

    def test_every_school_can_choose(self) -> None:
        """Options under the act level of every school on its scale, 0 where one mite is one too many."""
        for scheme in SCHEMES.values():
            act = scheme.levels["peak"].act
            for rate in (None, KnownRate(0.0, TODAY), KnownRate(3.0, TODAY)):
                with self.subTest(scheme=scheme.id, rate=rate):
                    fired = rules_of("FA_STRIP2", colony(rate=rate), policy(act=act))
                    below = rate is not None and rate.median < act
                    self.assertEqual("T77" in fired, below)
                    slow = rules_of("AMZ_STRIP", colony(rate=rate), policy(act=act))
                    self.assertEqual("T74" in slow, rate is not None and act > 0 and rate.median >= 2 * act)


class Gaps(unittest.TestCase):
    def test_one_acid_after_another(self) -> None:
        """Oxalic acid the day after formic acid or thymol; a week between doses of oxalic that go to the bees."""
        rows = (
            ("OX_TRICKLE", "FA_STRIP2", 0, True), ("OX_TRICKLE", "FA_STRIP2", 1, False), ("OX_EXT", "THY_GEL", 0, True),
            ("OX_VAP1", "OX_TRICKLE", 6, True), ("OX_VAP1", "OX_TRICKLE", 7, False), ("AMZ_STRIP", "FA_STRIP2", 0, False),
            ("FA_EVAP", "FA_STRIP2", 29, True), ("FA_EVAP", "FA_STRIP2", 30, False), ("OX_VAP1", "OX_VAP1", 6, True),
        )  # fmt: skip
        for option, used, since, waits in rows:
            with self.subTest(option=option, used=used, since=since):
                found = colony(courses=[given(used, before(since + 30), before(since))])
                self.assertEqual("T08" in rules_of(option, found), waits)

    def test_a_trickle_is_repeated_only_where_that_is_allowed(self) -> None:
        """From the fourteenth to the sixteenth day it is a caution and no third use; otherwise the gap stands."""
        allowed = policy(TreatmentRules(trickle_repeat=True))
        broodless = [Seen(TODAY, "no", False, supers_on=False, fed=False)]
        for days, here, level in (
            (13, allowed, "not_now"), (14, allowed, "caution"), (16, allowed, "caution"), (17, allowed, "not_now"), (15, policy(), "not_now"),
        ):  # fmt: skip
            earlier = given("OX_TRICKLE", before(days + 130), before(days + 130))
            found = colony(visits=broodless, courses=[given("OX_TRICKLE", before(days), before(days)), earlier])
            situation = Situation(
                today=TODAY, season_phase="winter_cluster", colony=found, forecast=mild(), policy=here
            )
            reasons = choose(default_catalogue(), situation).options["OX_TRICKLE"].reasons
            with self.subTest(days=days):
                self.assertEqual([one.level for one in reasons if one.rule == "T08"], [level])
                self.assertEqual("T07" in {one.rule for one in reasons}, level == "not_now")

    def test_another_option_is_one_entry(self) -> None:
        """A copy of an option under another name is judged, dated, verified and modelled as the first is."""
        catalogue = default_catalogue()
        for option in catalogue.options:
            twin = option.model_copy(update={"id": "TWIN"})
            wider = catalogue.model_copy(update={"options": [*catalogue.options, twin]})
            situation = Situation(
                today=TODAY,
                season_phase="post_harvest",
                colony=colony(),
                forecast=mild(),
                policy=policy(TreatmentRules(vapour_series=True)),
            )
            first, second = (suit(one, wider, situation) for one in (option, twin))
            with self.subTest(option=option.id):
                self.assertEqual((first.verdict, first.rules, first.dose), (second.verdict, second.rules, second.dose))
                for broodless in (True, False):
                    self.assertEqual(target_of(option, broodless), target_of(twin, broodless))
                    self.assertEqual(earliest_post(option, TODAY, broodless), earliest_post(twin, TODAY, broodless))


class Together(unittest.TestCase):
    def choice(self, **more: Any) -> Choice:
        """The options for a colony."""
        situation = Situation(
            today=TODAY, season_phase="post_harvest", colony=colony(**more), forecast=mild(), policy=policy()
        )
        return choose(default_catalogue(), situation)

    def test_alone_it_is_the_colony_s_own_ranking(self) -> None:
        """The allowed options of one colony come in the order of its ranking, supporting ones apart."""
        for strength in (3, 6, 9, 16):
            own = self.choice(strength=KnownStrength(strength, "frames", TODAY))
            together = [one for one in rank_together([own]) if one.ready]
            with self.subTest(strength=strength):
                self.assertEqual([one.option_id for one in together if not one.is_supporting], own.ranking)
                self.assertEqual([one.option_id for one in together if one.is_supporting], own.supporting)

    def test_what_more_colonies_may_have_comes_first(self) -> None:
        """Among options of one verdict; each option is listed once, whoever is named first."""
        strong, weak = self.choice(), self.choice(strength=KnownStrength(3, "frames", TODAY))
        for choices in ([strong, weak], [weak, strong], [strong, weak, weak]):
            ranked = rank_together(choices)
            self.assertEqual(sorted(one.option_id for one in ranked), sorted(default_catalogue().ids))
            for one, following in pairwise(ranked):
                if one.verdict == following.verdict:
                    self.assertGreaterEqual(one.ready, following.ready)
        self.assertEqual(rank_together([strong, weak]), rank_together([weak, strong]))
