"""Heavy sums by turns: never more at work than may be, and whoever comes to a full house is refused at once."""

from __future__ import annotations

import asyncio
import unittest

from fastapi import HTTPException

from redframe.api.turns import Turns
from tests.support import aside


class House:
    """Two may be at work and three waiting: how many were there at once, and who got a turn."""

    def __init__(self) -> None:
        self.turns = Turns(2, 3)
        self.there = self.most = 0
        self.done: list[int] = []

    async def one(self, number: int) -> None:
        """One who wants a turn; the first fails in it."""
        async with self.turns.take():
            self.there += 1
            self.most = max(self.most, self.there)
            await asyncio.sleep(0.01)
            self.there -= 1
            self.done.append(number)
            if number == 0:
                raise ValueError

    async def six(self) -> list[object]:
        """Six at once, and what became of each."""
        asked = [asyncio.create_task(self.one(number)) for number in range(6)]
        return await asyncio.gather(*asked, return_exceptions=True)

    async def one_gives_up(self) -> None:
        """Who waits goes away; then three more come than could wait behind them."""
        async with self.turns.take(), self.turns.take():
            waiting = [asyncio.create_task(self.one(number)) for number in (1, 2, 3)]
            await asyncio.sleep(0)
            waiting[0].cancel()
            await asyncio.gather(waiting[0], return_exceptions=True)
            late = asyncio.create_task(self.one(4))
            await asyncio.sleep(0)
        await asyncio.gather(*waiting[1:], late)


class ByTurns(unittest.TestCase):
    def test_a_few_at_work_a_few_waiting(self) -> None:
        """The sixth is refused; everybody who waited gets a turn, also after one failed; a refusal takes none away."""
        house = House()
        found = aside(house.six())
        self.assertEqual((house.most, sorted(house.done)), (2, [0, 1, 2, 3, 4]))
        self.assertEqual([type(each).__name__ for each in found], ["ValueError", *["NoneType"] * 4, "HTTPException"])
        refused = found[5]
        assert isinstance(refused, HTTPException)
        self.assertEqual((refused.status_code, bool(refused.headers)), (429, True))
        self.assertEqual([type(each).__name__ for each in aside(house.six())].count("NoneType"), 4)

    def test_one_who_gives_up_leaves_the_place(self) -> None:
        """Somebody who goes away while waiting makes room for another."""
        house = House()
        aside(house.one_gives_up())
        self.assertEqual(sorted(house.done), [2, 3, 4])
