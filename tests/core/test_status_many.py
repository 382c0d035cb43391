"""Levels of many colonies at once say what the rules of a single colony say, whatever was counted."""

from __future__ import annotations

import random
import unittest
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from itertools import product
from uuid import UUID

from redframe.core.policy.policy import Policy
from redframe.core.policy.schemes import SCHEMES
from redframe.core.sampling.bees import BeesInSample
from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.drone_brood import DroneSample
from redframe.core.sampling.jar import JarSample, reading_of
from redframe.core.sampling.method import TreatmentSpan
from redframe.core.sampling.reading import FallReading, Reading, read_cells, read_fall
from redframe.core.season.calendar import Calendar
from redframe.core.status.many import LEVELS, BriefCount, SampleGatherer, held_before_last, levels_on, sample_at
from redframe.core.status.samples import Counted, judged_samples
from redframe.core.status.status import Level, statuses, statuses_after

CALENDARS = [
    Calendar.parse({"dormant": "11-01", "build_up": "02-15", "peak": "05-01", "decline": "07-20", "winter_bees": "09-01"}),
    Calendar.parse({"peak": "03-01"}),
]  # fmt: skip
TODAY = date(2031, 8, 2)


@dataclass(frozen=True)
class Colony:
    """A made-up colony: its counts and its treatments."""

    counts: Sequence[Counted]
    spans: Sequence[TreatmentSpan]
    ends: Sequence[date]


def made_up(chance: random.Random) -> Colony:
    """Counts of every kind on random days, often two within three days, with treatments among them."""
    days, day = [], TODAY - timedelta(days=chance.randint(100, 420))
    while day <= TODAY and len(days) < 14:
        days.append(day)
        day += timedelta(days=chance.choice([0, 1, 2, 3, 4, 12, 20, 21, 22, 23, 40, 91, 95]))
    starts = [chance.choice(days) + timedelta(days=chance.randint(-10, 5)) for _ in range(chance.randint(0, 2))]
    spans = [TreatmentSpan(one, chance.choice([None, one + timedelta(days=chance.randint(0, 40))])) for one in starts]
    counts = [_count(chance, number, day) for number, day in enumerate(days)]
    return Colony(counts, spans, [span.end for span in spans if span.end is not None and chance.random() < 0.8])


def _count(chance: random.Random, number: int, day: date) -> Counted:
    taken_at, verifies = datetime(day.year, day.month, day.day, 12, tzinfo=UTC), chance.random() < 0.2
    kind = chance.choice(["wash", "wash", "wash", "sugar", "board", "board", "drone"])
    if kind == "board":
        board = BoardSample(
            taken_at - timedelta(days=chance.choice([1, 3, 6, 7, 9, 20])), taken_at, (chance.randint(0, 90),),
            cleaned=chance.choice(["yes", "yes", "yes", "no"]), greased=chance.choice(["yes", "no"]),
            ants=chance.choice(["yes", "no"]), method=chance.choice(["board", "board", "board_after_treatment"]),
        )  # fmt: skip
        return Counted(UUID(int=number), day, board, read_fall(sum(board.squares), board.days), verifies)
    if kind == "drone":
        return Counted(UUID(int=number), day, DroneSample(50, 5, None, None), read_cells(50, 5), verifies)
    bees = chance.choice([60, 150, 300])
    jar = JarSample(
        taken_at, (chance.choice([0, 1, 2, 4, 6, 9, 20]),), "counted", bees=bees,
        place_of_bees=chance.choice(["brood_frame", "brood_frame", "other_brood_box", "super", "unknown"]),
        method="wash" if kind == "wash" else "sugar", rested_s=chance.choice([None, 60, 180]),
        wet=chance.choice(["yes", "no", "not_looked"]),
    )  # fmt: skip
    return Counted(UUID(int=number), day, jar, reading_of(jar.method, jar.shakes, BeesInSample(bees, 0.0)), verifies)


def in_brief(colony: int, one: Counted) -> BriefCount:
    """A count as the rules of many take it."""
    reading, jar = one.reading, one.sample if isinstance(one.sample, JarSample) else None
    assert reading is not None
    brief = BriefCount(
        colony, str(one.id), one.taken_on, jar.method if jar else "", reading.scale, reading.mites, reading.median,
        reading.upper80, None, None, None, jar and jar.place_of_bees, jar and jar.rested_s, jar and jar.wet, one.verifies,
        one.sample if isinstance(one.sample, BoardSample) else None,
    )  # fmt: skip
    if isinstance(reading, Reading):
        return brief._replace(bees_mean=reading.bees_mean, bees_cv=reading.bees_cv, recovery=reading.recovery)
    return brief


def gathered(colonies: Sequence[Colony], policy: Policy) -> SampleGatherer:
    """All counts of all colonies, taken piece by piece."""
    spans = {number: one.spans for number, one in enumerate(colonies)}
    gatherer = SampleGatherer(policy, spans, {number: one.ends for number, one in enumerate(colonies)})
    briefs = [in_brief(number, count) for number, one in enumerate(colonies) for count in one.counts]
    for start in range(0, len(briefs), 17):
        gatherer.add(briefs[start : start + 17])
    return gatherer


class ManyAtOnce(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        chance = random.Random(13)
        cls.colonies = [made_up(chance) for _ in range(250)]
        cls.policies = [
            Policy(calendar, scheme.levels, scheme.id, stale_after_days=21, stale_after_days_dormant=90)
            for calendar, scheme in product(CALENDARS, SCHEMES.values())
        ]

    def test_every_level_is_that_of_the_colony_alone(self) -> None:
        """On the day of the last count and on later days, under every school, with and without a winter."""
        seen: set[Level] = set()
        for policy in self.policies:
            samples = gathered(self.colonies, policy).samples()
            for day in (TODAY, TODAY + timedelta(days=15), TODAY + timedelta(days=200), TODAY - timedelta(days=30)):
                found = levels_on(samples, policy, len(self.colonies), day)
                for colony, level in zip(self.colonies, found, strict=True):
                    judged = judged_samples(colony.counts, policy, colony.spans)
                    path = statuses([one.sample for one in judged], policy, colony.ends)
                    steps = [step.level for step in path if step.since <= day]
                    self.assertEqual(LEVELS[level], steps[-1] if steps else "unknown", (policy.scheme, day))
                    seen.add(LEVELS[level])
        self.assertEqual(seen, set(LEVELS))

    def test_the_path_from_the_last_count_is_that_of_the_colony_alone(self) -> None:
        """Samples, pairs, and the dated levels that are written."""
        pairs = 0
        for policy in self.policies:
            gatherer = gathered(self.colonies, policy)
            samples = gatherer.samples()
            held = held_before_last(samples, policy, len(self.colonies))
            for number, colony in enumerate(self.colonies):
                judged = judged_samples(colony.counts, policy, colony.spans)
                own = (samples["colony"] == number).nonzero()[0].tolist()
                self.assertEqual([sample_at(samples, one) for one in own], [one.sample for one in judged])
                self.assertEqual([gatherer.count_ids[one] for one in own], [str(one.counted.id) for one in judged])
                self.assertEqual([bool(samples["second"][one]) for one in own], [one.second for one in judged])
                pairs += sum(one.second for one in judged)
                if judged:
                    path = statuses_after(judged[-1].sample, LEVELS[held[number]], policy, colony.ends)
                    self.assertEqual(path, statuses([one.sample for one in judged], policy, colony.ends))
        self.assertGreater(pairs, 100)

    def test_a_board_newer_than_the_last_jar_is_known(self) -> None:
        """It may ask for a jar; a jar after it has answered."""
        expected = set()
        for number, colony in enumerate(self.colonies):
            rates = [one.reading for one in colony.counts if isinstance(one.reading, (Reading, FallReading))]
            if rates and isinstance(rates[-1], FallReading):
                expected.add(number)
        self.assertEqual(gathered(self.colonies, self.policies[0]).boards_since_jar, expected)
        self.assertTrue(expected)

    def test_nobody_counted(self) -> None:
        """Without counts every colony is unknown."""
        policy = self.policies[0]
        samples = gathered([], policy).samples()
        for found in (levels_on(samples, policy, 3, TODAY), held_before_last(samples, policy, 3)):
            self.assertEqual([LEVELS[level] for level in found], ["unknown"] * 3)
