"""The one act that an apiary and a colony ask for next: who is named, and what is never said."""

from __future__ import annotations

import unittest
from datetime import date
from itertools import product
from typing import get_args
from uuid import UUID

from redframe.core.policy.policy import Scope
from redframe.core.policy.schemes import SCHEMES, Answer
from redframe.core.status.advice import ApiaryAdvice, apiary_advice, colony_advice
from redframe.core.status.apiary import ApiaryStatus
from redframe.core.status.judgement import Advice
from redframe.core.status.status import Level

A, B, C = (UUID(int=number) for number in (1, 2, 3))
SOON, LATER = date(2031, 8, 9), date(2031, 8, 20)


def advice(
    *levels: Level, treat: tuple[UUID, ...] = (), in_course: tuple[UUID, ...] = (), answer: Answer = "treat"
) -> ApiaryAdvice:
    """The advice for three colonies A, B and C, of which the policy treats some."""
    now = dict(zip((A, B, C), levels, strict=False))
    scope: Scope = "whole_apiary" if len(treat) == len(now) else "single_colony"
    status = ApiaryStatus(scope, "clear", "none_counted", treat, (), len(now), len(now), None)
    return apiary_advice(status, now, in_course, dict.fromkeys(now, LATER) | {A: SOON}, answer)


class Apiaries(unittest.TestCase):
    def test_the_act_and_whom_it_names(self) -> None:
        """One row a state of the apiary: the act, and the colonies."""
        rows = (
            (advice("act", "clear", "clear", treat=(A, B, C)), "treat_all", (A, B, C)),
            (advice("act", "clear", "clear", treat=(A,)), "treat", (A,)),
            (advice("clear", "clear", "clear", treat=(A, B, C)), "treat_all", (A, B, C)),
            (advice("act", "act", "unknown", treat=(A, B, C), in_course=(A,)), "treat", (B, C)),
            (advice("urgent", "act", "clear", treat=(A, B), in_course=(A, B)), "wait_for_course", (A, B)),
            (advice("urgent", "clear", "unknown", treat=(A,), in_course=(A,)), "count", (C,)),
            (advice("unknown", "unknown", "unknown"), "count_all", (A, B, C)),
            (advice("clear", "watch", "clear"), "count_by", ()),
            (advice("act", "urgent", "clear", answer="flag"), "flag", (A, B)),
            (advice("urgent", "clear", "clear", treat=(A, B, C), answer="report"), "report", (A,)),
        )
        for found, act, colonies in rows:
            with self.subTest(act=act, colonies=colonies):
                self.assertEqual((found.act, found.colonies), (act, colonies))
        self.assertEqual(advice("clear", "watch", "clear").count_by, SOON)
        self.assertEqual(apiary_advice(ApiaryStatus("whole_apiary", "unknown", "none_living", (), (), 0, 0, None), {}, (), {}, "treat").act, "none")  # fmt: skip


class Colonies(unittest.TestCase):
    def test_every_combination_is_answered(self) -> None:
        """The dead ask for nothing; an open course comes first; an unknown level is counted, never called clear."""
        levels, judgements = get_args(Level), (None, *get_args(Advice))
        answers = {scheme.answer for scheme in SCHEMES.values()}
        self.assertEqual(answers, set(get_args(Answer)))
        for living, level, answer, step, judged, recount in product(
            (True, False), levels, sorted(answers), (None, SOON), judgements, (None, LATER)
        ):
            found = colony_advice(
                is_living=living, level=level, answer=answer, next_step_on=step, judged=judged,
                recount_on=recount, was_counted=level != "unknown",
            )  # fmt: skip
            with self.subTest(living=living, level=level, step=step, judged=judged, recount=recount):
                if not living:
                    self.assertEqual(found.act, "none")
                elif step is not None:
                    self.assertEqual((found.act, found.by), ("step", SOON))
                elif level in ("act", "urgent"):
                    unsettled = level == "act" and judged == "second_sample"
                    self.assertEqual(found.act, "second_sample" if unsettled else answer)
                else:
                    self.assertEqual(found.act, "count" if level == "unknown" or recount is None else "count_by")
