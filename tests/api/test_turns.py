"""Heavy sums by turns: never more at work than may be, and whoever comes to a full house is told so at once."""

from __future__ import annotations

import asyncio
import unittest

from fastapi import HTTPException

from redframe.api.turns import Turns


class ByTurns(unittest.IsolatedAsyncioTestCase):
    async def test_a_few_at_work_a_few_waiting(self) -> None:
        """Two at work, three waiting, the sixth is refused; everybody who waited gets a turn, also after one failed."""
        turns, there, most, done = Turns(2, 3), 0, 0, []

        async def one(number: int) -> None:
            nonlocal there, most
            async with turns.take():
                there += 1
                most = max(most, there)
                await asyncio.sleep(0.01)
                there -= 1
                done.append(number)
                if number == 0:
                    raise ValueError

        asked = [asyncio.create_task(one(number)) for number in range(6)]
        found = await asyncio.gather(*asked, return_exceptions=True)
        self.assertEqual((most, sorted(done)), (2, [0, 1, 2, 3, 4]))
        self.assertEqual([type(each).__name__ for each in found], ["ValueError", *["NoneType"] * 4, "HTTPException"])
        refused = found[5]
        assert isinstance(refused, HTTPException)
        self.assertEqual((refused.status_code, bool(refused.headers)), (429, True))
        await one(7)
        self.assertEqual(done[-1], 7, "a refusal takes no turn away")

    async def test_one_that_is_given_up_leaves_its_place(self) -> None:
        """Somebody who goes away while waiting makes room."""
        turns = Turns(1, 1)

        async def hold(seconds: float) -> None:
            async with turns.take():
                await asyncio.sleep(seconds)

        first, second = asyncio.create_task(hold(0.05)), asyncio.create_task(hold(0))
        await asyncio.sleep(0)
        second.cancel()
        await asyncio.gather(second, return_exceptions=True)
        await asyncio.create_task(hold(0))
        await first
