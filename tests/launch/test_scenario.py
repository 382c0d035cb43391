"""The demo as it ships: restored as it was lived, once, into an empty database and into no other."""

from __future__ import annotations

import lzma
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from redframe.demo import load
from redframe.demo.scenario import made_id
from redframe.launch import scenario
from redframe.store.migrate import migrate
from redframe.work.members.passwords import Argon2Hasher
from tests.support import demo_template, empty_template, new_database, owner_rows

RECORDS = ("association", "keeper", "apiary", "colony", "queen", "hive", "hive_box", "visit", "visit_frame", "mite_count", "count_reading",
           "course", "course_step", "course_act", "count_week", "colony_status", "outlook", "policy", "membership")  # fmt: skip


class Shipped(unittest.TestCase):
    def filled(self) -> tuple[bytes, str]:
        """What would ship of the demo, and the database that it is taken from."""
        source = new_database(demo_template())
        return scenario.dumped(source, effort=0), source

    def test_what_is_restored_is_what_was_lived(self) -> None:
        """Every record and its visibility, with passwords of this installation's own; loaded once and not again."""
        content, source = self.filled()
        with tempfile.TemporaryDirectory() as folder:
            shipped, digest = Path(folder) / "scenario.dump.xz", Path(folder) / "scenario.digest"
            with mock.patch.multiple(scenario, SHIPPED=shipped, DIGEST=digest):
                self.assertFalse(scenario.ships())
                scenario.keep(content)
                self.assertTrue(scenario.ships())
                target = new_database(empty_template())
                self.assertTrue(scenario.load_when_empty(target, fast_passwords=True))
                for table in RECORDS:
                    query = f"SELECT count(*), md5(string_agg(t::text, '' ORDER BY t::text)) FROM {table} t"  # noqa: S608
                    with self.subTest(table=table):
                        self.assertEqual(owner_rows(target, query), owner_rows(source, query))
                self.assertFalse(scenario.load_when_empty(target), "it is there already")
                self.assertEqual(migrate(target), 0)
        mentor = "SELECT password_hash FROM person WHERE email = 'mentor@corrane.example'"
        [(old,)], [(new,)] = owner_rows(source, mentor), owner_rows(target, mentor)
        self.assertNotEqual(old, new, "a salt of its own")
        self.assertTrue(Argon2Hasher(fast=True).verify(str(new), load.PASSWORD))

    def test_a_file_that_was_changed_does_not_ship(self) -> None:
        """Another content, another code, a missing half: each is lived through again rather than restored."""
        with tempfile.TemporaryDirectory() as folder:
            shipped, digest = Path(folder) / "scenario.dump.xz", Path(folder) / "scenario.digest"
            with mock.patch.multiple(scenario, SHIPPED=shipped, DIGEST=digest):
                scenario.keep(lzma.compress(b"records"))
                self.assertTrue(scenario.ships())
                shipped.write_bytes(lzma.compress(b"other records"))
                self.assertFalse(scenario.ships())
                scenario.keep(lzma.compress(b"records"))
                with mock.patch.object(scenario, "digest", lambda: "of other code"):
                    self.assertFalse(scenario.ships())
                digest.unlink()
                self.assertFalse(scenario.ships())

    def test_the_digest_is_of_everything_that_bears_on_it(self) -> None:
        """Code, queries, migrations and data of the parts that live it; one sign more anywhere makes another digest."""
        seen = {path.relative_to(scenario.SOURCE).parts[0] for path in scenario.SOURCE.rglob("*") if path.suffix in scenario.KINDS}  # fmt: skip
        self.assertLessEqual(set(scenario.PARTS), seen)
        with tempfile.TemporaryDirectory() as folder:
            root = Path(folder)
            for part in scenario.PARTS:
                (root / part).mkdir()
                (root / part / "one.py").write_text("x = 1\n", encoding="utf-8")
            digests = set()
            with mock.patch.object(scenario, "SOURCE", root):
                for part in ("", *scenario.PARTS):
                    if part:
                        (root / part / "one.py").write_text("x = 2\n", encoding="utf-8")
                    scenario.digest.cache_clear()
                    digests.add(scenario.digest())
                (root / "core" / "note.md").write_text("nothing that bears on it", encoding="utf-8")
                scenario.digest.cache_clear()
                digests.add(scenario.digest())
            scenario.digest.cache_clear()
        self.assertEqual(len(digests), len(scenario.PARTS) + 1)

    def test_a_database_of_somebody_else_is_left_alone(self) -> None:
        """The demo is never loaded into a database with an association of its own."""
        url = new_database(empty_template())
        owner_rows(
            url, "INSERT INTO association (id, name, timezone) VALUES (gen_random_uuid(), 'Moor', 'UTC') RETURNING 1"
        )
        with self.assertRaisesRegex(ValueError, "of its own"):
            scenario.load_when_empty(url, fast_passwords=True)
        self.assertEqual(owner_rows(url, "SELECT count(*) FROM apiary"), [(0,)])

    def test_a_load_that_was_killed_is_begun_again(self) -> None:
        """Half of the demo without the mark of its end is cleared before it is loaded."""
        url = new_database(empty_template())
        owner_rows(url, "INSERT INTO association (id, name, timezone) VALUES (%s, 'Corrane', 'UTC') RETURNING 1", made_id("corrane"))  # fmt: skip
        self.assertTrue(load.is_wanted(url))
        self.assertEqual(owner_rows(url, "SELECT count(*) FROM association"), [(0,)])

    def test_a_broken_file_says_what_broke(self) -> None:
        """What cannot be restored is an error with the tool's own words, and nothing is marked as loaded."""
        url = new_database(empty_template())
        with tempfile.TemporaryDirectory() as folder:
            shipped, digest = Path(folder) / "scenario.dump.xz", Path(folder) / "scenario.digest"
            with mock.patch.multiple(scenario, SHIPPED=shipped, DIGEST=digest):
                scenario.keep(lzma.compress(b"no archive"))
                with self.assertRaisesRegex(RuntimeError, "could not be restored: .*archive"):
                    scenario.load_when_empty(url, fast_passwords=True)
        self.assertTrue(load.is_wanted(url))
