"""Choosing and planning treatments over HTTP: one colony's options, and forty colonies in one plan beside one by one."""

from __future__ import annotations

import statistics
import time
from contextlib import closing
from typing import Any
from uuid import UUID, uuid4

import httpx
import psycopg
from tests.support import ServerProcess, demo_template, new_database

from bench.seed import seed
from redframe.core.treatments.catalogue import default_catalogue

TOGETHER, APIARIES, ASKED = 40, 6, 15
START = "2031-08-02"
OPTION = "OX_TRICKLE"
RULES = ("T06", "T08", "T20", "T21", "T50", "T52")


def measure_treatments() -> list[tuple[str, str]]:
    """Milliseconds over HTTP, as ratios to the smallest answer there is and to the plan of each colony by itself."""
    url = new_database(demo_template())
    seed(url, 600)
    apiaries = _apiaries_of_forty(url)
    server = ServerProcess(owner_url=url, kept_mb=0)
    try:
        with closing(server.sign_in()) as client:
            client.timeout = httpx.Timeout(120)
            smallest = _median(lambda: client.get("/api/v1/session"))
            (first, of_first), *others = apiaries
            # A mentor goes through an apiary: another colony each time.
            turn = iter(of_first)

            def next_colony() -> httpx.Response:
                asked = {"apiary_id": str(first), "colony_ids": [str(next(turn))], "start_on": START}
                return client.post("/api/v1/courses/options", json=asked)

            options = _median(next_colony)
            _plan(client, first, of_first)
            together = [_plan(client, apiary, colonies) for apiary, colonies in others[:-1]]
            last, of_last = others[-1]
            alone = sum(_plan(client, last, [colony]) for colony in of_last)
    finally:
        server.stop()
    whole = statistics.median(together)
    return [
        ("options for one colony, against the smallest answer there is",
         f"{options:.0f} ms / {smallest:.1f} ms = {options / smallest:.0f}x (target 50 ms)"),
        (f"a plan of {TOGETHER} colonies, against the same one by one",
         f"{whole:.0f} ms (target 300); one by one {alone:.0f} ms, {alone / whole:.1f}x"),
    ]  # fmt: skip


def _median(act: Any) -> float:
    times = []
    for _ in range(ASKED):
        began = time.perf_counter()
        act().raise_for_status()
        times.append(1000 * (time.perf_counter() - began))
    return statistics.median(times[3:])


def _plan(client: httpx.Client, apiary: UUID, colonies: list[UUID]) -> float:
    """Plan a trickle in these colonies, whatever stands against it taken on; milliseconds."""
    taken_on = [{"rule": rule, "authorised_by": "bench", "reason": "to be planned in all"} for rule in RULES]
    wanted = [{"id": str(uuid4()), "colony_id": str(one), "overrides": taken_on} for one in colonies]
    body = {"id": str(uuid4()), "apiary_id": str(apiary), "option_id": OPTION, "start_on": START, "courses": wanted}
    began = time.perf_counter()
    answer = client.post("/api/v1/plans", json=body)
    took = 1000 * (time.perf_counter() - began)
    answer.raise_for_status()
    return took


def _apiaries_of_forty(url: str) -> list[tuple[UUID, list[UUID]]]:
    """Apiaries that were given forty of the seeded colonies each."""
    assert default_catalogue().option(OPTION).applications == 1
    with psycopg.connect(url, autocommit=True) as owner:
        owner.execute("SET session_replication_role = replica")
        colonies = [row[0] for row in owner.execute("SELECT id FROM colony WHERE label LIKE 'X%' ORDER BY id")]
        places = [row[0] for row in owner.execute("SELECT id FROM apiary WHERE name LIKE 'Apiary %' ORDER BY id")]
        found = []
        for number, apiary in enumerate(places[:APIARIES]):
            own = colonies[number * TOGETHER : (number + 1) * TOGETHER]
            owner.execute(
                "UPDATE colony SET apiary_id = %s, label = 'Y' || left(id::text, 12) WHERE id = ANY(%s)", [apiary, own]
            )
            found.append((apiary, own))
        owner.execute("SELECT renew_colonies_now(ARRAY(SELECT id FROM colony WHERE is_living))")
        owner.execute("SELECT renew_apiaries_now(ARRAY(SELECT id FROM apiary))")
        owner.execute("VACUUM ANALYZE")
    return found


if __name__ == "__main__":
    print(measure_treatments())
