"""Apiaries from a table: previewed, taken once, each line as a whole; what cannot be is named by line and column."""

from __future__ import annotations

import unittest

from redframe.core.errors import InvalidInput
from redframe.demo.scenario import made_id
from redframe.outlets.apiary_table import read_apiaries
from redframe.store.errors import NotAllowed
from redframe.work.places.table import ApiaryReport, take_apiaries
from tests.support import at_work, demo_template, identity, new_database, owner_rows

TABLE = (
    "keeper;apiary;latitude;longitude;height;colonies\r\n"
    "Ilse Farrow;Moss End;44,2350;-31,41;90;M1 M2 M3\r\n"
    "\r\n"
    "Ilse Farrow;Far Moss;44.24;-31.42;;F1\r\n"
    "Orla Fenwick;Tarn Head;44.2;-31.4;100;T1 N9\r\n"
)


class Table(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def bring(self, text: str, *, take: bool) -> list[ApiaryReport]:
        """What becomes of the lines of a table."""
        read = read_apiaries(text.encode())
        return [*at_work(self.url, lambda unit: take_apiaries(unit, read.rows, take=take)), *read.refused]

    def counts(self) -> tuple[int, ...]:
        """Keepers, apiaries and colonies of the association."""
        query = (
            "SELECT (SELECT count(*) FROM keeper k WHERE k.association_id = a.id), (SELECT count(*) FROM apiary p WHERE "
            "p.association_id = a.id), (SELECT count(*) FROM colony c WHERE c.association_id = a.id) FROM association a "
            "WHERE a.id = %s"
        )
        return owner_rows(self.url, query, made_id("corrane"))[0]

    def test_previewed_taken_and_taken_again(self) -> None:
        """The preview writes nothing and says what the taking does; again it adds nothing; an apiary that is there
        gets only the colonies that are missing."""
        before = self.counts()
        preview = self.bring(TABLE, take=False)
        self.assertEqual(self.counts(), before)
        self.assertEqual(
            [(one.line, one.taken, one.colonies) for one in preview], [(2, True, 3), (4, True, 1), (5, True, 1)]
        )
        self.assertEqual([one.new_keeper for one in preview], [True, True, False])
        taken = self.bring(TABLE, take=True)
        self.assertEqual([one.colonies for one in taken], [3, 1, 1])
        self.assertEqual(self.counts(), (before[0] + 1, before[1] + 2, before[2] + 5))
        again = self.bring(TABLE, take=True)
        self.assertEqual([one.colonies for one in again], [0, 0, 0])
        self.assertEqual(self.counts(), (before[0] + 1, before[1] + 2, before[2] + 5))
        place = owner_rows(self.url, "SELECT latitude, longitude, elevation_m FROM apiary WHERE name = 'Moss End'")
        self.assertEqual(place, [(44.235, -31.41, 90)])

    def test_what_cannot_be_is_named(self) -> None:
        """By its column; the other lines are taken all the same. Only staff bring tables."""
        head = "apiary,keeper,latitude,longitude,colonies\n"
        for line, field in (
            (",Orla Fenwick,44,-31,A", "apiary"),
            ("Hill,,44,-31,A", "keeper"),
            ("Hill,Orla Fenwick,94,-31,A", "latitude"),
            ("Hill,Orla Fenwick,44,west,A", "longitude"),
            ("Hill,Orla Fenwick,44,-31,A a", "colonies"),
            (f"Hill,Orla Fenwick,44,-31,{'x' * 25}", "colonies"),
        ):
            with self.subTest(line=line):
                [refused] = self.bring(head + line, take=False)
                self.assertEqual((refused.taken, refused.field, refused.line), (False, field, 2))
        twice = self.bring(head + "Hill,Orla Fenwick,44,-31,A\nhill,orla fenwick,44,-31,B\n", take=False)
        self.assertEqual([one.taken for one in twice], [True, False])
        for content in (b"apiary,keeper\nHill,Orla\n", b"\xff\xfe", b""):
            with self.assertRaises(InvalidInput):
                read_apiaries(content)
        with self.assertRaises(NotAllowed):
            at_work(
                self.url, lambda unit: take_apiaries(unit, [], take=True), identity("keeper", keeper="Orla Fenwick")
            )
