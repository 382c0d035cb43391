"""How the cost of a page grows with the association: `python -m bench.growth [COLONIES ...]`.

The same apiary, colony and visit of the demo among ever more colonies, each answer made when it is asked for: computing time of server
and database together, as a multiple of what it takes in the smallest.
"""

from __future__ import annotations

import sys
from collections import defaultdict
from contextlib import closing

import psycopg
from tests.support import ServerProcess, demo_template, new_database

from bench.cpu import Meter, asking
from bench.run import some_screens
from bench.seed import seed

SIZES = (0, 10_000)


def measure_growth(sizes: tuple[int, ...]) -> dict[str, list[float]]:
    """Milliseconds for each screen at each size, by the screen's name, after "colonies": how many there were."""
    found: dict[str, list[float]] = defaultdict(list)
    for size in sizes:
        url = new_database(demo_template())
        with psycopg.connect(url, autocommit=True) as owner:
            screens = some_screens(owner)
            seed(url, size)
            row = owner.execute("SELECT count(*) FROM colony").fetchone()
            found["colonies"].append(float(row[0]) if row else 0.0)
            server = ServerProcess(owner_url=url, kept_mb=0)
            try:
                with closing(server.sign_in()) as client:
                    meter = Meter(server.process.pid, owner)
                    for name, (path, _) in screens.items():
                        found[name].append(sum(meter.per_answer(asking(server.url, f"/api/v1/{path}", client.cookies))))
            finally:
                server.stop()
    return found


def main() -> None:
    """Measure at the sizes asked for, and say how each screen grows."""
    found = measure_growth(tuple(map(int, sys.argv[1:])) or SIZES)
    print("colonies: " + ", ".join(f"{many:.0f}" for many in found.pop("colonies")))
    for name, taken in found.items():
        print(f"{name}: " + ", ".join(f"{one:.0f} ms ({one / taken[0]:.2f}x)" for one in taken))


if __name__ == "__main__":
    main()
