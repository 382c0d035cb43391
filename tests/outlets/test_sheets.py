"""What is printed and handed on of a count week: one page whatever happened, in words, and nothing that names a place."""

from __future__ import annotations

import csv
import io
import json
import re
import unittest
from dataclasses import replace
from datetime import date
from itertools import pairwise
from typing import Any
from unittest import mock
from uuid import UUID

from hypothesis import given, settings
from hypothesis import strategies as st
from reportlab.platypus import Paragraph

from redframe.core.campaigns.records import WeekCount
from redframe.core.campaigns.results import Bar, Change, Share, distribution, share_over
from redframe.core.campaigns.week import ApiaryLine, CellLine, Coverage, KeeperLine, MethodTally, SchemeShare
from redframe.outlets import count_week_report
from redframe.outlets.count_table import cells_geojson, counts_csv
from redframe.store.campaigns import CountWeek, WeekTreatment
from redframe.work.campaigns.results import Results, TreatmentTally

FIRST, LAST = date(2031, 7, 25), date(2031, 8, 3)
WEEK = CountWeek(
    UUID(int=1), "Midsummer count week", FIRST, LAST, "sugar", 0.4, "Wash 300 bees", "Idris Calloway", 1, 3
)
SECRETS = ("Kettle Wood", "Far Skerry", "Tobias Quill", "Orla Fenwick", "K1", "44.2", "31.4")
"""Names, labels and degrees that no file may carry."""


def share(over: int, counted: int) -> Share:
    """A share that has counts."""
    found = share_over(over, counted, 4)
    assert found is not None
    return found


def cell(name: str, south: float, west: float, over: int = 3, counted: int = 12, **rest: Any) -> CellLine:
    """A cell of the map, a tenth of a degree wide."""
    line = CellLine(name, south, west, south + 0.1, west + 0.1, 4, 3, 20, counted, over, share(over, counted), 1.6, FIRST, LAST, "watch", False)  # fmt: skip
    return replace(line, **rest)


def apiary(number: int, name: str, keeper: str, at: str | None) -> ApiaryLine:
    """An apiary of the week, in a cell or elsewhere."""
    return ApiaryLine(UUID(int=100 + number), name, keeper, at, 8, 5, 1.6, 0.8, 3.1, 55.0, 3, 2, 0, False)


def count(number: int, of: int, median: float | None = 1.5, **rest: Any) -> WeekCount:
    """A count of a colony."""
    known = median is not None
    figures = (1.5, 0.6, 3.2) if known else (None, None, None)
    line = WeekCount(UUID(int=200 + number), UUID(int=300 + number), f"K{number}", UUID(int=100 + of), "wash", FIRST, [3, 1], "counted" if known else "not_recorded", 4 if known else None, 300.4 if known else None, "wash_shakes" if known else None, *figures, False)  # fmt: skip
    return replace(line, **({"median": median} if known else {}), **rest)


def results(**changes: Any) -> Results:
    """A week in which much happened."""
    found = Results(
        coverage=Coverage(10, 5, 17, 7, 110, 48, 48, False), phases=["pre_winter"], spans_phases=False, median=1.1,
        quartiles=(0.8, 2.2), distribution=distribution([0.3, 0.8, 1.2, 2.4, 12.0], 4),
        shares=[SchemeShare("flat_2", "Flat 2", share(13, 48)), SchemeShare("any_mite", "Any mite", None)],
        methods=[MethodTally("wash", 40, 1.1), MethodTally("co2", 8, None)], recovery=None,
        treatments=[TreatmentTally("Thymol gel", WeekTreatment("THY_GEL", 9, 4, 2, 1, 1, 1))],
        treated_since=date(2031, 6, 1), change=Change(20, 1.4, 1.1, 1.8, 28.0), change_since="Spring count week",
        apiaries=[apiary(1, "Kettle Wood", "Tobias Quill", "N1"), apiary(2, "Far Skerry", "Orla Fenwick", None)],
        cells=[cell("N1", 44.2, -31.4), cell("N2", 44.2, -31.3, 9, level="urgent")], elsewhere=None,
        keepers=[KeeperLine(UUID(int=5), "Tobias Quill", 1, 9, 5, 0, None, True)],
        counts=[count(1, 1), count(2, 1, None), count(3, 2, treated=True)],
    )  # fmt: skip
    return replace(found, **changes)


def pages(document: bytes) -> int:
    """How many pages a PDF has."""
    return len(re.findall(rb"/Type\s*/Page\b", document))


class Report(unittest.TestCase):
    def said(self, week: CountWeek, found: Results, association: str = "Corrane Beekeepers' Association") -> str:
        """The running text of the report, which is one page."""
        seen: list[str] = []

        def paragraph(text: str, *style: Any) -> Paragraph:
            seen.append(text)
            return Paragraph(text, *style)

        with mock.patch.object(count_week_report, "Paragraph", paragraph):
            document = count_week_report.count_week_report(week, found, association)
        self.assertTrue(document.startswith(b"%PDF-"))
        self.assertEqual(pages(document), 1)
        return "\n".join(seen)

    def test_it_speaks_as_the_screen_does(self) -> None:
        """Days written out, methods and phases by their names, figures with what they are of; no code, no bare date."""
        text = self.said(WEEK, results())
        for words in ("25 July 2031 to 3 August 2031, by sugar roll", "Phase: before winter bees", "CO2 roll 8 colonies, median -", "wash 40 colonies, median 1.1", "7 of 17 apiaries (41 %)", "1.40 times (1.10 to 1.80) in 20 colonies", "Treatments since 1 June 2031"):  # fmt: skip
            self.assertIn(words, text)
        self.assertNotRegex(text, r"pre_winter|co2\b|\d{4}-\d\d-\d\d")
        self.assertNotIn("chose themselves", text)
        few = self.said(WEEK, results(coverage=Coverage(10, 2, 17, 3, 110, 12, 9, True)))
        self.assertIn("chose themselves", few)

    def test_it_names_no_keeper_and_no_apiary(self) -> None:
        """What stands in it is the association's; not even its map knows an apiary."""
        text = self.said(WEEK, results())
        for secret in SECRETS:
            self.assertNotIn(secret, text)

    def test_names_are_text_and_never_markup(self) -> None:
        """An association, a week and the week before may be called anything."""
        odd = 'Bees & <b>Hives</b> <font size="90">"Ltd"</font> ' * 4
        text = self.said(replace(WEEK, name=odd[:120]), results(change_since=odd), odd)
        self.assertIn("&lt;b&gt;", text)
        self.assertNotIn("<font", text)

    @given(
        st.lists(st.sampled_from([0.0, 0.4, 1.9, 5.5, 40.0]), max_size=300), st.integers(0, 30), st.integers(0, 40),
        st.booleans(), st.booleans(),
    )  # fmt: skip
    @settings(max_examples=25, deadline=None, derandomize=True)
    def test_one_page_whatever_was_counted(
        self, rates: list[float], areas: int, options: int, unknown: bool, nothing: bool
    ) -> None:
        """Nothing or hundreds, no area or thirty, no treatment or forty: a page, and no error on the way."""
        changes: dict[str, Any] = {
            "distribution": distribution(rates, len(rates) // 3), "median": rates[0] if rates else None,
            "quartiles": (0.5, 2.0) if rates else None, "change": None if unknown else Change(3, 0.2, 0.01, 9.0, 365.0),
            "cells": [cell(f"A{n}", 44 + n / 10, -31 + n / 7, few=n % 2 == 0, level=None if n % 5 == 0 else "act") for n in range(areas)],
            "treatments": [TreatmentTally(f"Option {n}", WeekTreatment("X", 999, 200, 200, 200, 200, 199)) for n in range(options)],
            "elsewhere": cell("elsewhere", 0, 0), "methods": [] if nothing else results().methods,
        }  # fmt: skip
        self.said(WEEK, results(**changes))


class Files(unittest.TestCase):
    def rows(self, found: Results) -> list[dict[str, str]]:
        """The lines of the table of counts."""
        return list(csv.DictReader(io.StringIO(counts_csv(found), newline="")))

    def test_counts_go_out_without_name_or_place(self) -> None:
        """A line a count, by its cell; the bees whole, the rate to two places, nothing where nothing is known."""
        found = results()
        lone = self.rows(found)
        self.assertEqual([(one["cell"], one["method"], one["mites"]) for one in lone], [("N1", "wash", "4"), ("N1", "wash", "4")])  # fmt: skip
        rated = next(one for one in lone if one["rate_per_100"])
        self.assertEqual((rated["bees"], rated["rate_per_100"], rated["low_per_100"], rated["high_per_100"]), ("300", "1.50", "0.60", "3.20"))  # fmt: skip
        bare = next(one for one in lone if not one["rate_per_100"])
        self.assertEqual((bare["bees"], bare["low_per_100"], bare["high_per_100"]), ("", "", ""))
        for secret in SECRETS:
            self.assertNotIn(secret, counts_csv(found))

    def test_the_only_apiary_of_a_corner_is_left_out(self) -> None:
        """Its counts would be its keeper's: they go out once three apiaries of three keepers lie elsewhere."""
        for apiaries, keepers, shown in ((1, 1, 2), (3, 2, 2), (2, 3, 2), (3, 3, 3)):
            rest = cell("elsewhere", 0, 0, apiaries=apiaries, keepers=keepers)
            rows = self.rows(results(elsewhere=rest))
            with self.subTest(apiaries=apiaries, keepers=keepers):
                self.assertEqual(len(rows), shown)
                self.assertEqual(sum(one["cell"] == "" for one in rows), shown - 2)
                self.assertEqual([one["treated_28d"] for one in rows if one["cell"] == ""], ["1"] * (shown - 2))

    def test_the_map_is_geojson(self) -> None:
        """A polygon a cell, its ring closed and against the clock, longitude first; figures only, no apiary."""
        made = cells_geojson(results(), "Midsummer count week")
        text = json.dumps(made)
        loaded: dict[str, Any] = json.loads(text)
        self.assertEqual((loaded["type"], loaded["name"], len(loaded["features"])), ("FeatureCollection", "Midsummer count week", 2))  # fmt: skip
        for feature, of in zip(loaded["features"], results().cells, strict=True):
            [ring] = feature["geometry"]["coordinates"]
            self.assertEqual(ring[0], ring[-1])
            self.assertEqual({x for x, _ in ring}, {round(of.west, 5), round(of.east, 5)})
            self.assertEqual({y for _, y in ring}, {round(of.south, 5), round(of.north, 5)})
            area = sum(a[0] * b[1] - b[0] * a[1] for a, b in pairwise(ring)) / 2
            self.assertGreater(area, 0, "the right-hand rule of RFC 7946")
            self.assertEqual((feature["properties"]["counted"], feature["properties"]["over_act"], feature["properties"]["level"]), (of.counted, of.over, of.level))  # fmt: skip
        for secret in SECRETS[:5]:
            self.assertNotIn(secret, text)

    def test_a_cell_without_counts_has_no_share(self) -> None:
        """None, not nought: nobody counted there."""
        empty = replace(cell("N3", 44.3, -31.4), counted=0, over=0, share=None, median=None, level=None)  # fmt: skip
        [feature] = cells_geojson(results(cells=[empty]), "week")["features"]  # type: ignore[misc]
        found = feature["properties"]
        self.assertEqual([found[name] for name in ("share_over_act", "low", "high", "median_per_100", "level")], [None] * 5)  # fmt: skip

    def test_an_empty_week_is_an_empty_table(self) -> None:
        """Its heading and no line; a map without features."""
        nothing = results(counts=[], cells=[], apiaries=[])
        self.assertEqual(counts_csv(nothing).count("\r\n"), 1)
        self.assertEqual(cells_geojson(nothing, "week")["features"], [])

    def test_bars_hold_every_rate_once(self) -> None:
        """What the report draws adds up: each rate in one bar, none found apart."""
        rates = [0.0, 0.5, 1.0, 2.0, 2.999, 3.0, 9.99, 10.0, 55.0]
        bars = distribution(rates, 4)
        self.assertEqual((bars[0], sum(one.colonies for one in bars[1:])), (Bar(None, None, 4), len(rates)))
        for one in bars[1:]:
            assert one.low is not None
            self.assertEqual(one.colonies, sum(1 for rate in rates if rate >= one.low and (one.high is None or rate < one.high)))  # fmt: skip
