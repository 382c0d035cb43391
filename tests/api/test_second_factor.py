"""A second factor: without its code the password opens nothing, and no code opens twice."""

from __future__ import annotations

import time
import unittest
from contextlib import closing
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx
import psycopg
import pyotp

from redframe.demo.scenario import PASSWORD
from redframe.store import installation
from redframe.work.members.second_factor import CODE_LENGTH, RECOVERY_CODES, STEP_S, plain, step_of
from tests.support import Server

MENTOR = "mentor@corrane.example"
AT = "/api/v1/person/second-factor"


class Figures(unittest.TestCase):
    def test_published_codes(self) -> None:
        """The values of RFC 6238, appendix B, in six figures; a moment early or late is taken, an hour is not."""
        secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ"
        for moment, code in ((59, "287082"), (1111111109, "081804"), (1234567890, "005924"), (20000000000, "353130")):
            step = moment // STEP_S
            for clock in (moment, moment - STEP_S, moment + STEP_S):
                self.assertEqual(step_of(secret, code, clock, after=0), step)
            self.assertIsNone(step_of(secret, code, moment + 3600, after=0))
            self.assertIsNone(step_of(secret, code, moment, after=step), "taken before")

    def test_as_people_write_them(self) -> None:
        """Gaps, dashes and small letters do not matter."""
        self.assertEqual(plain(" abcd-Efgh jklm "), "ABCDEFGHJKLM")
        self.assertEqual(plain("١٢٣ 456"), "456")


class SecondFactors(unittest.TestCase):
    def setUp(self) -> None:
        self.server = Server()
        self.addCleanup(self.server.stop)
        self.client = self.server.sign_in(MENTOR)
        self.addCleanup(self.client.close)

    def sign_in(self, code: str | None = None, password: str = PASSWORD) -> httpx.Response:
        """What a sign-in on another device says."""
        given = {"email": MENTOR, "password": password} | ({} if code is None else {"code": code})
        return httpx.post(f"{self.server.url}/api/v1/session", json=given, timeout=30)

    def fault(self, answer: httpx.Response) -> tuple[int, str, str]:
        """Status, field and code of a refusal."""
        first = answer.json()["errors"][0]
        return answer.status_code, first["field"], first["code"]

    def begin(self) -> pyotp.TOTP:
        """A device that has taken a secret up."""
        begun = self.client.post(AT, json={"present": PASSWORD})
        self.assertEqual(begun.status_code, 201)
        told = parse_qs(urlsplit(begun.json()["address"]).query)
        self.assertEqual(told["secret"], [begun.json()["secret"]])
        self.assertTrue(begun.json()["picture"].startswith("data:image/svg+xml"))
        return pyotp.TOTP(begun.json()["secret"])

    def turn_on(self) -> tuple[pyotp.TOTP, list[str]]:
        """A second factor that is on, by the code of the half minute before; its device and recovery codes."""
        device = self.begin()
        answer = self.client.put(AT, json={"code": device.at(time.time() - STEP_S)})
        self.assertEqual(answer.status_code, 200, answer.text)
        return device, answer.json()["recovery_codes"]

    def owner(self, statement: str) -> Any:
        """The first value of a statement as the database's owner."""
        with psycopg.connect(self.server.owner_url) as owner:
            row = owner.execute(statement.encode()).fetchone()
        return row[0] if row else None

    def test_a_password_alone_opens_nothing(self) -> None:
        """Not without a code, not with a wrong one, nor with one that was taken; with the code of the moment it does."""
        device, _ = self.turn_on()
        self.assertEqual(self.fault(self.sign_in()), (401, "code", "missing"))
        self.assertEqual(
            self.fault(self.sign_in("000000" if device.now() != "000000" else "000001")), (401, "code", "wrong")
        )
        self.assertEqual(
            self.fault(self.sign_in(device.at(time.time() - STEP_S))), (401, "code", "wrong"), "shown before"
        )
        self.assertEqual(self.fault(self.sign_in(device.now(), "not the password")), (401, "password", "wrong"))
        code = device.now()
        self.assertEqual(self.sign_in(f"{code[:3]} {code[3:]}").status_code, 201)
        self.assertEqual(self.fault(self.sign_in(code)), (401, "code", "wrong"), "no code opens twice")
        self.assertEqual(self.owner("SELECT count(*) FROM session"), 2)
        kinds = [one["kind"] for one in self.client.get("/api/v1/security-events").json()]
        self.assertEqual(kinds.count("wrong_code"), 3)
        self.assertIn("second_factor_on", kinds)

    def test_codes_are_not_tried_out(self) -> None:
        """A right password with one wrong code after another is shut out as wrong passwords are."""
        self.turn_on()
        with psycopg.connect(self.server.owner_url, autocommit=True) as owner:
            for _ in range(8):
                owner.execute(
                    "INSERT INTO sign_in_attempt (email, origin, ok, proved) VALUES (%s, '127.0.0.1', false, true)",
                    [MENTOR],
                )
        self.assertEqual(self.sign_in("123456").status_code, 429)

    def test_a_recovery_code_opens_once(self) -> None:
        """Each of them, however it is written; new ones put those before out of use."""
        _, codes = self.turn_on()
        self.assertEqual((len(set(codes)), {len(plain(one)) for one in codes}), (RECOVERY_CODES, {CODE_LENGTH}))
        self.assertEqual(self.sign_in(codes[0].lower().replace("-", " ")).status_code, 201)
        self.assertEqual(self.fault(self.sign_in(codes[0])), (401, "code", "wrong"))
        self.assertEqual(self.client.get(AT).json()["codes_left"], RECOVERY_CODES - 1)
        made = self.client.post(f"{AT}/recovery-codes", json={"present": PASSWORD}).json()["recovery_codes"]
        self.assertEqual(self.fault(self.sign_in(codes[1])), (401, "code", "wrong"))
        self.assertEqual(self.sign_in(made[1]).status_code, 201)
        self.assertNotIn(
            plain(made[2]).encode().hex(), str(self.owner("SELECT string_agg(code_hash::text, ' ') FROM recovery_code"))
        )

    def test_nothing_is_on_before_it_was_shown_to_work(self) -> None:
        """A secret that no device has taken up asks for nothing; a wrong code is said at its field."""
        self.assertEqual(
            self.fault(self.client.post(AT, json={"present": "not the password"})), (422, "present", "wrong")
        )
        self.assertEqual(self.client.put(AT, json={"code": "123456"}).status_code, 409)
        device = self.begin()
        self.assertEqual(self.sign_in().status_code, 201)
        other = self.begin()
        self.assertEqual(self.fault(self.client.put(AT, json={"code": device.now()})), (422, "code", "wrong"))
        self.assertEqual(self.client.get(AT).json(), {"since": None, "codes_left": 0})
        self.assertEqual(self.client.put(AT, json={"code": other.now()}).status_code, 200)
        self.assertEqual(self.client.post(AT, json={"present": PASSWORD}).status_code, 409)

    def test_turned_off_with_the_password(self) -> None:
        """Who has found an open screen turns nothing off; the codes are gone with it."""
        device, codes = self.turn_on()
        end = f"{AT}/end"
        self.assertEqual(
            self.fault(self.client.post(end, json={"present": "not the password"})), (422, "present", "wrong")
        )
        self.assertEqual(self.sign_in().status_code, 401)
        self.assertEqual(self.client.post(end, json={"present": PASSWORD}).status_code, 204)
        self.assertEqual(self.sign_in().status_code, 201)
        self.assertEqual(self.client.get(AT).json(), {"since": None, "codes_left": 0})
        self.assertEqual(self.owner("SELECT count(*) FROM recovery_code"), 0)
        self.assertTrue(device.now() and codes)

    def test_forgotten_by_who_keeps_the_installation(self) -> None:
        """For somebody who lost the device and the codes; the account says that it was done."""
        self.turn_on()
        with psycopg.connect(self.server.owner_url) as owner:
            installation.forget_second_factor(owner, "reader@corrane.example")
        self.assertEqual(self.sign_in().status_code, 401)
        with psycopg.connect(self.server.owner_url) as owner:
            installation.forget_second_factor(owner, MENTOR)
        self.assertEqual(self.sign_in().status_code, 201)
        self.assertIn("second_factor_off", {one["kind"] for one in self.client.get("/api/v1/security-events").json()})

    def test_an_invitation_is_no_way_round_it(self) -> None:
        """Who has an account shows the code before a link is taken up; the link holds until then."""
        device, _ = self.turn_on()
        with closing(self.server.sign_in("administrator@corrane.example")) as administrator:
            invited = administrator.post(
                "/api/v1/invitations",
                json={
                    "id": "00000000-0000-4000-8000-00000000aaaa",
                    "email": "mentor@ellery.example",
                    "role": "mentor",
                },
            )
            self.assertEqual(invited.status_code, 201, invited.text)
        token = invited.json()["token"]
        with closing(self.server.sign_in("mentor@ellery.example")) as elsewhere:
            begun = elsewhere.post(AT, json={"present": PASSWORD}).json()
            own = pyotp.TOTP(begun["secret"])
            elsewhere.put(AT, json={"code": own.at(time.time() - STEP_S)}).raise_for_status()
        join = {"token": token, "password": PASSWORD}
        url = f"{self.server.url}/api/v1/joining"
        self.assertEqual(self.fault(httpx.post(url, json=join, timeout=30)), (401, "code", "missing"))
        self.assertEqual(
            self.fault(httpx.post(url, json={**join, "code": device.now()}, timeout=30)), (401, "code", "wrong")
        )
        self.assertEqual(httpx.post(url, json={**join, "code": own.now()}, timeout=30).status_code, 201)
