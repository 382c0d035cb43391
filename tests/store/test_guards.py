"""What the database holds by itself: visibility by association and role, amendments, the trail, no deletion."""

from __future__ import annotations

import unittest
from uuid import UUID, uuid4

import psycopg
from psycopg import errors

from redframe.demo.scenario import made_id
from redframe.store import sampling
from redframe.store.database import sql
from redframe.store.migrate import MIGRATIONS, migrate
from redframe.store.places import NewKeeper
from redframe.work.places import record as places_record
from redframe.work.unit_of_work import UnitOfWork
from tests.support import as_app, at_work, cluster, demo_template, empty_template, identity, new_database, owner_rows

OWNERS = """
SELECT pg_get_userbyid(datdba) FROM pg_database WHERE datname = current_database()
UNION SELECT pg_get_userbyid(relowner) FROM pg_class WHERE relnamespace = 'public'::regnamespace
UNION SELECT pg_get_userbyid(proowner) FROM pg_proc p WHERE pronamespace = 'public'::regnamespace
AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
"""
PERSONAL = {"accepted_write", "invitation"}
"""Tables of which a mentor sees only what is the own, or nothing."""
EMPTY_IN_DEMO = {
    "colony_hold",
    "photo",
    "board_picture",
    "forecast_run",
    "colony_forecast",
    "forecast_evaluation",
    "apiary_work",
    "trace_list",
    "case_photo",
    "deadout_photo",
    "around_visit",
}
"""Tables of which the demo has no rows, perhaps."""


def tenant_tables(url: str) -> list[str]:
    """Every table that holds an association's rows, by the database's own catalogue."""
    query = (
        "SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'association_id' "
        "WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace ORDER BY 1"
    )
    return [str(name) for (name,) in owner_rows(url, query)]


class Visibility(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def test_nobody_sees_nothing(self) -> None:
        """Without an identity a query without any filter returns no row of any table."""
        with as_app(self.url, None) as connection:
            for table in {*tenant_tables(self.url), "association", "person", "member"}:
                with self.subTest(table=table):
                    self.assertEqual(connection.execute(f"SELECT count(*) FROM {table}").fetchone(), (0,))  # noqa: S608

    def test_views_hide_what_tables_hide(self) -> None:
        """A view reads as whoever asks; but for the one that gives names, of one's own association alone."""
        views = owner_rows(
            self.url,
            "SELECT relname FROM pg_class WHERE relkind = 'v' AND relnamespace = 'public'::regnamespace "
            "AND NOT coalesce(reloptions @> '{security_invoker=true}', false)",
        )
        self.assertEqual(views, [("member",)])
        for association in ("corrane", "ellery"):
            own = owner_rows(
                self.url,
                "SELECT p.id, p.name FROM person p JOIN membership m ON m.person_id = p.id WHERE m.association_id = %s",
                made_id(association),
            )
            for role in ("keeper", "mentor"):
                who = identity(role, "hollow" if role == "keeper" else None, association)
                with self.subTest(association=association, role=role), as_app(self.url, who) as connection:
                    seen = connection.execute("SELECT * FROM member").fetchall()
                    self.assertEqual(sorted(seen), sorted(own))  # type: ignore[type-var]
                    self.assertTrue(own)

    def test_an_association_sees_its_own_alone(self) -> None:
        """Bare SELECTs of each association's mentor add up to what the owner sees, and never overlap."""
        for table in set(tenant_tables(self.url)) - PERSONAL - {"membership"}:
            whole = owner_rows(self.url, f"SELECT count(*) FROM {table}")[0][0]  # noqa: S608
            seen = 0
            for association in ("corrane", "ellery"):
                with as_app(self.url, identity(association=association)) as connection:
                    row = connection.execute(
                        f"SELECT count(*), count(*) FILTER (WHERE association_id <> %s) FROM {table}",  # noqa: S608
                        [made_id(association)],
                    ).fetchone()
                    assert row is not None
                    seen += int(row[0])  # type: ignore[call-overload]
                    self.assertEqual(row[1], 0)
            with self.subTest(table=table):
                self.assertEqual(seen, whole)
                self.assertTrue(whole > 0 or table in EMPTY_IN_DEMO)

    def test_a_keeper_sees_only_the_own_apiaries(self) -> None:
        """Every record that a keeper reaches belongs to a colony of the keeper's own apiaries."""
        orla = identity("keeper", keeper="Orla Fenwick")
        with as_app(self.url, orla) as connection:
            apiaries = {row[0] for row in connection.execute("SELECT name FROM apiary").fetchall()}
            self.assertEqual(apiaries, {"Tarn Head", "Skerrow Bank"})
            own = {row[0] for row in connection.execute("SELECT id FROM colony").fetchall()}
            for table in ("queen", "visit", "mite_count", "colony_status", "course"):
                of = {row[0] for row in connection.execute(f"SELECT DISTINCT colony_id FROM {table}").fetchall()}  # noqa: S608
                with self.subTest(table=table):
                    self.assertTrue(of)
                    self.assertLessEqual(of, own)
            self.assertEqual(connection.execute("SELECT count(*) FROM keeper").fetchone(), (1,))
            self.assertEqual(connection.execute("SELECT count(*) FROM person").fetchone(), (1,))

    def test_writes_outside_are_refused(self) -> None:
        """A keeper's insert for another's colony, a reader's for any, and one into another association."""
        mine = made_id("corrane", "Tarn Head", "T1")
        others = made_id("corrane", "Kettle Wood", "K1")
        southern = made_id("ellery", "Old Jetty", "J1")
        insert = "INSERT INTO visit (id, association_id, colony_id, visited_on) VALUES (%s, my_association(), %s, '2031-08-02')"
        for who, colony, refused in (
            (identity("keeper", keeper="Orla Fenwick"), mine, False),
            (identity("keeper", keeper="Orla Fenwick"), others, True),
            (identity("read_only"), mine, True),
            (identity("mentor"), southern, True),
        ):
            with self.subTest(role=who.role, refused=refused), as_app(self.url, who) as connection:
                if refused:
                    with self.assertRaises((errors.InsufficientPrivilege, errors.ForeignKeyViolation)):
                        connection.execute(insert, [uuid4(), colony])
                else:
                    connection.execute(insert, [uuid4(), colony])
                connection.rollback()

    def test_passwords_and_sessions_are_out_of_reach(self) -> None:
        """The application's role cannot read a password hash or a session, whoever is at work."""
        with as_app(self.url, identity("administrator")) as connection:
            for query in (
                "SELECT password_hash FROM person",
                "SELECT * FROM session",
                "SELECT * FROM sign_in_attempt",
                "SELECT secret FROM second_factor",
                "SELECT code_hash FROM recovery_code",
            ):
                with self.subTest(query=query):
                    with self.assertRaises(errors.InsufficientPrivilege):
                        connection.execute(query)  # type: ignore[call-overload]
                    connection.rollback()
                    connection.execute("SELECT 1")

    def test_nobody_at_work_is_a_superuser(self) -> None:
        """Neither the owner of the database and of all that is in it nor the application's role: none makes databases,
        roles or files, and none passes row-level security by where it owns no table."""
        owners = owner_rows(self.url, OWNERS)
        self.assertEqual({str(name) for (name,) in owners}, {"redframe_owner"})
        query = (
            "SELECT rolname, rolsuper OR rolbypassrls OR rolcreatedb OR rolcreaterole OR rolreplication, "
            "has_database_privilege(oid, current_database(), 'TEMP') AND rolname <> 'redframe_owner' FROM pg_roles "
            "WHERE rolname IN ('redframe_owner', 'redframe_app')"
        )
        # What is granted on a database itself does not come with its copies.
        rights = sorted(owner_rows(cluster().url(empty_template()), query))
        self.assertEqual(rights, [("redframe_app", False, False), ("redframe_owner", False, False)])

    def test_a_database_of_an_earlier_release_is_handed_over(self) -> None:
        """Which the superuser had made and owned: everything in it changes hands, and goes on working."""
        name = "earlier_release"
        with psycopg.connect(cluster().superuser_url(), autocommit=True) as superuser:
            superuser.execute(f"CREATE DATABASE {name}")
        migrate(cluster().superuser_url(name))
        cluster().make_database(name)
        url = cluster().url(name)
        self.assertEqual({str(name) for (name,) in owner_rows(url, OWNERS)}, {"redframe_owner"})
        self.assertEqual(migrate(url), 0)
        with as_app(url, None) as connection:
            self.assertEqual(connection.execute("SELECT count(*) FROM colony").fetchone(), (0,))

    def test_functions_that_act_as_their_owner_are_closed(self) -> None:
        """Each looks names up in the database's own folder first, and may be called by the application alone."""
        query = (
            "SELECT p.oid::regprocedure::text, p.proconfig, EXISTS (SELECT FROM aclexplode(p.proacl) AS a WHERE a.grantee = 0) "
            "OR p.proacl IS NULL FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace AND p.prosecdef"
        )
        found = owner_rows(self.url, query)
        self.assertGreater(len(found), 25)
        for name, settings, is_public in found:
            with self.subTest(function=name):
                self.assertEqual(settings, ["search_path=pg_catalog, public, pg_temp"])
                self.assertFalse(is_public, "anybody may call it")

    def test_no_tables_of_its_own(self) -> None:
        """The application's role makes no table, not even for a moment."""
        url = cluster().url(empty_template())
        with as_app(url, identity("administrator")) as connection:
            for statement in ("CREATE TEMP TABLE mine (id int)", "CREATE TABLE mine (id int)"):
                with self.subTest(statement=statement):
                    with self.assertRaises(errors.InsufficientPrivilege):
                        connection.execute(statement)  # type: ignore[call-overload]
                    connection.rollback()

    def test_a_session_is_opened_for_whoever_proved_it(self) -> None:
        """Not for a membership of somebody else, not for an attempt that failed or is old, not without a link."""
        mentor, reader = identity("mentor"), identity("read_only")
        reserve = "SELECT attempt FROM sign_in_reserve(%s, '127.0.0.1', '15 minutes', 8, 40)"
        with as_app(self.url, None) as connection:
            row = connection.execute(reserve, ["mentor@corrane.example"]).fetchone()
            assert row is not None
            attempt = row[0]

            def opens(membership: object, proof: object, link: object = None) -> object:
                opened = connection.execute(
                    "SELECT session_open(%s, 'x', %s, '1 hour', '1 hour', %s, %s, '')",
                    [uuid4().bytes, membership, proof, link],
                ).fetchone()
                assert opened is not None
                return opened[0]

            self.assertFalse(opens(mentor.membership_id, attempt), "the attempt is not known to be right")
            connection.execute("SELECT sign_in_proved(%s)", [attempt])
            self.assertTrue(opens(mentor.membership_id, attempt))
            self.assertFalse(opens(reader.membership_id, attempt), "another person's")
            self.assertFalse(opens(reader.membership_id, None))
            self.assertFalse(opens(reader.membership_id, uuid4(), b"no link"))

    def test_nothing_recorded_can_be_deleted_and_the_trail_not_changed(self) -> None:
        """No DELETE on records, no write to the trail."""
        with as_app(self.url, identity("administrator")) as connection:
            for statement in (
                "DELETE FROM mite_count", "DELETE FROM course", "DELETE FROM visit", "DELETE FROM colony",
                "DELETE FROM audit", "UPDATE audit SET reason = 'x'", "TRUNCATE mite_count",
            ):  # fmt: skip
                with self.subTest(statement=statement):
                    with self.assertRaises(errors.InsufficientPrivilege):
                        connection.execute(statement)  # type: ignore[call-overload]
                    connection.rollback()


class Trail(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = new_database(demo_template())

    def some_count(self) -> UUID:
        """A count of the demo."""
        query = "SELECT id FROM mite_count WHERE association_id = %s ORDER BY taken_at, id LIMIT 1"
        return UUID(str(owner_rows(self.url, query, made_id("corrane"))[0][0]))

    def test_an_amendment_needs_a_reason(self) -> None:
        """The database itself refuses to change a measurement without one, and keeps the former with one."""
        count = self.some_count()
        with as_app(self.url, identity()) as connection:
            with self.assertRaises(errors.CheckViolation):
                connection.execute("UPDATE mite_count SET note = 'other' WHERE id = %s", [count])
            connection.rollback()
        who = identity()
        with as_app(self.url, who) as connection:
            connection.execute("SELECT set_config('redframe.reason', 'misread the tray', false)")
            connection.execute("UPDATE mite_count SET shakes = '{7,1}' WHERE id = %s", [count])
        rows = owner_rows(
            self.url,
            "SELECT act, reason, by_person, previous ->> 'shakes', current ->> 'shakes' FROM audit WHERE record_id = %s "
            "ORDER BY seq DESC LIMIT 1",
            count,
        )
        self.assertEqual(rows[0][:3], ("amended", "misread the tray", who.person_id))
        self.assertNotEqual(rows[0][3], rows[0][4])
        self.assertEqual(owner_rows(self.url, "SELECT version FROM mite_count WHERE id = %s", count), [(2,)])

    def test_every_record_has_its_beginning_in_the_trail(self) -> None:
        """Each count, visit, course and act of the demo was noted when it was made."""
        for table in ("mite_count", "visit", "course", "course_act", "colony", "apiary"):
            with self.subTest(table=table):
                missing = owner_rows(
                    self.url,
                    f"SELECT count(*) FROM {table} r WHERE NOT EXISTS (SELECT FROM audit a WHERE a.record_id = r.id "  # noqa: S608
                    f"AND a.table_name = '{table}' AND a.act = 'created')",
                )
                self.assertEqual(missing, [(0,)])

    def test_a_count_without_bees_has_no_reading(self) -> None:
        """Derived rows agree with the records: a reading for each count with bees, a level for each outlook."""
        self.assertEqual(
            owner_rows(
                self.url,
                "SELECT count(*) FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id "
                "WHERE (m.bees_known_by = 'not_recorded' OR m.method = 'look') = (r.count_id IS NOT NULL)",
            ),
            [(0,)],
        )
        gaps = owner_rows(
            self.url,
            "SELECT count(*) FROM colony_status s WHERE s.until IS NOT NULL AND NOT EXISTS (SELECT FROM colony_status n "
            "WHERE n.colony_id = s.colony_id AND n.since = s.until)",
        )
        self.assertEqual(gaps, [(0,)])


class Schema(unittest.TestCase):
    def test_migrating_again_changes_nothing(self) -> None:
        """From empty all are applied; a second and a third run find nothing to do."""
        url = new_database(empty_template())
        self.assertEqual(migrate(url), 0)
        applied = owner_rows(url, "SELECT count(*) FROM _yoyo_migration")[0][0]
        self.assertEqual(applied, len(list(MIGRATIONS.glob("*.sql"))))

    def test_every_named_query_is_sound(self) -> None:
        """Each statement of store/sql is understood by the server: tables, columns and types exist."""
        import re

        from redframe.store.database import _queries

        url = new_database(empty_template())
        names = [name for name in _queries().available_queries if not name.endswith("_cursor")]
        self.assertGreater(len(names), 50)
        with psycopg.connect(url, autocommit=True) as connection:
            for name in names:
                if sql(name).split()[0].rstrip(";") in {"ANALYZE", "CREATE", "TRUNCATE", "VACUUM"}:
                    continue  # what the server never prepares; loading the demo runs them
                with self.subTest(query=name):
                    numbers: dict[str, int] = {}
                    text = re.sub(
                        r"%\((\w+)\)s", lambda m: f"${numbers.setdefault(m.group(1), len(numbers) + 1)}", sql(name)
                    ).replace("%%", "%")
                    connection.execute(f"PREPARE checked AS {text}".encode())
                    connection.execute("DEALLOCATE checked")

    def test_two_chemical_courses_never_overlap(self) -> None:
        """The exclusion constraint holds even for the owner."""
        url = new_database(demo_template())
        with psycopg.connect(url) as connection, self.assertRaises(errors.ExclusionViolation):
            connection.execute(
                "INSERT INTO course (id, association_id, apiary_id, colony_id, plan_id, option_id, catalogue_version, "
                "policy_version, chemical, start_on, dose_quantity, dose_unit, broodless, occupies, suitability) "
                "SELECT gen_random_uuid(), association_id, apiary_id, colony_id, plan_id, 'OX_TRICKLE', 1, policy_version, "
                "true, start_on, 1, 'ml', false, occupies, '{}' FROM course WHERE state = 'under_way' LIMIT 1"
            )


class Transactions(unittest.TestCase):
    def test_an_error_leaves_nothing_behind(self) -> None:
        """What fails in the middle of a use case is rolled back whole, its accepted id with it."""
        url = new_database(demo_template())
        keeper_id = uuid4()

        async def half(unit: UnitOfWork) -> None:
            await places_record.add_keeper(unit, keeper_id, NewKeeper("Wren Halloran"))
            raise RuntimeError("power cut")

        with self.assertRaises(RuntimeError):
            at_work(url, half)
        self.assertEqual(owner_rows(url, "SELECT count(*) FROM keeper WHERE id = %s", keeper_id), [(0,)])
        self.assertEqual(owner_rows(url, "SELECT count(*) FROM accepted_write WHERE id = %s", keeper_id), [(0,)])

    def test_counts_of_another_keeper_are_not_found(self) -> None:
        """The store answers a keeper's question about others' records with nothing."""
        url = new_database(demo_template())
        others = made_id("corrane", "Kettle Wood", "K1")

        async def look(unit: UnitOfWork) -> int:
            from datetime import date

            return len(await sampling.counts_of_colonies(unit.connection, [others], date(2029, 1, 1)))

        self.assertGreater(at_work(url, look), 10)
        self.assertEqual(at_work(url, look, identity("keeper", keeper="Orla Fenwick")), 0)
