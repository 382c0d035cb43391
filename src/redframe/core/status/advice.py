"""What to do next at an apiary and with a colony: one sentence's worth, decided here and only worded on the screen."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Literal
from uuid import UUID

from redframe.core.policy.schemes import Answer
from redframe.core.status.apiary import ApiaryStatus
from redframe.core.status.judgement import Advice
from redframe.core.status.status import Level

ApiaryAct = Literal["treat_all", "treat", "flag", "report", "count_all", "count", "wait_for_course", "count_by", "none"]
ColonyAct = Literal["treat", "flag", "report", "second_sample", "count", "count_by", "step", "none"]
OVER: frozenset[Level] = frozenset({"act", "urgent"})


@dataclass(frozen=True, slots=True)
class ApiaryAdvice:
    """What to do at an apiary, and with which colonies; `over`: how many living colonies are at or over their act
    level, `in_course`: how many are in a course; `count_by`: the first day on which one should be counted again."""

    act: ApiaryAct
    colonies: tuple[UUID, ...]
    over: int
    in_course: int
    count_by: date | None


def apiary_advice(
    status: ApiaryStatus,
    levels: Mapping[UUID, Level],
    in_course: Collection[UUID],
    recounts: Mapping[UUID, date | None],
    answer: Answer,
) -> ApiaryAdvice:
    """The next act at an apiary. `levels` and `recounts` are those of its living colonies, `answer` what the scheme in
    force does about a colony that is over: whom the scope of the policy treats is treated, one in a course is not."""
    over = [one for one, level in levels.items() if level in OVER]
    treated = [one for one in levels if one in in_course]
    unknown = [one for one, level in levels.items() if level == "unknown"]
    by = min((day for day in recounts.values() if day is not None), default=None)

    def advise(act: ApiaryAct, colonies: Collection[UUID] = ()) -> ApiaryAdvice:
        return ApiaryAdvice(act, tuple(colonies), len(over), len(treated), by)

    wanted = over if answer != "treat" else list(dict.fromkeys([*status.treat, *over]))
    waiting = [one for one in wanted if one not in in_course]
    if waiting and answer != "treat":
        return advise(answer, waiting)
    if waiting:
        return advise("treat_all" if len(waiting) == len(levels) else "treat", waiting)
    if unknown:
        return advise("count_all" if len(unknown) == len(levels) else "count", unknown)
    if treated:
        return advise("wait_for_course", treated)
    return advise("count_by" if by is not None else "none")


@dataclass(frozen=True, slots=True)
class ColonyAdvice:
    """What to do with a colony, and by which day where there is one."""

    act: ColonyAct
    by: date | None


def colony_advice(
    *,
    is_living: bool,
    level: Level,
    answer: Answer,
    next_step_on: date | None,
    judged: Advice | None,
    recount_on: date | None,
    was_counted: bool,
) -> ColonyAdvice:
    """The next act with a colony: the step of its course first, then what its level asks for, then its next count.

    `next_step_on` is the day of the next step of an open course, `judged` what its latest count asks for. A colony
    that lives no more asks for nothing.
    """
    if not is_living:
        return ColonyAdvice("none", None)
    if next_step_on is not None:
        return ColonyAdvice("step", next_step_on)
    if level == "act" and judged == "second_sample":
        return ColonyAdvice("second_sample", None)
    if level in OVER:
        return ColonyAdvice(answer, None)
    if level == "unknown" or not was_counted or recount_on is None:
        return ColonyAdvice("count", None)
    return ColonyAdvice("count_by", recount_on)
