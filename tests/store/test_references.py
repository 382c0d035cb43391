"""What a row may refer to: whatever the application asks for, the database takes no reference to what its writer cannot
see, be it another keeper's or another association's."""

from __future__ import annotations

import re
import unittest
from typing import Any
from uuid import UUID, uuid4

import psycopg
from psycopg import errors, sql
from psycopg.types.json import Jsonb

from redframe.demo.scenario import made_id
from redframe.store.database import Identity
from tests.support import as_app, demo_template, identity, new_database, owner_rows

ORLA = identity("keeper", keeper="Orla Fenwick")
MENTOR = identity("mentor")
REFERENCES = """
SELECT c.conrelid::regclass::text, a.attname::text, c.confrelid::regclass::text, array_length(c.conkey, 1) > 1
FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[array_upper(c.conkey, 1)]
JOIN pg_class r ON r.oid = c.confrelid AND r.relrowsecurity
WHERE c.contype = 'f' AND c.connamespace = 'public'::regnamespace
AND has_table_privilege('redframe_app', c.conrelid, 'INSERT') ORDER BY 1, 2
"""
NOT_OF_PLACES = {"policy", "association", "person", "membership", "forecast_run", "count_week"}
"""What is referred to that is no keeper's."""
BY_STAFF_ALONE = {"colony_forecast", "count_week_keeper", "invitation", "membership"}
"""Tables that a keeper writes nothing to."""


class References(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def rows(self, table: str, who: Identity) -> list[dict[str, Any]]:
        """A few rows that somebody sees."""
        with as_app(self.url, who) as connection:
            query = sql.SQL("SELECT to_jsonb(t) FROM {} t LIMIT 1").format(sql.Identifier(table))
            return [row[0] for row in connection.execute(query).fetchall()]  # type: ignore[misc]

    def hidden(self, table: str, who: Identity, *, elsewhere: bool) -> list[UUID]:
        """Rows that somebody does not see: of another association, or of another keeper."""
        with as_app(self.url, who) as connection:
            query = sql.SQL("SELECT id FROM {}").format(sql.Identifier(table))
            seen = {row[0] for row in connection.execute(query).fetchall()}
        mine = who.association_id
        query = f"SELECT id, association_id FROM {table} ORDER BY id"  # noqa: S608
        return [one for one, of in owner_rows(self.url, query) if one not in seen and (of != mine) == elsewhere][:1]

    def refused(self, who: Identity, table: str, column: str, row: dict[str, Any], reference: UUID) -> None:
        """A copy of an own row, with another id, that refers to what is not seen."""
        changed = {**row, column: str(reference), **({"id": str(uuid4())} if "id" in row else {})}
        names = [sql.Identifier(name) for name in row if name not in ("is_living", "is_open", "xact")]
        columns = sql.SQL(", ").join(names)
        insert = sql.SQL("INSERT INTO {t} ({c}) SELECT {c} FROM jsonb_populate_record(NULL::{t}, %s)").format(
            t=sql.Identifier(table), c=columns
        )
        with as_app(self.url, who) as connection:
            connection.execute("SELECT set_config('redframe.reason', 'for the test', true)")
            with self.assertRaises(errors.InsufficientPrivilege) as refusal:
                connection.execute(insert, [Jsonb(changed)])
            self.assertRegex(str(refusal.exception), re.compile("row-level security policy"), f"{table}.{column}")

    def test_every_reference_is_looked_up(self) -> None:
        """Every foreign key of the catalogue, as a keeper with another keeper's record, and as a mentor with another
        association's."""
        tried = 0
        for table, column, seen, carries_association in owner_rows(self.url, REFERENCES):
            if seen in NOT_OF_PLACES:
                continue
            for who, elsewhere in ((ORLA, False), (MENTOR, True)):
                # A key that carries the association with it holds by itself against another's.
                if (table in BY_STAFF_ALONE and who is ORLA) or (carries_association and who is MENTOR):
                    continue
                mine = self.rows(table, who)
                others = self.hidden(seen, who, elsewhere=elsewhere)
                if not mine or not others:
                    continue
                tried += 1
                with self.subTest(table=table, column=column, role=who.role):
                    self.refused(who, table, column, mine[0], others[0])
        self.assertGreater(tried, 30)

    def test_what_is_amended_refers_to_what_is_seen_too(self) -> None:
        """A colony put into another keeper's hive, a comb into another's box, a board tied to another's count."""
        other = made_id("corrane", "Kettle Wood", "K1")
        hive, apiary = owner_rows(self.url, "SELECT hive_id, apiary_id FROM colony WHERE id = %s", other)[0]
        box = owner_rows(self.url, "SELECT id FROM hive_box WHERE hive_id = %s LIMIT 1", hive)[0][0]
        count = owner_rows(self.url, "SELECT id FROM mite_count WHERE colony_id = %s LIMIT 1", other)[0][0]
        own = made_id("corrane", "Tarn Head", "T1")
        for statement, reference in (
            ("UPDATE colony SET hive_id = %s WHERE id = %s", hive),
            ("UPDATE colony SET apiary_id = %s WHERE id = %s", apiary),
            ("UPDATE frame SET box_id = %s WHERE box_id IN (SELECT id FROM hive_box WHERE hive_id = "
             "(SELECT hive_id FROM colony WHERE id = %s))", box),
            ("UPDATE outlook SET count_id = %s WHERE colony_id = %s", count),
        ):  # fmt: skip
            with (
                self.subTest(statement=statement),
                as_app(self.url, ORLA) as connection,
                self.assertRaises(errors.InsufficientPrivilege),
            ):
                connection.execute(statement, [reference, own])  # type: ignore[arg-type]

    def test_who_is_what_is_for_administrators(self) -> None:
        """The others see their own membership, and the names of those whose work they see; a keeper only the own."""
        names = {
            "administrator": ("administrator", None),
            "mentor": ("mentor", None),
            "read_only": ("read_only", None),
            "keeper": ("keeper", "Orla Fenwick"),
        }
        seen = {}
        for name, (role, keeper) in names.items():
            with as_app(self.url, identity(role, keeper)) as connection:  # type: ignore[arg-type]
                seen[name] = tuple(
                    connection.execute(f"SELECT count(*) FROM {table}").fetchone()[0]  # type: ignore[index]  # noqa: S608
                    for table in ("membership", "person")
                )
        everybody = owner_rows(self.url, "SELECT count(*) FROM membership WHERE association_id = %s", made_id("corrane"))[0][0]  # fmt: skip
        self.assertEqual(seen["administrator"], (everybody, everybody))
        self.assertEqual((seen["mentor"], seen["read_only"]), ((1, everybody), (1, everybody)))
        self.assertEqual(seen["keeper"], (1, 1))

    def test_a_week_names_nobody_to_a_keeper(self) -> None:
        """A keeper who counts in it gets figures that can be told apart and not recognised; another gets nothing."""
        week = owner_rows(self.url, "SELECT week_id FROM count_week_keeper WHERE keeper_id = %s LIMIT 1", ORLA.keeper_id)[0][0]  # fmt: skip
        known = {row[0] for row in owner_rows(self.url, "SELECT id FROM apiary UNION SELECT id FROM keeper")}
        query = "SELECT apiary_id, keeper_id, days FROM week_coarsely(%s)"
        with as_app(self.url, MENTOR) as connection:
            whole = connection.execute(query, [week]).fetchall()
        with as_app(self.url, ORLA) as connection:
            seen = connection.execute(query, [week]).fetchall()
        self.assertEqual(len(seen), len(whole))
        self.assertEqual(len({row[1] for row in seen}), len({row[1] for row in whole}))
        self.assertEqual({row[1] for row in seen} & known, {ORLA.keeper_id})
        self.assertLessEqual({row[0] for row in whole}, known)
        psycopg.connect(self.url, autocommit=True).execute(
            "DELETE FROM count_week_keeper WHERE week_id = %s AND keeper_id = %s", [week, ORLA.keeper_id]
        ).connection.close()
        with as_app(self.url, ORLA) as connection:
            self.assertEqual(connection.execute(query, [week]).fetchall(), [])
