"""Server, database, worker and launcher killed once each while people write; `bench/crashes.py` does it at length."""

from __future__ import annotations

import unittest

from bench.crashes import crash


class Crashes(unittest.TestCase):
    def test_nothing_acknowledged_is_lost_or_doubled(self) -> None:
        """What was acknowledged is there once, what follows from it follows, and no forecast waits for ever."""
        found = crash(4)
        self.assertEqual(found.killed, {"server": 1, "database": 1, "worker": 1, "launcher": 1})
        self.assertGreater(found.acknowledged, 12)
        self.assertEqual((found.lost, found.doubled, found.derived, found.stuck), (0, 0, 0, 0))
