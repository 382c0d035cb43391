"""Data files of the core say what they mean: no sentence is cut at a comma that the format reads as its own."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import yaml

CORE = Path(__file__).parents[2] / "src" / "redframe" / "core"


def cut_off(value: Any, at: str = "") -> Iterator[str]:
    """Keys that are a piece of a sentence and have no value."""
    if isinstance(value, dict):
        for key, item in value.items():
            if item is None and (" " in str(key) or str(key).endswith(".")):
                yield f"{at}: {key}"
            yield from cut_off(item, f"{at}.{key}")
    elif isinstance(value, list):
        for number, item in enumerate(value):
            yield from cut_off(item, f"{at}[{number}]")


class DataFiles(unittest.TestCase):
    def test_no_sentence_is_cut(self) -> None:
        files = sorted(CORE.rglob("*.yaml"))
        self.assertGreater(len(files), 10)
        for file in files:
            with self.subTest(file=file.name):
                self.assertEqual(list(cut_off(yaml.safe_load(file.read_text(encoding="utf-8")))), [])

    def test_it_would_be_seen(self) -> None:
        self.assertEqual(list(cut_off(yaml.safe_load("a: {says: Report it, then wait.}"))), [".a: then wait."])


if __name__ == "__main__":
    unittest.main()
