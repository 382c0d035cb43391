"""People at work at once: each reads the pages of some apiary and its colonies, and one act in ten is a count.

The load is drawn by threads with a plain client each, which costs little beside what it asks.
"""

from __future__ import annotations

import json
import random
import sys
import threading
import time
from collections import defaultdict
from collections.abc import Sequence
from contextlib import closing
from dataclasses import dataclass
from http.client import HTTPConnection
from urllib.parse import urlsplit
from uuid import uuid4

import psycopg
from tests.support import ServerProcess, demo_template, new_database

from bench.cpu import resident_mb
from bench.seed import seed
from redframe.demo.scenario import DEMO_TODAY, made_id

TURNS = 60
PAUSE_S = 5.0
"""Between two acts of a person, on average: they look at what they asked for."""
WRITES = 0.1
WRITE = "a count"


@dataclass(frozen=True, slots=True)
class Round:
    """What one of the crowd reads: an apiary, a colony of it and a visit of frames."""

    apiary: str
    colony: str
    visit: str

    def pages(self) -> dict[str, str]:
        """The address of each screen."""
        return {
            "Today": "worklist",
            "Places": "apiaries",
            "Apiary": f"apiaries/{self.apiary}",
            "Colony": f"colonies/{self.colony}",
            "Visit": f"visits/{self.visit}",
        }


def mentors(owner_url: str, many: int) -> list[str]:
    """So many mentors of the demo's association, with the demo's password; their addresses."""
    emails = [f"crowd{number}@corrane.example" for number in range(many)]
    with psycopg.connect(owner_url) as owner:
        owner.execute("SET session_replication_role = replica")
        for email in emails:
            person = uuid4()
            owner.execute(
                "INSERT INTO person (id, email, name, password_hash) "
                "SELECT %s, %s, %s, password_hash FROM person WHERE email = 'mentor@corrane.example'",
                [person, email, email.partition("@")[0]],
            )
            owner.execute(
                "INSERT INTO membership (id, person_id, association_id, role) VALUES (%s, %s, %s, 'mentor')",
                [uuid4(), person, made_id("corrane")],
            )
    return emails


def rounds(owner_url: str, many: int) -> list[Round]:
    """So many colonies, each of another apiary, and as many visits, as far as there are."""
    with psycopg.connect(owner_url) as owner:
        there = owner.execute(
            "SELECT apiary_id, min(id::text) FROM colony WHERE association_id = %s AND state = 'alive' GROUP BY 1 LIMIT %s",
            [made_id("corrane"), many],
        ).fetchall()
        visits = owner.execute(
            "SELECT v.id FROM visit v JOIN colony c ON c.id = v.colony_id WHERE v.association_id = %s "
            "AND v.state = 'closed' AND v.place ? 'open_from_c' ORDER BY v.visited_on DESC, v.id LIMIT %s",
            [made_id("corrane"), many],
        ).fetchall()
    return [Round(str(one[0]), str(one[1]), str(visits[n % len(visits)][0])) for n, one in enumerate(there)]


class Person(threading.Thread):
    """One of the crowd: reads a page or records a count, turn by turn, with a pause between."""

    def __init__(
        self, server: ServerProcess, email: str, round_: Round, *, until: float, turns: int, pause_s: float
    ) -> None:
        super().__init__(name=email)
        self.taken: dict[str, list[float]] = defaultdict(list)
        self.failures: list[str] = []
        self._draw = random.Random(email)
        self._round, self._until, self._turns, self._pause_s = round_, until, turns, pause_s
        with closing(server.sign_in(email)) as client:
            cookies = "; ".join(f"{name}={value}" for name, value in client.cookies.items())
            token = client.headers["X-CSRF-Token"]
        self._headers = {"Cookie": cookies, "X-CSRF-Token": token, "Accept-Encoding": "gzip"}
        self._connection = HTTPConnection(urlsplit(server.url).netloc, timeout=60)

    def run(self) -> None:
        """Work until the time or the turns are over."""
        pages = list(self._round.pages().items())
        first = self._draw.randrange(len(pages))
        for turn in range(self._turns):
            if time.monotonic() > self._until:
                break
            if self._draw.random() < WRITES:
                self._ask(WRITE, "POST", "counts", self._count())
            else:
                name, path = pages[(first + turn) % len(pages)]
                self._ask(name, "GET", path)
            if self._pause_s:
                time.sleep(2 * self._pause_s * self._draw.random())
        self._connection.close()

    def _ask(self, name: str, method: str, path: str, body: dict[str, object] | None = None) -> None:
        started = time.perf_counter()
        headers = self._headers if body is None else {**self._headers, "Content-Type": "application/json"}
        try:
            self._connection.request(method, f"/api/v1/{path}", json.dumps(body) if body else None, headers)
            answer = self._connection.getresponse()
            said = answer.read()
        except OSError as error:
            self.failures.append(f"{name}: {error}")
            self._connection.close()
            return
        if answer.status >= 400:
            self.failures.append(f"{name}: {answer.status} {said[:200]!r}")
        self.taken[name].append(1000 * (time.perf_counter() - started))

    def _count(self) -> dict[str, object]:
        minute = self._draw.randrange(600)
        return {
            "id": str(uuid4()), "colony_id": self._round.colony, "method": "wash", "bees_known_by": "counted",
            "bees": 300, "shakes": [self._draw.randrange(6), 0], "place_of_bees": "brood_frame",
            "brood_state": "open_and_capped", "queen_safe": "yes",
            "taken_at": f"{DEMO_TODAY.isoformat()}T{2 + minute // 60:02}:{minute % 60:02}:00Z",
        }  # fmt: skip


@dataclass(frozen=True, slots=True)
class Crowd:
    """Milliseconds of the answers by screen, what failed, and how long it went on."""

    taken: dict[str, list[float]]
    failures: list[str]
    seconds: float

    def share(self, of: float, *names: str) -> float:
        """The milliseconds within which a share of the answers came: of some screens, or of all that were read."""
        wanted = names or [name for name in self.taken if name != WRITE]
        values = sorted(value for name in wanted for value in self.taken[name])
        return values[min(len(values) - 1, int(of * len(values)))]

    @property
    def per_second(self) -> float:
        """Answers a second, counts among them."""
        return sum(map(len, self.taken.values())) / self.seconds


def crowd(
    server: ServerProcess, emails: Sequence[str], *, turns: int = TURNS, seconds: float = 600, pause_s: float = 0
) -> Crowd:
    """Let them all work at once, each at an apiary of its own as far as there are enough."""
    there = rounds(server.owner_url, len(emails))
    until = time.monotonic() + seconds
    people = [
        Person(server, email, there[number % len(there)], until=until, turns=turns, pause_s=pause_s)
        for number, email in enumerate(emails)
    ]
    started = time.monotonic()
    for person in people:
        person.start()
    taken: dict[str, list[float]] = defaultdict(list)
    failures: list[str] = []
    for person in people:
        person.join()
        failures += person.failures
        for name, values in person.taken.items():
            taken[name] += values
    return Crowd(taken, failures, time.monotonic() - started)


def main() -> None:
    """So many people (200) for so many minutes (10) on ten thousand colonies: what failed, how long they waited, and the
    server's memory minute by minute."""
    many, minutes = (int(one) for one in (*sys.argv[1:], "200", "10")[:2])
    url = new_database(demo_template())
    colonies = seed(url, 10_000)
    server = ServerProcess(owner_url=url)
    memory: list[str] = []
    ended = threading.Event()

    def look() -> None:
        while not ended.wait(60):
            memory.append(f"{resident_mb(server.process.pid):.0f}")

    watch = threading.Thread(target=look, daemon=True)
    try:
        people = mentors(url, many)
        watch.start()
        found = crowd(server, people, turns=10**6, seconds=60 * minutes, pause_s=PAUSE_S)
    finally:
        ended.set()
        server.stop()
    read, written = sum(len(taken) for name, taken in found.taken.items() if name != WRITE), len(found.taken[WRITE])
    print(
        f"{many} people, {found.seconds / 60:.0f} minutes, {colonies} colonies: {read} pages read, {written} counts recorded, "
        f"{len(found.failures)} not answered; p50 / p95 {found.share(0.5):.0f} / {found.share(0.95):.0f} ms read, "
        f"{found.share(0.5, WRITE):.0f} / {found.share(0.95, WRITE):.0f} ms recorded; memory of the server, MB a minute: "
        + ", ".join(memory)
    )
    for one in found.failures[:5]:
        print(one)


if __name__ == "__main__":
    main()
