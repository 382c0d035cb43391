"""The register: what its entries add up to is what is known, after any order of amendments; nothing is entered twice."""

from __future__ import annotations

import unittest
from collections.abc import Mapping
from dataclasses import fields, replace
from datetime import date
from uuid import UUID

from hypothesis import given, settings
from hypothesis import strategies as st

from redframe.core.registers.register import (
    MANDATORY,
    PLACE,
    Entry,
    KeptLine,
    Line,
    entries_for,
    folded,
    kept_until,
    missing_of,
)
from redframe.core.registers.treated_for import treated_for

COMPLETE = Line(
    keeper="Tobias Quill", registration="C-0131", apiary="Kettle Wood", latitude=44.221, longitude=-31.405, colony="K3",
    treated_for="Count of 2.5", option="Formic acid strips", active="formic acid", product="Strips of the bulk order",
    form="strip", strength="68 g", lot="F-1", expires_on="2032-12-31", quantity=2.0, unit="strip", placed_on="2031-07-26",
    ended_on=None, withdrawal_days=0, honey_clear_on=None, supers="off", applied_by="Bettrys Lund", supplier="Store",
    bought_on="2031-06-12", receipt="C 31/071", prescriber="", disposal="", adverse="", result="", exceptions="", source="",
)  # fmt: skip
IDS = [UUID(int=number) for number in range(1, 5)]
words = st.sampled_from(["", "a", "b", "c"])
lines = st.builds(
    lambda lot, supplier, ended, quantity, colony, result: replace(
        COMPLETE, lot=lot, supplier=supplier, ended_on=ended, quantity=quantity, colony=colony, result=result
    ),
    words, words, st.sampled_from([None, "2031-08-02", "2031-08-09"]), st.sampled_from([None, 1.0, 2.0]),
    st.sampled_from(["K3", "K30"]), st.sampled_from(["", "worked", "failed"]),
)  # fmt: skip
known = st.dictionaries(st.sampled_from(IDS), lines)


def of_placing(line: Line) -> dict[str, object]:
    """What of a line can change: whose and where it was stays as it was entered."""
    return {each.name: getattr(line, each.name) for each in fields(Line) if each.name not in PLACE}


class Entries(unittest.TestCase):
    @settings(max_examples=300, deadline=None)
    @given(st.lists(known, max_size=8))
    def test_entries_add_up_to_what_is_known(self, states: list[Mapping[UUID, Line]]) -> None:
        """Whatever becomes known in whatever order: no line is lost, gone ones are void, the rest is as it is now."""
        register: list[Entry] = []
        ever: set[UUID] = set()
        for now in states:
            kept = list(folded(register).values())
            register += entries_for(kept, now)
            ever |= set(now)
            found = folded(register)
            self.assertEqual(set(found), ever)
            self.assertEqual({key for key, one in found.items() if not one.is_void}, set(now))
            for key, line in now.items():
                self.assertEqual(of_placing(found[key].line), of_placing(line))
            self.assertEqual(entries_for(list(found.values()), now), [], "nothing has changed: nothing is entered")

    def test_an_amendment_names_old_and_new(self) -> None:
        """A correction is kept apart from what was not known before."""
        kept = [KeptLine(IDS[0], COMPLETE, False)]
        added = entries_for(kept, {IDS[0]: replace(COMPLETE, ended_on="2031-08-02", disposal="burnt")})
        self.assertEqual([one.kind for one in added], ["added"])
        self.assertEqual([(one.field, one.old, one.new) for one in added[0].changes],
                         [("ended_on", None, "2031-08-02"), ("disposal", "", "burnt")])  # fmt: skip
        amended = entries_for(kept, {IDS[0]: replace(COMPLETE, lot="F-2", result="worked")})
        self.assertEqual([one.kind for one in amended], ["amended"])

    def test_who_prescribed_it_stays(self) -> None:
        """Where the policy names another later; where nobody was named it may be added."""
        kept = [KeptLine(IDS[0], replace(COMPLETE, prescriber="Ines Barrow"), False)]
        self.assertEqual(entries_for(kept, {IDS[0]: replace(COMPLETE, prescriber="Tom Ashe")}), [])
        kept = [KeptLine(IDS[0], replace(COMPLETE, prescriber=""), False)]
        (added,) = entries_for(kept, {IDS[0]: replace(COMPLETE, prescriber="Tom Ashe")})
        self.assertEqual((added.kind, [one.field for one in added.changes]), ("added", ["prescriber"]))

    def test_a_place_renamed_later_changes_no_line(self) -> None:
        """The line says whose and where it was on its day."""
        kept = [KeptLine(IDS[0], COMPLETE, False)]
        moved = replace(COMPLETE, keeper="Orla Fenwick", apiary="Skerrow Bank", colony="S9", latitude=44.0)
        self.assertEqual(entries_for(kept, {IDS[0]: moved}), [])

    def test_a_placing_taken_back_is_void_once(self) -> None:
        """Void, and entered again when it comes back, with what is different then."""
        kept = [KeptLine(IDS[0], COMPLETE, False)]
        self.assertEqual([one.kind for one in entries_for(kept, {})], ["void"])
        gone = [KeptLine(IDS[0], COMPLETE, True)]
        self.assertEqual(entries_for(gone, {}), [])
        back = entries_for(gone, {IDS[0]: replace(COMPLETE, lot="F-2")})
        self.assertEqual([(one.kind, len(one.changes)) for one in back], [("restored", 1)])


class Complete(unittest.TestCase):
    def test_each_mandatory_field_is_missed(self) -> None:
        """Each of them by itself; a line that has them all is complete."""
        asked = {"removal_required": True, "needs_prescription": False}
        self.assertEqual(missing_of(COMPLETE, **asked), [])
        for name in MANDATORY:
            empty = None if name in ("quantity", "expires_on", "bought_on") else ""
            with self.subTest(field=name):
                self.assertEqual(missing_of(replace(COMPLETE, **{name: empty}), **asked), [name])

    def test_disposal_is_asked_once_it_is_out(self) -> None:
        """While it is in the hive nobody can say where the remains went; what leaves none is not asked."""
        out = replace(COMPLETE, ended_on="2031-08-02")
        self.assertEqual(missing_of(out, removal_required=True, needs_prescription=False), ["disposal"])
        self.assertEqual(missing_of(out, removal_required=False, needs_prescription=False), [])

    def test_a_prescriber_where_the_law_asks(self) -> None:
        """Only where the option needs one."""
        self.assertEqual(missing_of(COMPLETE, removal_required=True, needs_prescription=True), ["prescriber"])

    def test_kept_for_five_years_at_least(self) -> None:
        """A shorter time is not taken; a leap day is over on the first of March."""
        self.assertEqual(kept_until(date(2031, 8, 2), 5), date(2036, 8, 2))
        self.assertEqual(kept_until(date(2031, 8, 2), 1), date(2036, 8, 2))
        self.assertEqual(kept_until(date(2032, 2, 29), 5), date(2037, 3, 1))
        self.assertEqual(kept_until(date(2032, 2, 29), 8), date(2040, 2, 29))


class TreatedFor(unittest.TestCase):
    def test_why(self) -> None:
        """An order before a count, a count of the last four weeks before the calendar."""
        day = date(2031, 8, 2)
        cases = [
            ((2.5, date(2031, 7, 24), 2.0, ""), "treated_on_count"),
            ((2.0, date(2031, 7, 24), 2.0, ""), "treated_on_count"),
            ((1.9, date(2031, 7, 24), 2.0, ""), "treated_under_level"),
            ((9.0, date(2031, 7, 4), 2.0, ""), "treated_by_calendar"),
            ((9.0, date(2031, 7, 5), 2.0, ""), "treated_on_count"),
            ((None, None, 2.0, ""), "treated_by_calendar"),
            ((9.0, date(2031, 7, 24), 2.0, " V 12/31 "), "treated_on_order"),
        ]
        for (rate, counted, level, order), code in cases:
            with self.subTest(rate=rate, counted=counted, order=order):
                self.assertEqual(treated_for(rate, counted, level, day, order).code, code)
        self.assertEqual(treated_for(None, None, None, day, " V 12/31 ").order, "V 12/31")
