"""The brood calendar against the worked dates of the reference: an event of 1 June, a cage opened on 25 June."""

from __future__ import annotations

import json
import unittest
from datetime import date, timedelta
from typing import Any

from redframe.core.calculators import calculator
from redframe.core.errors import InvalidInput

JUNE_1 = "2026-06-01"


def calculate(name: str, body: dict[str, Any]) -> dict[str, Any]:
    """What the open calculator answers, as it leaves the core."""
    found: dict[str, Any] = json.loads(json.dumps(calculator(name)(body), default=str))
    return found


def dates(text: str) -> list[str]:
    return [f"2026-{part}" for part in text.split("/")]


WORKED: dict[str, dict[str, Any]] = {
    "queen_caged": {
        "expectations": {
            "last_worker_capped": dates("06-09/06-10/06-11"),
            "last_worker_emerges": dates("06-21/06-22/06-23"),
            "last_drone_emerges": dates("06-24/06-25/06-26"),
        },
        "window_opens": "2026-06-23",
        "window_closes": "2026-07-02",
        "best_oxalic": "2026-06-23",
    },
    "queen_removed": {
        "expectations": {
            "last_worker_capped": dates("06-09/06-10/06-11"),
            "last_worker_emerges": dates("06-21/06-22/06-23"),
            "last_drone_emerges": dates("06-24/06-25/06-26"),
            "new_queen_emerges": dates("06-11/06-13/06-17"),
            "first_eggs": dates("06-18/06-25/07-05"),
            "new_brood_capped": dates("06-26/07-03/07-14"),
            "laying_workers_possible": dates("06-25/07-01/07-13"),
        },
        "window_opens": "2026-06-23",
        "window_closes": "2026-07-02",
        "window_closes_at_earliest": "2026-06-25",
        "best_oxalic": "2026-06-23",
    },
    "swarm_left": {
        "expectations": {
            "last_worker_emerges": dates("06-21/06-22/06-23"),
            "last_drone_emerges": dates("06-24/06-25/06-26"),
            "new_queen_emerges": dates("06-07/06-09/06-11"),
            "first_eggs": dates("06-14/06-21/06-29"),
            "new_brood_capped": dates("06-22/06-29/07-08"),
            "laying_workers_possible": dates("06-25/07-01/07-13"),
        },
        "window_opens": "2026-06-23",
        "window_closes": "2026-06-28",
        "window_closes_at_earliest": "2026-06-21",
        "best_oxalic": "2026-06-23",
    },
    "queen_emerged": {
        "expectations": {
            "mating_flights": dates("06-06/06-09/06-15"),
            "first_eggs": dates("06-08/06-13/06-19"),
            "new_brood_capped": dates("06-16/06-21/06-28"),
            "worry_no_eggs": dates("06-29/06-29/06-29"),
        }
    },
    "eggs_seen": {
        "expectations": {
            "first_capped": dates("06-06/06-08/06-10"),
            "first_worker_emerges": dates("06-18/06-21/06-23"),
            "first_drone_emerges": dates("06-21/06-24/06-26"),
        }
    },
}


class BroodCalendar(unittest.TestCase):
    def test_the_worked_dates(self) -> None:
        """Each event of 1 June 2026, exactly; a key that an event does not have is absent."""
        for event, wanted in WORKED.items():
            with self.subTest(event=event):
                found = calculate("brood_calendar", {"event": event, "date": JUNE_1, "release": "2026-06-25"})
                found.pop("note", None)
                self.assertEqual(found, wanted)

    def test_without_a_release_the_window_stays_open(self) -> None:
        """A queen still in her cage: the window opens, nothing says when it closes."""
        found = calculate("brood_calendar", {"event": "queen_caged", "date": JUNE_1})
        self.assertEqual(found["window_opens"], "2026-06-23")
        self.assertNotIn("window_closes", found)

    def test_bands_are_in_order_and_move_with_the_day(self) -> None:
        """Early, typical, late never cross, also over the turn of a leap year."""
        for event in ("queen_caged", "queen_removed", "swarm_left", "queen_cell_egg", "queen_cell_open",
                      "queen_cell_capped", "queen_emerged", "eggs_seen"):  # fmt: skip
            here = calculate("brood_calendar", {"event": event, "date": "2028-02-27"})
            later = calculate("brood_calendar", {"event": event, "date": "2028-03-08"})
            for name, band in here["expectations"].items():
                self.assertEqual(sorted(band), band, (event, name))
                moved = [(date.fromisoformat(day) + timedelta(days=10)).isoformat() for day in band]
                self.assertEqual(moved, later["expectations"][name], (event, name))

    def test_a_cell_is_consistent_with_its_stages(self) -> None:
        """A queen laid as an egg today emerges typically 16 - 2 days later; sealed ones before open ones before eggs."""
        typical = [
            calculate("brood_calendar", {"event": event, "date": JUNE_1})["expectations"]["new_queen_emerges"][1]
            for event in ("queen_cell_capped", "queen_cell_open", "queen_cell_egg")
        ]
        self.assertEqual(typical, sorted(typical))

    def test_what_it_refuses(self) -> None:
        """An unknown event, a release before the caging, a day that is none: at their fields."""
        for body, field in (
            ({"event": "queen_sang", "date": JUNE_1}, "event"),
            ({"event": "queen_caged", "date": JUNE_1, "release": "2026-05-31"}, "release"),
            ({"event": "queen_caged", "date": "2026-02-30"}, "date"),
            ({"event": "queen_caged", "date": JUNE_1, "when": JUNE_1}, "when"),
        ):
            with self.subTest(field=field), self.assertRaises(InvalidInput) as caught:
                calculate("brood_calendar", body)
            self.assertEqual(caught.exception.field, field)
