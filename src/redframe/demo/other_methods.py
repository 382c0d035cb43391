"""Counts of the demo by other methods than the wash: boards, sugar rolls, drone brood opened, bees looked at.

They are drawn from generators of their own, so that the rest of the scenario goes on as it would without them.
"""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from uuid import UUID

import numpy as np

from redframe.core.sampling.board import BoardSample
from redframe.core.sampling.board_marks import Mark, PictureReading, mites_by_square
from redframe.core.sampling.board_picture import find_candidates
from redframe.core.sampling.conversion import FACTORS
from redframe.core.sampling.count import AnySample, LookSample
from redframe.core.sampling.drone_brood import DroneSample
from redframe.core.sampling.jar import JarSample
from redframe.core.sampling.method import BoardMethod
from redframe.demo.board_pictures import draw_board
from redframe.demo.population import Life
from redframe.demo.scenario import DEMO_TODAY, made_id
from redframe.work.sampling import board_pictures as sampling_board_pictures
from redframe.work.sampling import boards as sampling_boards
from redframe.work.sampling import record as sampling_record
from redframe.work.unit_of_work import UnitOfWork

BOARDS = ("Tarn Head", ("T1", "T2"))
BOARDS_LIE = ("Tarn Head", ("T3", "T4"), date(2031, 7, 31))
SUGAR = ("Cairn Yard", ("C2", "C5"))
DRONES = ("Dunnock Mill", ("D2",), (date(2031, 5, 26), date(2031, 6, 16)))
LOOKED = ("Dunnock Mill", "D5", date(2031, 7, 12))
AFTER_STRIPS = ("Kettle Wood", {"K1": 1.0, "K3": 0.15}, date(2031, 7, 26), ((2, 0.08), (5, 0.12), (7, 0.09)))
"""Boards under strips: how well these do in each colony, the day on which each was read after the start, and the share
of the mites that fell since."""
SINCE = date(2031, 5, 1)
PICTURED = ("Tarn Head", "T2", date(2031, 7, 27))
"""The board that was counted from its picture."""
GRID = (6, 4)
WIDTH_MM, HEIGHT_MM = 200.0, 140.0
NEAR_MM = 1.0


async def other_counts(
    unit: UnitOfWork, apiary: str, label: str, colony_id: UUID, life: Life, day: date, *, counts: bool
) -> None:
    """What is counted of a colony on a day by other methods; `counts`: it is a day on which this apiary counts."""
    draw = np.random.default_rng([colony_id.int % 2**63, day.toordinal(), 7])
    if counts and day >= SINCE and (apiary, label) in _pairs(BOARDS):
        fall = life.mites / FACTORS[life.calendar.base_phase(day)].k
        mites = int(draw.poisson(3 * fall))
        if (apiary, label, day) == PICTURED:
            await _pictured(unit, colony_id, day, draw, mites)
        else:
            await _record(unit, colony_id, day, _board(day, 3, mites, "board"))
    if day >= SINCE and (day - SINCE).days % 30 == 9 and (apiary, label) in _pairs(SUGAR):
        mean = life.per_100(day) / 100 * 300 * 0.75
        await _record(unit, colony_id, day, _roll(day, int(draw.poisson(draw.gamma(6.0, max(0.02, mean) / 6.0)))))
    if apiary == DRONES[0] and label in DRONES[1] and day in DRONES[2]:
        share = min(0.6, 0.06 * life.per_100(day))
        infested = int(draw.binomial(90, share))
        await _record(unit, colony_id, day, DroneSample(90, infested, int(infested * 1.6) if infested else None, 3))
    if (apiary, label, day) == LOOKED:
        await _record(unit, colony_id, day, LookSample(mites_seen=False))
    if apiary == AFTER_STRIPS[0] and label in AFTER_STRIPS[1]:
        before = 0
        for after, share in AFTER_STRIPS[3]:
            if day == AFTER_STRIPS[2] + timedelta(days=after):
                fell = int(draw.poisson(share * AFTER_STRIPS[1][label] * life.mites))
                await _record(unit, colony_id, day, _board(day, after - before, fell, "board_after_treatment"))
            before = after
    if apiary == BOARDS_LIE[0] and label in BOARDS_LIE[1] and day == BOARDS_LIE[2]:
        placed = datetime.combine(day, time(10), tzinfo=UTC)
        board_id = made_id("board", colony_id, day)
        await sampling_boards.place_board(unit, board_id, colony_id, placed_at=placed, cleaned="yes", greased="yes")


def _pairs(where: tuple[str, tuple[str, ...]]) -> set[tuple[str, str]]:
    return {(where[0], label) for label in where[1]}


def _at(day: date) -> datetime:
    return datetime.combine(day, time(10 if day == DEMO_TODAY else 12), tzinfo=UTC)


def _board(day: date, days: int, mites: int, method: BoardMethod) -> BoardSample:
    placed = _at(day) - timedelta(days=days)
    return BoardSample(placed, _at(day), (mites,), 1, "yes", "yes", "no", method)


def _roll(day: date, mites: int) -> JarSample:
    return JarSample(_at(day), (mites,), "volume_level", volume_ml=120.0, brood_state="open_and_capped", method="sugar",
                     rested_s=125, wet="no")  # fmt: skip


async def _record(unit: UnitOfWork, colony_id: UUID, day: date, sample: AnySample) -> None:
    method = type(sample).__name__
    count_id = made_id("count", method, colony_id, day)
    await sampling_record.record_count(
        unit, sampling_record.NewCount(count_id, colony_id, _at(day), sample, "open_and_capped")
    )


async def _pictured(unit: UnitOfWork, colony_id: UUID, day: date, draw: np.random.Generator, mites: int) -> None:
    """A board counted from its picture: what was found is accepted or struck, what was missed is added."""
    drawn = draw_board(draw, mites, "usual", width_mm=WIDTH_MM, height_mm=HEIGHT_MM, px_per_mm=6.0)
    picture_id = made_id("board picture", colony_id, day)
    columns, rows = GRID
    kept = await sampling_board_pictures.add_picture(
        unit,
        picture_id,
        colony_id,
        jpeg=drawn.jpeg(),
        width=drawn.pixels.shape[1],
        height=drawn.pixels.shape[0],
        found=find_candidates(drawn.pixels, WIDTH_MM),
        width_mm=WIDTH_MM,
        columns=columns,
        rows=rows,
    )
    missed = [(float(x), float(y)) for x, y in drawn.mites]
    marks = []
    for one in kept.candidates:
        near = [place for place in missed if _away(place, (one["x"], one["y"])) <= NEAR_MM]
        if near:
            missed.remove(near[0])
        marks.append(Mark(one["x"], one["y"], found=True, kept=bool(near)))
    marks += [Mark(x, y, found=False, kept=True) for x, y in missed]
    counted = tuple(range(columns * rows))
    squares = mites_by_square(PictureReading(columns, rows, counted, tuple(marks)))
    board = replace(_board(day, 3, 0, "board"), squares=squares, squares_in_all=columns * rows)
    read = sampling_record.ReadFrom(picture_id, counted, tuple(marks))
    count_id = made_id("count", "BoardSample", colony_id, day)
    new = sampling_record.NewCount(count_id, colony_id, _at(day), board, "open_and_capped", picture=read)
    await sampling_record.record_count(unit, new)


def _away(a: tuple[float, float], b: tuple[float, float]) -> float:
    return math.hypot((a[0] - b[0]) * WIDTH_MM, (a[1] - b[1]) * HEIGHT_MM)
