"""Judges of treatment options that are kept from one question to the next.

Whoever goes through an apiary asks of one colony after another, on one day, under the same policy and weather: what the
rules said of these need not be worked out again. A judge serves one apiary on one day under one policy; what it
remembers follows from what it is asked alone (`core/treatments/many.py`): a kept one says what a new one would.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from datetime import date
from uuid import UUID

from redframe.core.policy.treatment_rules import TreatmentRules
from redframe.core.treatments.catalogue import Option
from redframe.core.treatments.many import ManyColonies

MOST_JUDGES = 24
MOST_ASKED = 4_000
"""So many answers a judge remembers before a new one takes its place: some ten megabytes."""

Key = tuple[UUID, date, str]


class Judges:
    """The judges that are kept; each is asked by one thread at a time, and who finds one busy gets a new one."""

    def __init__(self) -> None:
        self._kept: OrderedDict[Key, Pair] = OrderedDict()
        self._lock = threading.Lock()

    @contextmanager
    def of(self, apiary: UUID, day: date, rules: TreatmentRules) -> Iterator[Pair]:
        """The judges of an apiary on a day."""
        key = (apiary, day, rules.model_dump_json())
        with self._lock:
            # Whoever asks has it alone: it is taken out meanwhile.
            found = self._kept.pop(key, None)
        pair = found or Pair(ManyColonies(rules.catalogue))
        yield pair
        with self._lock:
            if pair.asked < MOST_ASKED:
                self._kept[key] = pair
            while len(self._kept) > MOST_JUDGES:
                self._kept.popitem(last=False)


class Pair:
    """A judge of all options, and one for each choice of them that was asked for."""

    def __init__(self, whole: ManyColonies) -> None:
        self.whole = whole
        self._among: dict[tuple[str, ...], ManyColonies] = {}

    @property
    def asked(self) -> int:
        """How much the judges remember."""
        return self.whole.asked + sum(one.asked for one in self._among.values())

    def among(self, options: Sequence[Option]) -> ManyColonies:
        """The judge of some of the options only."""
        key = tuple(one.id for one in options)
        if key not in self._among:
            self._among[key] = self.whole.among(options)
        return self._among[key]


judges = Judges()
"""Those of this process."""
