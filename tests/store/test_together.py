"""Reads sent together: they find what they find one by one, and no write hides among them."""

from __future__ import annotations

import asyncio
import unittest

from redframe.store import colonies, places
from redframe.store.database import Connection, run, together
from redframe.store.errors import Conflict, NotFound
from redframe.work.unit_of_work import UnitOfWork
from tests.support import at_work, demo_template, new_database


class Together(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def test_reads_find_the_same(self) -> None:
        """Of every apiary, what is read together is what is read one by one; a read of several statements too."""

        async def both(connection: Connection, name: places.ApiaryName) -> tuple[object, ...]:
            return await places.apiary(connection, name.id), await places.urgent_neighbours(connection, name.id, 3.0)

        async def act(unit: UnitOfWork) -> None:
            names = await places.apiary_names(unit.connection)
            self.assertGreater(len(names), 5)
            async with together(unit.connection) as begin:
                begun = [begin(both(unit.connection, name)) for name in names]
            self.assertEqual([one.result() for one in begun], [await both(unit.connection, name) for name in names])

        at_work(self.url, act)

    def test_a_write_among_them_is_refused(self) -> None:
        """It would not say whether it found its row: a change by somebody else would be overwritten unseen."""

        async def act(unit: UnitOfWork) -> None:
            async with together(unit.connection) as begin:
                begin(places.apiary_names(unit.connection))
                begin(run(unit.connection, "judge_alone"))

        with self.assertRaisesRegex(RuntimeError, "judge_alone"):
            at_work(self.url, act)

    def test_a_conflict_after_them_is_noticed(self) -> None:
        """A version that has changed is refused in a transaction that read together before."""

        async def act(unit: UnitOfWork) -> None:
            name = (await places.apiary_names(unit.connection))[0]
            async with together(unit.connection) as begin:
                found = begin(places.apiary(unit.connection, name.id))
            apiary = found.result()
            details = places.ApiaryDetails(apiary.name, apiary.latitude, apiary.longitude)
            await places.amend_apiary(unit.connection, apiary.id, apiary.version + 1, details)

        with self.assertRaises(Conflict):
            at_work(self.url, act)

    def test_what_fails_is_said_when_all_are_through(self) -> None:
        """A record that is not there is raised; the others have been answered, and the connection goes on."""

        async def act(unit: UnitOfWork) -> None:
            name = (await places.apiary_names(unit.connection))[0]
            with self.assertRaises(NotFound):
                async with together(unit.connection) as begin:
                    begin(colonies.colony(unit.connection, name.id))
                    other = begin(places.apiary(unit.connection, name.id))
            self.assertEqual(other.result().id, name.id)
            self.assertEqual((await places.apiary(unit.connection, name.id)).id, name.id)

        at_work(self.url, act)

    def test_who_goes_away_leaves_the_connection_in_order(self) -> None:
        """A question that is given up midway: whoever gets the connection next is answered."""

        async def act(unit: UnitOfWork) -> None:
            names = await places.apiary_names(unit.connection)

            async def read() -> None:
                async with together(unit.connection) as begin:
                    for name in names:
                        begin(places.urgent_neighbours(unit.connection, name.id, 30.0))

            asked = asyncio.create_task(read())
            await asyncio.sleep(0)
            await asyncio.sleep(0)
            asked.cancel()
            with self.assertRaises(asyncio.CancelledError):
                await asked
            self.assertEqual(await places.apiary_names(unit.connection), names)

        for _ in range(4):
            at_work(self.url, act)


if __name__ == "__main__":
    unittest.main()
