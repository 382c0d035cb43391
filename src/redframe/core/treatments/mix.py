"""One plan for several colonies: what most of them may have, and for each that may not what suits it instead.

Whoever treats an apiary gives as many as possible the same. A colony leaves the common option only where that is held
back for it: a weak one takes the smaller dose, one between queens waits for an acid without brood.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from redframe.core.treatments.eligibility import Choice, ranking_key

WhyProposed = Literal["common", "instead", "waits", "nothing"]
"""As most of them; instead of that; not before a day; nothing suits in these days."""


@dataclass(frozen=True, slots=True)
class Proposed:
    """What one colony of a plan is to be given (None: nothing can be said), and from which day where it waits."""

    option_id: str | None
    why: WhyProposed
    from_day: date | None


def propose(choices: Sequence[Choice]) -> list[Proposed]:
    """What each of these colonies is to be given, in their order: what ranks first in most of them (of two alike the
    one that more of them may have), and for those that may not have it what ranks first for them."""
    first = Counter(startable[0] for choice in choices if (startable := _startable(choice)))
    may = Counter(option for choice in choices for option in _startable(choice))
    common = min(first, key=lambda option: (-first[option], -may[option], option), default=None)
    return [_of(choice, common) for choice in choices]


def _startable(choice: Choice) -> list[str]:
    """Options that may be begun, the best first: allowed, an answer by themselves, with a dose."""
    return [option for option in choice.ranking if choice.options[option].dose is not None]


def _of(choice: Choice, common: str | None) -> Proposed:
    startable = _startable(choice)
    if common in startable:
        return Proposed(common, "common", None)
    if startable:
        return Proposed(startable[0], "instead", None)
    waiting = [one for one in choice.options.values() if one.from_day is not None and not one.supporting]
    if not waiting:
        return Proposed(None, "nothing", None)
    first = min(waiting, key=lambda one: (one.from_day or date.max, one.option.id != common, *ranking_key(one)))
    return Proposed(first.option.id, "waits", first.from_day)
