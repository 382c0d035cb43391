"""Two writes that wait for one another: the one that the database gives up is tried again, and nobody hears of it."""

from __future__ import annotations

import unittest
from typing import Any

import psycopg
from fastapi import FastAPI, Request
from fastapi.testclient import TestClient
from psycopg.errors import DeadlockDetected, SerializationFailure, UniqueViolation

from redframe.api import errors
from redframe.api.again import TIMES, topic


class Again(unittest.TestCase):
    def setUp(self) -> None:
        self.failures: list[Exception] = []
        self.seen: list[Any] = []
        app, router = FastAPI(), topic("test")
        errors.install(app)

        @router.post("/record")
        async def record(given: dict[str, int]) -> int:
            self.seen.append(given)
            if self.failures:
                raise self.failures.pop()
            return given["figure"]

        @router.post("/file")
        async def file(request: Request) -> int:
            size = sum([len(part) async for part in request.stream()])
            self.seen.append(size)
            if self.failures:
                raise self.failures.pop()
            return size

        app.include_router(router)
        self.client = TestClient(app)

    def test_what_was_given_up_is_tried_again(self) -> None:
        """With the same content, as often as is allowed."""
        self.failures = [DeadlockDetected(), SerializationFailure()]
        answer = self.client.post("/record", json={"figure": 4})
        self.assertEqual((answer.status_code, answer.json()), (200, 4))
        self.assertEqual(self.seen, [{"figure": 4}] * 3)

    def test_in_the_end_somebody_is_told(self) -> None:
        """Not for ever: then it is a matter of a moment, said as such."""
        self.failures = [DeadlockDetected() for _ in range(TIMES + 2)]
        answer = self.client.post("/record", json={"figure": 4})
        self.assertEqual((answer.status_code, len(self.seen)), (503, TIMES))

    def test_nothing_else_is_tried_again(self) -> None:
        """A refusal stays one, and a database that is away is not asked three times."""
        for failure, status in ((UniqueViolation(), 409), (psycopg.OperationalError(), 503)):
            self.failures, self.seen = [failure], []
            answer = self.client.post("/record", json={"figure": 4})
            self.assertEqual((answer.status_code, len(self.seen)), (status, 1))

    def test_a_file_cannot_be_read_twice(self) -> None:
        """It is refused with a word, not taken as an empty one."""
        self.failures = [DeadlockDetected()]
        self.assertEqual(self.client.post("/file", content=b"x" * 10).status_code, 503)
        self.assertEqual(self.seen, [10])
        self.assertEqual(self.client.post("/file", content=b"x" * 10).json(), 10)
