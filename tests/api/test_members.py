"""How people come to an association and leave it: invitations, roles, the last administrator."""

from __future__ import annotations

import unittest
from contextlib import closing
from typing import Any
from uuid import uuid4

import httpx
import psycopg
from bench.crowd import mentors

from redframe.demo.scenario import made_id
from tests.support import Server, owner_rows


class Members(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.server = Server()
        cls.addClassCleanup(cls.server.stop)
        cls.client = cls.server.sign_in("administrator@corrane.example")
        cls.addClassCleanup(cls.client.close)

    def call(self, method: str, path: str, body: Any = None, version: int | None = None) -> httpx.Response:
        """Call as the administrator."""
        headers = {"If-Match": f'"{version}"'} if version is not None else {}
        return self.client.request(method, f"/api/v1{path}", json=body, headers=headers)

    def invite(self, email: str, role: str = "mentor", **more: Any) -> dict[str, Any]:
        """Invite an address; the invitation with its link's token."""
        body = {"id": str(uuid4()), "email": email, "role": role, **more}
        answer = self.call("POST", "/invitations", body)
        self.assertEqual(answer.status_code, 201, answer.text)
        result: dict[str, Any] = answer.json()
        return result

    def guest(self) -> httpx.Client:
        """A browser that nobody has signed in."""
        return httpx.Client(base_url=self.server.url)

    def member(self, email: str) -> dict[str, Any]:
        """A member as the administrator sees the list."""
        found: dict[str, Any] = next(
            one for one in self.call("GET", "/members").json()["members"] if one["email"] == email
        )
        return found

    def test_somebody_new_joins_and_sees_what_the_role_allows(self) -> None:
        """A keeper joins by the link: sees the own apiaries at once, and the link has done its work."""
        keeper = made_id("corrane", "keeper", "Tobias Quill")
        result = self.invite(" Tobias@Corrane.Example ", "keeper", keeper_id=str(keeper))
        self.assertEqual(result["invitation"]["email"], "tobias@corrane.example")
        with closing(self.guest()) as guest:
            opened = guest.post("/api/v1/joining/link", json={"token": result["token"]}).json()
            self.assertEqual(
                (opened["role"], opened["keeper"], opened["has_account"]), ("keeper", "Tobias Quill", False)
            )
            body = {"token": result["token"], "name": "Tobias Quill", "password": "a-long-winter"}
            for field, changes in (("password", {"password": "short"}), ("name", {"name": " "}), ("password", {"password": "aaaaaaaaaaaa"})):  # fmt: skip
                answer = guest.post("/api/v1/joining", json={**body, **changes})
                self.assertEqual((answer.status_code, answer.json()["errors"][0]["field"]), (422, field))
            joined = guest.post("/api/v1/joining", json=body)
            self.assertEqual(joined.status_code, 201, joined.text)
            places = guest.get("/api/v1/apiaries").json()
            self.assertEqual({one["keeper"] for one in places["apiaries"]}, {"Tobias Quill"})
            self.assertEqual(guest.post("/api/v1/joining", json=body).status_code, 404)
        self.assertNotIn("tobias@corrane.example", str(self.call("GET", "/members").json()["invitations"]))

    def test_who_has_an_account_proves_it(self) -> None:
        """A mentor of Corrane joins Port Ellery with the password there is; a wrong one opens nothing."""
        with closing(self.server.sign_in("inspector@corrane.example")) as inspector:
            self.assertEqual(inspector.post("/api/v1/invitations", json={"id": str(uuid4()), "email": "a@b", "role": "mentor"}).status_code, 403)  # fmt: skip
        result = self.invite("mentor@ellery.example")
        with closing(self.guest()) as guest:
            body = {"token": result["token"], "name": "", "password": "not-the-one"}
            answer = guest.post("/api/v1/joining", json=body)
            self.assertEqual(answer.json()["errors"][0]["field"], "password")
            joined = guest.post("/api/v1/joining", json={**body, "password": "corrane-demo"})
            self.assertEqual(joined.status_code, 201, joined.text)
            self.assertEqual(len(joined.json()["places_of_work"]), 2)

    def test_a_link_that_was_replaced_or_withdrawn_opens_nothing(self) -> None:
        """A new link ends the former one; withdrawing ends both; a repeated invitation answers with a link that works."""
        result = self.invite("wren@corrane.example")
        number = result["invitation"]["id"]
        again = self.call("POST", "/invitations", {"id": number, "email": "wren@corrane.example", "role": "mentor"})
        self.assertEqual(again.status_code, 201)
        renewed = self.call("POST", f"/invitations/{number}/link").json()["token"]
        with closing(self.guest()) as guest:
            codes = [
                guest.post("/api/v1/joining/link", json={"token": token}).status_code
                for token in (result["token"], again.json()["token"], renewed)
            ]
            self.assertEqual(codes, [404, 404, 200])
            self.assertEqual(self.call("DELETE", f"/invitations/{number}").status_code, 204)
            self.assertEqual(guest.post("/api/v1/joining/link", json={"token": renewed}).status_code, 404)
        self.assertEqual(self.call("POST", f"/invitations/{number}/link").status_code, 404)

    def test_a_link_that_has_run_out_opens_nothing(self) -> None:
        """Two weeks, by the database's clock."""
        result = self.invite("late@corrane.example")
        with psycopg.connect(self.server.owner_url) as owner:
            owner.execute(
                "UPDATE invitation SET expires_at = now() - interval '1 minute' WHERE email = 'late@corrane.example'"
            )
        with closing(self.guest()) as guest:
            body = {"token": result["token"], "name": "Late", "password": "a-long-winter"}
            self.assertEqual(guest.post("/api/v1/joining", json=body).status_code, 404)

    def test_bad_invitations_are_named_at_their_field(self) -> None:
        """No address, a member's address, an invited one, a keeper without apiaries to keep."""
        self.invite("twice@corrane.example")
        keeper = str(made_id("corrane", "keeper", "Tobias Quill"))
        for field, body in (
            ("email", {"email": "nowhere", "role": "mentor"}), ("email", {"email": "mentor@corrane.example", "role": "mentor"}),
            ("email", {"email": "TWICE@corrane.example", "role": "mentor"}), ("keeper_id", {"email": "k@corrane.example", "role": "keeper"}),
            ("keeper_id", {"email": "k@corrane.example", "role": "keeper", "keeper_id": str(uuid4())}),
            ("keeper_id", {"email": "k@corrane.example", "role": "mentor", "keeper_id": keeper}),
            ("role", {"email": "k@corrane.example", "role": "owner"}),
        ):  # fmt: skip
            with self.subTest(body=body):
                answer = self.call("POST", "/invitations", {"id": str(uuid4()), **body})
                self.assertEqual((answer.status_code, answer.json()["errors"][0]["field"]), (422, field))

    def test_a_membership_that_ends_closes_the_door_at_once(self) -> None:
        """The open session goes with it; the history keeps the name; an invitation lets the person back in."""
        reader = self.member("reader@corrane.example")
        with closing(self.server.sign_in("reader@corrane.example")) as client:
            self.assertEqual(client.get("/api/v1/worklist").status_code, 200)
            ended = {"role": "read_only", "ended": True}
            answer = self.call("PUT", f"/members/{reader['id']}", ended, version=reader["version"])
            self.assertEqual(answer.status_code, 200, answer.text)
            self.assertEqual(client.get("/api/v1/worklist").status_code, 401)
        with closing(self.guest()) as guest:
            entry = {"email": "reader@corrane.example", "password": "corrane-demo"}
            self.assertEqual(guest.post("/api/v1/session", json=entry).status_code, 401)
            stale = self.call("PUT", f"/members/{reader['id']}", {"role": "mentor"}, version=reader["version"])
            self.assertEqual(stale.status_code, 409)
            token = self.invite("reader@corrane.example", "read_only")["token"]
            back = guest.post("/api/v1/joining", json={"token": token, "password": "corrane-demo"})
            self.assertEqual(back.status_code, 201, back.text)
        history = owner_rows(
            self.server.owner_url, "SELECT act FROM audit WHERE record_id = %s ORDER BY seq", reader["id"]
        )
        self.assertEqual([row[0] for row in history][-2:], ["amended", "amended"])

    def test_many_members_come_a_page_at_a_time(self) -> None:
        """Each once and in order, whoever joins meanwhile; found by letters of the name, the address or the keeper; the
        open invitations come with the first page."""
        self.invite("waiting@corrane.example")
        mentors(self.server.owner_url, 130)
        pages, after = [], ""
        while True:
            page = self.call("GET", f"/members?after={after}" if after else "/members").json()
            pages.append(page)
            if len(pages) == 1:
                with psycopg.connect(self.server.owner_url) as owner:
                    owner.execute("UPDATE person SET name = 'Aaron' || name WHERE email = 'crowd7@corrane.example'")
            after = page["next"]
            if after is None:
                break
        self.assertEqual([len(page["members"]) for page in pages][:2], [60, 60])
        names = [(one["ended_at"] is not None, one["name"], one["id"]) for page in pages for one in page["members"]]
        self.assertEqual(names, sorted(names))
        self.assertEqual(len({one for *_, one in names}), len(names))
        self.assertGreaterEqual(len(names), 130)
        self.assertEqual([bool(page["invitations"]) for page in pages], [True] + [False] * (len(pages) - 1))
        for find, email in (
            ("CROWD 12".replace(" ", ""), "crowd12@corrane.example"),
            ("fenwick", "keeper@corrane.example"),
        ):
            found = [one["email"] for one in self.call("GET", f"/members?find={find}").json()["members"]]
            self.assertIn(email, found)
            self.assertLess(len(found), 12)
        self.assertEqual(self.call("GET", "/members?find=nobody-is-called-this").json()["members"], [])
        self.assertEqual(self.call("GET", "/members?after=nowhere").status_code, 422)

    def test_somebody_stays_administrator(self) -> None:
        """The last one can neither leave nor step down; with a second one both are possible."""
        own = self.member("administrator@corrane.example")
        for body in ({"role": "mentor"}, {"role": "administrator", "ended": True}):
            answer = self.call("PUT", f"/members/{own['id']}", body, version=own["version"])
            self.assertEqual((answer.status_code, answer.json()["errors"][0]["field"]), (409, "role"))
        mentor = self.member("mentor@corrane.example")
        promoted = self.call("PUT", f"/members/{mentor['id']}", {"role": "administrator"}, version=mentor["version"])
        self.assertEqual(promoted.status_code, 200)
        self.assertEqual(self.member("mentor@corrane.example")["role"], "administrator")
        elsewhere = owner_rows(self.server.owner_url, "SELECT id::text FROM membership WHERE association_id = %s LIMIT 1", made_id("ellery"))  # fmt: skip
        answer = self.call("PUT", f"/members/{elsewhere[0][0]}", {"role": "mentor"}, version=1)
        self.assertEqual(answer.status_code, 404)
