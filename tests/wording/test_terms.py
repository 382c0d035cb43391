"""The glossary: each term says something of its own, and leads to a section that its method note has."""

from __future__ import annotations

import json
import re
import unittest

from redframe.launch.system import ROOT

TERMS: dict[str, dict[str, str]] = json.loads((ROOT / "web/src/wording/terms.json").read_text(encoding="utf-8"))


def sections(note: str) -> set[str]:
    """The addresses of a note's sections."""
    text = (ROOT / f"docs/methods/{note}.md").read_text(encoding="utf-8")
    found = (
        re.sub(r"\(.*?\)", "", heading).strip().lower() for heading in re.findall(r"^## (.*)$", text, re.MULTILINE)
    )
    return {re.sub(r"[^a-z0-9]+", "-", heading).strip("-") for heading in found}


class Terms(unittest.TestCase):
    def test_each_leads_to_what_is_there(self) -> None:
        """Note and section exist, so that no reader is sent into nothing."""
        for name, term in TERMS.items():
            with self.subTest(term=name):
                self.assertIn(term["section"], sections(term["note"]) | {""})

    def test_each_is_used_or_listed_once(self) -> None:
        """No two of one name, and every term that a screen asks for is a term."""
        names = [term["name"] for term in TERMS.values()]
        self.assertEqual(len(names), len(set(names)))
        used = {
            term
            for path in (ROOT / "web/src/features").rglob("*.tsx")
            for term in re.findall(r'<Term id="(\w+)"', path.read_text(encoding="utf-8"))
        }
        self.assertGreater(len(used), 8)
        self.assertLessEqual(used, set(TERMS))
