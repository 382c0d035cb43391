"""One search finds what people mean, and nothing that is not theirs."""

from __future__ import annotations

import unittest

from redframe.core.errors import InvalidInput
from redframe.demo.scenario import made_id
from redframe.store.database import Identity
from redframe.work.search.read import MOST_OF_A_KIND, SearchResult, search
from tests.support import at_work, demo_template, identity, new_database


class Search(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def find(self, typed: str, who: Identity | None = None) -> SearchResult:
        return at_work(self.url, lambda unit: search(unit, typed), who=who)

    def titles(self, typed: str, who: Identity | None = None) -> list[tuple[str, str]]:
        return [(hit.kind, hit.title) for hit in self.find(typed, who).hits]

    def test_a_label_comes_before_everything_that_only_contains_it(self) -> None:
        """ "k1" is colony K1, not one of the others with a 1 behind; in any case, with or without its apiary."""
        for typed in ("K1", "k1", " k1 ", "kettle k1", "Kettle Wood, K1", "k1 tobias quill"):
            with self.subTest(typed=typed):
                hits = self.find(typed).hits
                self.assertEqual((hits[0].kind, hits[0].title, hits[0].apiary), ("colony", "K1", "Kettle Wood"))

    def test_every_kind_by_its_name(self) -> None:
        """An apiary by a part of its name, a keeper by name and by registration number."""
        self.assertEqual(self.titles("tarn")[0], ("apiary", "Tarn Head"))
        self.assertIn(("keeper", "Orla Fenwick"), self.titles("orla"))
        self.assertEqual(self.titles("c-0104"), [("keeper", "Orla Fenwick")])
        self.assertIn(("apiary", "Skerrow Bank"), self.titles("orla"))

    def test_a_queen_by_her_colour_and_year(self) -> None:
        """The queen of 2031 at the teaching apiary is white; her page is that of her colony."""
        hits = [hit for hit in self.find("white 2031 dunnock").hits if hit.kind == "queen"]
        self.assertEqual([hit.title for hit in hits], ["D10"])
        self.assertEqual(hits[0].id, made_id("corrane", "Dunnock Mill", "D10"))
        self.assertEqual((hits[0].year, hits[0].colour), (2031, "white"))
        self.assertFalse([one for one in self.titles("dunnock") if one[0] == "queen"])

    def test_a_colony_by_a_label_that_it_had_before(self) -> None:
        """D12 was D9: who looks for D9 finds it, with the old label said."""
        hits = self.find("D9").hits
        self.assertEqual([(hit.title, hit.former) for hit in hits if hit.kind == "colony"], [("D12", "D9")])

    def test_the_dead_are_found_after_the_living(self) -> None:
        """A merged colony keeps its page; it says that it lives no more."""
        hits = [hit for hit in self.find("dunnock d").hits if hit.kind == "colony"]
        living = [hit.is_living for hit in hits]
        self.assertEqual(living, sorted(living, reverse=True))
        self.assertFalse(self.find("D8").hits[0].is_living)

    def test_signs_of_the_pattern_language_are_letters(self) -> None:
        """A percent sign finds nothing that has none."""
        for typed in ("%", "_", "\\", "K%"):
            with self.subTest(typed=typed):
                self.assertEqual(self.find(typed).hits, [])

    def test_a_keeper_finds_only_what_is_theirs(self) -> None:
        """Orla Fenwick finds her colonies and no other keeper, apiary or colony."""
        orla = identity("keeper", "Orla Fenwick")
        self.assertEqual({hit.keeper for hit in self.find("e", orla).hits}, {"Orla Fenwick"})
        self.assertEqual(self.titles("K1", orla), [])

    def test_much_found_is_cut_and_said(self) -> None:
        """Some of each kind are shown; that there is more is said. Nothing typed finds nothing."""
        found = self.find("e")
        self.assertTrue(found.more)
        for kind in ("apiary", "colony", "keeper"):
            self.assertLessEqual(len([hit for hit in found.hits if hit.kind == kind]), MOST_OF_A_KIND)
        self.assertEqual(self.find("  ").hits, [])

    def test_too_much_is_refused_at_the_field(self) -> None:
        """More than any name here has is an error of the field."""
        for typed in ("x" * 81, "a b c d e f g h i"):
            with self.subTest(typed=typed), self.assertRaises(InvalidInput) as caught:
                self.find(typed)
            self.assertEqual(caught.exception.field, "q")
