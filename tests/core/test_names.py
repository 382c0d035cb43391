"""Names: nothing in them that cannot be seen, and none beside another that looks the same."""

from __future__ import annotations

import unittest

from pydantic import TypeAdapter, ValidationError

from redframe.api.base import Label, Name, Note
from redframe.core.names import look_of

SEEN = ("K3", "Tarn Head", "Skerrow Bank, upper field", "Ångström's", "Ω 12", "Пасека 4", "蜂場", "e\u0301cole", "🐝 3")
TURNED = ("K3\u202e", "\u2066K3\u2069", "\u200eK3", "K\u061c3")
HIDDEN = ("K\u200b3", "K\u00ad3", "K\ufeff3", "K\u20603", "K\u180e3", "K\u034f3", "K\u3164", "K\u28003", "K\U000e00413")
CONTROL = ("K\x003", "K\x1b[31m", "K\x7f", "K\x9b3", "K\ud800")


class Names(unittest.TestCase):
    def taken(self, kind: object, text: str) -> str | None:
        """What becomes of a text; None where it is refused."""
        try:
            return str(TypeAdapter(kind).validate_python(text))
        except ValidationError:
            return None

    def test_what_cannot_be_seen_is_refused(self) -> None:
        """In names and labels and in notes; letters of every script, marks and pictures are seen."""
        for kind in (Name, Label, Note):
            for text in SEEN:
                self.assertIsNotNone(self.taken(kind, text[:24]), (kind, text))
            for text in (*TURNED, *HIDDEN, *CONTROL):
                self.assertIsNone(self.taken(kind, text), (kind, ascii(text)))

    def test_notes_have_lines_and_joiners(self) -> None:
        """A note of two lines (by a sign that is one), a word that is written with a joiner, a picture made of two; none of them in a name."""
        for text in ("two\nlines\tand a tab", "می\u200cخواهم", "👩\u200d🌾"):
            self.assertEqual(self.taken(Note, text), text)
            self.assertIsNone(self.taken(Name, text.replace("\n", "\u200d").replace("\t", "")))
        self.assertIsNone(self.taken(Note, "two\u2028lines"))
        self.assertEqual(self.taken(Name, "  Tarn \n Head\u00a0 "), "Tarn Head", "spaces are one plain space")

    def test_what_reads_the_same_is_the_same(self) -> None:
        """A letter with its mark, as one sign or as two."""
        self.assertEqual(self.taken(Name, "e\u0301cole"), "école")
        self.assertEqual(self.taken(Note, "e\u0301cole"), "école")

    def test_names_that_look_alike_have_one_look(self) -> None:
        """Capitals, wide letters, spaces, letters of another alphabet; figures stay apart from letters."""
        for one, other in (
            ("K3", "k3"), ("K3", "Ｋ３"), ("K 3", "K3"), ("K3", "К3"), ("K3", "Κ3"), ("Tarn Head", "tarn  HEAD"),
            ("Moss End", "Мoss Еnd"), ("Straße", "STRASSE"), ("école", "e\u0301cole"),
        ):  # fmt: skip
            self.assertEqual(look_of(one), look_of(other), (one, other))
        for one, other in (("K1", "Kl"), ("K1", "KI"), ("K0", "KO"), ("K3", "K4"), ("Пасека", "Пасеки"), ("蜂場", "蜂群"), ("école", "ecole")):  # fmt: skip
            self.assertNotEqual(look_of(one), look_of(other), (one, other))
