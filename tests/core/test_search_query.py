"""What somebody types to find a thing, taken apart."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from redframe.core.errors import InvalidInput
from redframe.core.search.query import LONGEST, MOST_WORDS, parse


class Queries(unittest.TestCase):
    def test_words_in_any_writing(self) -> None:
        """Case, commas and spaces do not count; a word said twice is one word; nothing is nothing."""
        for typed, words in (
            ("K3", ("k3",)),
            ("  Kettle   Wood, K3 ", ("kettle", "wood", "k3")),
            ("k3,k3", ("k3",)),
            ("STRASSE", ("strasse",)),
            ("Straße", ("strasse",)),
            ("C-0104", ("c-0104",)),
        ):
            found = parse(typed)
            assert found is not None
            with self.subTest(typed=typed):
                self.assertEqual(found.words, words)
        for empty in ("", "   ", ",", " , ,\t\n"):
            self.assertIsNone(parse(empty))

    def test_limits_are_of_what_counts(self) -> None:
        """Eighty letters and eight words; spaces around them and repetitions are free."""
        self.assertIsNotNone(parse(" " * 500 + "x" * LONGEST))
        self.assertIsNotNone(parse(" ".join(f"w{number}" for number in range(MOST_WORDS))))
        self.assertIsNotNone(parse("k3 " * 20))
        for typed, code in (("x" * (LONGEST + 1), "too_long"), (" ".join("abcdefghi"), "too_many")):
            with self.assertRaises(InvalidInput) as caught:
                parse(typed)
            self.assertEqual((caught.exception.field, caught.exception.code), ("q", code))

    @given(st.text(max_size=120))
    def test_any_text_is_answered(self, typed: str) -> None:
        """A query, nothing, or a refusal of the field; never anything else, and its own words find the same."""
        try:
            found = parse(typed)
        except InvalidInput as refused:
            self.assertEqual(refused.field, "q")
            return
        if found is not None:
            again = parse(found.whole)
            assert again is not None
            self.assertEqual(again.words, found.words)
