"""Coming up from the release before: what was recorded stays, guards hold on it, and two starts at once migrate once."""

from __future__ import annotations

import unittest
from concurrent.futures import ThreadPoolExecutor
from itertools import count
from typing import Any
from uuid import UUID, uuid4

import psycopg
import yoyo

from redframe.core.colonies.states import COLONY_STATES
from redframe.core.treatments.states import COURSE_STATES
from redframe.store.database import Identity
from redframe.store.migrate import MIGRATIONS, migrate
from redframe.work.roles import MAY, STAFF
from tests.support import as_app, cluster, owner_rows

_numbers = count(1)
BEFORE = "0011-guards"
"""The last migration of the release before."""


def bare_database() -> str:
    """An empty database without a schema; the owner's address."""
    name = f"bare_{next(_numbers)}"
    cluster().make_database(name)
    return cluster().url(name)


def migrate_to(url: str, last: str) -> None:
    """Apply the migrations of an earlier release, up to its last."""
    backend = yoyo.get_backend(url.replace("postgresql://", "postgresql+psycopg://", 1))
    found = yoyo.read_migrations(str(MIGRATIONS)).filter(lambda one: one.id <= last)
    with backend.lock():
        backend.apply_migrations(backend.to_apply(found))
    backend.connection.close()


class FromTheReleaseBefore(unittest.TestCase):
    """A database of the earlier release with a keeper, two apiaries, a colony, its boxes, a visit, a course and a
    session."""

    def setUp(self) -> None:
        self.url = bare_database()
        migrate_to(self.url, BEFORE)
        names = ("association", "keeper", "other", "person", "membership", "apiary", "away", "hive", "colony", "course")
        self.ids = {name: uuid4() for name in names}
        statements: tuple[tuple[str, tuple[Any, ...]], ...] = (
            ("INSERT INTO association (id, name, timezone) VALUES (%s, 'Moor', 'UTC')", ("association",)),
            ("INSERT INTO policy (association_id, version, scheme, calendar) VALUES (%s, 1, 'flat_2', '{\"peak\": \"05-15\"}')", ("association",)),
            ("INSERT INTO keeper (id, association_id, name) VALUES (%s, %s, 'Orla Fenwick')", ("keeper", "association")),
            ("INSERT INTO keeper (id, association_id, name) VALUES (%s, %s, 'Tobias Quill')", ("other", "association")),
            ("INSERT INTO person (id, email, name, password_hash) VALUES (%s, 'orla@moor.example', 'Orla', 'x')", ("person",)),
            ("INSERT INTO membership (id, person_id, association_id, role, keeper_id) VALUES (%s, %s, %s, 'keeper', %s)", ("membership", "person", "association", "keeper")),
            ("INSERT INTO apiary (id, association_id, keeper_id, name, latitude, longitude) VALUES (%s, %s, %s, 'Here', 44, -31)", ("apiary", "association", "keeper")),
            ("INSERT INTO apiary (id, association_id, keeper_id, name, latitude, longitude) VALUES (%s, %s, %s, 'Away', 44, -31)", ("away", "association", "other")),
            ("INSERT INTO hive (id, association_id, apiary_id, hive_type) VALUES (%s, %s, %s, 'stacked boxes')", ("hive", "association", "apiary")),
            ("INSERT INTO colony (id, association_id, apiary_id, hive_id, label, state_since) VALUES (%s, %s, %s, %s, '1', '2031-04-01')", ("colony", "association", "apiary", "hive")),
            ("INSERT INTO colony_event (id, association_id, colony_id, kind, happened_on) VALUES (gen_random_uuid(), %s, %s, 'started', '2030-04-12')", ("association", "colony")),
            ("INSERT INTO hive_box (hive_id, association_id, position, purpose, frame_format, frames, since) VALUES (%s, %s, 1, 'brood', 'A_deep', 10, '2030-04-12')", ("hive", "association")),
            ("INSERT INTO visit (id, association_id, colony_id, visited_on, state, note, place) VALUES (gen_random_uuid(), %s, %s, '2031-05-01', 'closed', 'calm', '{}')", ("association", "colony")),
            ("INSERT INTO course (id, association_id, apiary_id, colony_id, plan_id, option_id, catalogue_version, policy_version, chemical, start_on, dose_quantity, dose_unit, broodless, occupies, suitability) "
             "VALUES (%s, %s, %s, %s, gen_random_uuid(), 'FA_STRIP2', '1', 1, true, '2031-08-02', 2, 'strip', false, '[2031-08-02,2031-08-12)', '{}')", ("course", "association", "apiary", "colony")),
            ("INSERT INTO session (token_hash, csrf_token, membership_id, expires_at) VALUES ('\\x01', 'c', %s, now() + interval '1 day')", ("membership",)),
        )  # fmt: skip
        with psycopg.connect(self.url) as owner:
            for statement, names_in in statements:
                owner.execute(statement, [self.ids[name] for name in names_in])

    def orla(self) -> Identity:
        """The keeper of the first apiary."""
        return Identity(
            self.ids["person"], self.ids["membership"], self.ids["association"], "keeper", self.ids["keeper"], "UTC"
        )

    def seen(self, query: str) -> list[tuple[object, ...]]:
        """Rows as the keeper sees them."""
        with as_app(self.url, self.orla()) as connection:
            return connection.execute(query).fetchall()

    def test_records_come_up_with_it(self) -> None:
        """What was on record is on record, field for field; people stay signed in; nothing is left to apply."""
        tables = ("keeper", "apiary", "hive", "hive_box", "colony", "colony_event", "visit", "course", "audit")

        def rows(table: str) -> list[dict[str, Any]]:
            return [row for (row,) in owner_rows(self.url, f"SELECT to_jsonb(t) FROM {table} t ORDER BY 1::text")]  # noqa: S608

        before = {table: rows(table) for table in tables}
        migrate(self.url)
        self.assertEqual(migrate(self.url), 0)
        for table in tables:
            self.assertGreater(len(before[table]), 0, table)
            for was, now in zip(before[table], rows(table), strict=True):
                self.assertLessEqual(was.items(), now.items(), table)
        self.assertEqual(owner_rows(self.url, "SELECT role FROM session_lookup('\\x01')"), [("keeper",)])

    def test_guards_hold_on_what_was_there(self) -> None:
        """The keeper sees the own colony, hive, boxes and course after it as before, and nothing of the other's."""
        reached = ("apiary", "hive", "hive_box", "colony", "colony_event", "visit", "course")
        query = " UNION ALL ".join(f"SELECT '{table}', count(*) FROM {table}" for table in reached)  # noqa: S608
        before = self.seen(query)
        migrate(self.url)
        self.assertEqual(self.seen(query), before)
        self.assertEqual({number for _, number in before}, {1})

    def test_a_course_follows_its_colony(self) -> None:
        """Moved to the other keeper's apiary, colony and course leave the first keeper's sight together."""
        migrate(self.url)
        self.assertEqual(self.seen("SELECT apiary FROM course_record"), [("Here",)])
        with psycopg.connect(self.url) as owner:
            owner.execute("UPDATE colony SET apiary_id = %s WHERE id = %s", [self.ids["away"], self.ids["colony"]])
        self.assertEqual(self.seen("SELECT apiary FROM course_record"), [])
        self.assertEqual(owner_rows(self.url, "SELECT apiary FROM course_record"), [("Away",)])

    def test_boxes_cannot_be_deleted_any_more(self) -> None:
        """What stood there keeps its days: not even the application's role can take it away."""
        migrate(self.url)
        with as_app(self.url, self.orla()) as connection, self.assertRaises(psycopg.errors.InsufficientPrivilege):
            connection.execute("DELETE FROM hive_box")

    def test_boxes_change_places_and_visits_only_with_a_reason(self) -> None:
        """Two boxes swap their places in one statement; a closed visit is amended with a reason only."""
        migrate(self.url)
        with psycopg.connect(self.url) as owner:
            own = [self.ids["hive"], self.ids["association"]]
            owner.execute("INSERT INTO hive_box (hive_id, association_id, position, purpose, frame_format, frames, since) VALUES (%s, %s, 2, 'super', 'A_shallow', 9, '2031-05-01')", own)  # fmt: skip
        with as_app(self.url, self.orla()) as connection:
            connection.execute("UPDATE hive_box SET position = 3 - position")
            with self.assertRaises(psycopg.errors.CheckViolation):
                connection.execute("UPDATE visit SET note = 'rough'")
        with as_app(self.url, self.orla()) as connection:
            connection.execute("SELECT set_config('redframe.reason', 'the wrong colony', false)")
            connection.execute("UPDATE visit SET note = 'rough'")
            connection.commit()
        self.assertEqual(
            owner_rows(self.url, "SELECT reason FROM audit WHERE table_name = 'visit' AND act = 'amended'"),
            [("the wrong colony",)],
        )

    def test_the_database_keeps_frames_and_drafts_in_order(self) -> None:
        """One frame a slot, either hanging or away; one draft a colony; a box with frames or without, never half."""
        migrate(self.url)
        box = owner_rows(self.url, "SELECT id FROM hive_box")[0][0]
        who = [self.ids["association"], self.ids["apiary"]]
        hang = "INSERT INTO frame (id, association_id, apiary_id, frame_format, box_id, slot, away) VALUES (gen_random_uuid(), %s, %s, 'A_deep', %s, %s, %s)"
        draft = "INSERT INTO visit (id, association_id, colony_id, visited_on, state) VALUES (gen_random_uuid(), %s, %s, '2031-08-02', 'draft')"
        odd = "INSERT INTO hive_box (hive_id, association_id, position, purpose, frame_format, frames, since) VALUES (%s, %s, 5, 'excluder', 'A_deep', 10, '2031-08-02')"
        for statement, values, broken in (
            (hang, [*who, box, 1, "store"], psycopg.errors.CheckViolation),
            (hang, [*who, None, None, None], psycopg.errors.CheckViolation),
            (odd, [self.ids["hive"], self.ids["association"]], psycopg.errors.CheckViolation),
        ):
            with psycopg.connect(self.url) as owner, self.assertRaises(broken):
                owner.execute(statement, values)
        for statement, values in ((hang, [*who, box, 1, None]), (draft, [self.ids["association"], self.ids["colony"]])):
            with psycopg.connect(self.url) as owner:
                owner.execute(statement, values)
            owner = psycopg.connect(self.url)
            with self.assertRaises(psycopg.IntegrityError):
                owner.execute(statement, values)
                owner.commit()
            owner.close()


class AtOnce(unittest.TestCase):
    def test_two_starts_migrate_once(self) -> None:
        """Both end well, and together they applied each migration once."""
        url = bare_database()
        with ThreadPoolExecutor(2) as both:
            applied = list(both.map(migrate, [url, url]))
        self.assertEqual(sorted(applied), [0, len(list(MIGRATIONS.glob("*.sql")))])

    def test_states_are_those_of_the_core(self) -> None:
        """The lookup tables hold the properties that the rules ask for, and the flags of records follow the state."""
        url = bare_database()
        migrate(url)
        colonies = {name: (living, lost) for name, living, lost in owner_rows(url, "SELECT * FROM colony_state")}
        self.assertEqual(colonies, {name: (one.is_living, one.is_lost) for name, one in COLONY_STATES.items()})
        courses = dict(owner_rows(url, "SELECT name, is_open FROM course_state"))
        self.assertEqual(courses, {name: one.is_open for name, one in COURSE_STATES.items()})
        roles = {name: (write, staff) for name, write, staff in owner_rows(url, "SELECT * FROM role")}
        self.assertEqual({name for name, (write, _) in roles.items() if write}, set(MAY["record"]))
        self.assertEqual({name for name, (_, staff) in roles.items() if staff}, set(STAFF))

    def test_every_table_of_records_is_guarded(self) -> None:
        """No table that holds an association's rows is without row-level security, and none lets the role delete
        what was recorded."""
        url = bare_database()
        migrate(url)
        tables = owner_rows(
            url,
            "SELECT c.relname, c.relrowsecurity, has_table_privilege('redframe_app', c.oid, 'DELETE') FROM pg_class c "
            "JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'association_id' WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace",
        )
        self.assertGreater(len(tables), 15)
        self.assertEqual([name for name, guarded, _ in tables if not guarded], [])
        derived = {"colony_status", "outlook", "count_reading", "course_step", "colony_forecast", "count_week_keeper",
                   "forecast_evaluation", "work_turned"}  # fmt: skip
        self.assertEqual({name for name, _, deletable in tables if deletable}, derived)

    def test_an_invitation_is_the_administrators_alone(self) -> None:
        """Neither a mentor nor nobody reads one, and its token's hash is read by no role at all."""
        url = bare_database()
        migrate(url)
        association, person = uuid4(), uuid4()
        with psycopg.connect(url) as owner:
            owner.execute("INSERT INTO association (id, name, timezone) VALUES (%s, 'Moor', 'UTC')", [association])
            owner.execute("INSERT INTO person (id, email, name, password_hash) VALUES (%s, 'a@b.example', 'A', 'x')", [person])  # fmt: skip
            owner.execute("INSERT INTO invitation (id, association_id, email, role, token_hash, created_by, expires_at) VALUES (gen_random_uuid(), %s, 'c@d.example', 'mentor', '\\x02', %s, now() + interval '1 day')", [association, person])  # fmt: skip
        for role, number in (("administrator", 1), ("mentor", 0), ("keeper", 0)):
            keeper: UUID | None = uuid4() if role == "keeper" else None
            who = Identity(person, uuid4(), association, role, keeper, "UTC")
            with self.subTest(role=role), as_app(url, who) as connection:
                self.assertEqual(connection.execute("SELECT count(*) FROM invitation").fetchone(), (number,))
        with as_app(url, None) as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM invitation").fetchone(), (0,))
