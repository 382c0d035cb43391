"""What a visit says of signs: combs together, the entrance, queen and eggs; what was not looked for is not a finding."""

from __future__ import annotations

import unittest
from datetime import date, timedelta
from typing import Any

from redframe.core.disease.brood_assessment import assess_brood
from redframe.core.disease.evidence import Context
from redframe.core.visits.estimates import SeenFrame
from redframe.core.visits.evidence import findings_of_visit, lately, season_of
from redframe.core.visits.record import After, Before, FrameRecord

DAY = date(2031, 5, 10)


def frame(slot: int, *seen: dict[str, Any], **sides: Any) -> SeenFrame:
    """A comb with signs."""
    return SeenFrame(1, slot, "A_deep", FrameRecord.model_validate({"signs": list(seen), **sides}))


def found(*frames: SeenFrame, before: Any = None, after: Any = None, over: bool | None = None) -> dict[str, str | None]:
    """Extents by sign; None for what was absent."""
    visit = findings_of_visit(Before(**(before or {})), After(**(after or {})), frames, on=DAY, count_over=over)
    return {sign: one.extent for sign, one in visit.items()}


class OfAVisit(unittest.TestCase):
    def test_nothing_recorded(self) -> None:
        """No findings, not absences."""
        self.assertEqual(found(), {})

    def test_combs_are_added_up(self) -> None:
        """Six mummies on each of two combs are some; extents do not add; the greatest stands."""
        six = {"sign": "mummy_white", "number": 6}
        self.assertEqual(found(frame(3, six)), {"mummy_white": "few"})
        self.assertEqual(found(frame(3, six), frame(4, six)), {"mummy_white": "some"})
        few, many = {"sign": "cap_sunken", "extent": "few"}, {"sign": "cap_sunken", "extent": "many"}
        self.assertEqual(found(frame(3, few), frame(4, few)), {"cap_sunken": "few"})
        self.assertEqual(found(frame(3, many), frame(4, few, six)), {"cap_sunken": "many", "mummy_white": "few"})

    def test_the_longest_thread_stands(self) -> None:
        """4 and 14 mm are a short thread; 14 and 25 a rope; 4 alone none."""

        def of(*lengths: int) -> dict[str, str | None]:
            return found(*(frame(at, {"sign": "ropy_thread", "number": one}) for at, one in enumerate(lengths, 1)))

        self.assertEqual(of(4, 14), {"ropy_short": "some"})
        self.assertEqual(of(14, 25), {"ropy_thread": "some"})
        self.assertEqual(of(4), {"ropy_thread": None})

    def test_queen_eggs_and_brood(self) -> None:
        """Seen on a comb is seen; said not to be seen was looked for; not said is nothing."""
        laid = frame(4, a={"eggs": 2, "open": 1, "capped": 1})
        self.assertEqual(found(laid), {"no_brood": None, "no_eggs": None, "no_open_brood": None})
        none = {"eggs_seen": False, "open_brood": False, "capped_brood": False, "queen": "neither"}
        self.assertEqual(
            found(after=none),
            {"no_brood": "some", "no_eggs": "some", "no_open_brood": "some", "queen_not_seen": "some"},
        )
        self.assertEqual(found(after={"queen": "not_looked"}), {})
        self.assertEqual(found(frame(2, queen=True), after={"queen": "eggs_only"})["queen_not_seen"], None)
        self.assertEqual(found(after={"eggs_seen": False}), {"no_eggs": "some"})

    def test_entrance_and_colony(self) -> None:
        """What has a field of its own at the visit is a finding with its extent."""
        before = {"dead_bees": "many", "traffic": "fighting", "wax_bits": "none", "soiling": 2, "mummies": "white"}
        after = {"pattern_empty_pct": 30, "beetles": 7, "moth": "none", "wasps": "some", "stores_kg": 0.5,
                 "stores_by": "hefting"}  # fmt: skip
        self.assertEqual(
            found(before=before, after=after, over=True),
            {
                "dead_pile": "many", "rob_fighting": "some", "wax_bits": None, "dysentery": "some",
                "mummies_entrance": "some", "pattern_spotty": "some", "shb_adults": "some", "moth_tunnels": None,
                "wasp_hawking": "some", "stores_nil": "some", "mite_count_high": "some",
            },
        )  # fmt: skip

    def test_six_combs_of_mummies(self) -> None:
        """They say chalkbrood, and nothing else: no suspicion."""
        combs = [frame(at, {"sign": "mummy_white", "number": 25}) for at in range(1, 7)]
        visit = findings_of_visit(Before(), After(), combs, on=DAY, count_over=None)
        said = assess_brood(visit, Context(season_of("swarm")))
        self.assertEqual((said.ranking[0].id, said.best_set, said.flags), ("chalkbrood", ["chalkbrood"], []))
        self.assertGreater(said.ranking[0].probability, 0.9)

    def test_a_kit_and_a_match(self) -> None:
        """A kit out of date or without its control line tells nothing; the longest thread of comb and match stands."""

        def of(**examination: Any) -> dict[str, str | None]:
            return found(frame(3, {"sign": "ropy_thread", "number": 4}), after={"examination": examination})

        kit = {"tests_for": "afb", "result": "negative"}
        self.assertEqual(of(kits=[kit]), {"lfd_afb_pos": None, "ropy_thread": None})
        self.assertEqual(of(kits=[{**kit, "use_by": "2031-05-09"}]), {"ropy_thread": None})
        self.assertEqual(of(kits=[{**kit, "result": "invalid"}]), {"ropy_thread": None})
        self.assertEqual(of(kits=[{**kit, "result": "positive"}, kit])["lfd_afb_pos"], "some")
        self.assertEqual(of(thread_mm=22, thread_cells=5), {"ropy_thread": "some"})

    def test_what_was_seen_beats_what_was_not(self) -> None:
        """Foulbrood was looked for and one sunken capping seen: that one is there, the others are absent; what nobody
        can tell is neither."""
        done = {"bees_off": "shaken", "combs_read": 5, "brood_combs": 5, "not_seen": ["foulbrood"],
                "signs": [{"sign": "larva_melted", "seen": "cannot_tell"}]}  # fmt: skip
        visit = found(frame(3, {"sign": "cap_sunken", "number": 1}), after={"examination": done})
        self.assertEqual((visit["cap_sunken"], visit["cap_greasy"]), ("few", None))
        self.assertNotIn("larva_melted", visit)

    def test_of_late(self) -> None:
        """A split bears on brood for 30 days, a treatment on mites for 60; what comes after the day does not."""
        none: dict[str, list[date]] = {"split": [], "swarmed": [], "queen_removed": [], "treated": []}
        for name, flag, days in (("split", "recent_split", 30), ("treated", "mite_treated_recently", 60)):
            for ago, there in ((0, True), (days, True), (days + 1, False), (-1, False)):
                said = lately(DAY, **{**none, name: [DAY - timedelta(days=ago)]})
                self.assertEqual(said, {flag} if there else set(), (name, ago))


if __name__ == "__main__":
    unittest.main()
