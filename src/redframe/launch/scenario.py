"""The demo's scenario as it ships: lived through once, written down, and restored at the first start.

Living through two seasons of a district takes two minutes of computing. What was lived is shipped beside the code under
the digest of everything that bears on it; where the code has changed since, the scenario is lived through again.
`./redframe scenario` writes what ships; a check says when it is stale.
"""

from __future__ import annotations

import hashlib
import lzma
import subprocess
import tempfile
from functools import cache
from pathlib import Path

import psycopg

from redframe.launch.backup import connection_of
from redframe.launch.cluster import Cluster
from redframe.launch.system import ROOT, postgres_bin, say

SOURCE = ROOT / "src" / "redframe"
PARTS = ("core", "wording", "store", "work", "demo", "stand_ins")
KINDS = (".py", ".sql", ".yaml", ".csv")
SHIPPED = SOURCE / "demo" / "scenario.dump.xz"
DIGEST = SOURCE / "demo" / "scenario.digest"


@cache
def digest() -> str:
    """The digest of everything that the scenario follows from: the code that lives it, and the code it is lived by."""
    seen = hashlib.sha256()
    for part in PARTS:
        for path in sorted((SOURCE / part).rglob("*")):
            if path.suffix in KINDS:
                seen.update(str(path.relative_to(SOURCE)).encode())
                seen.update(path.read_bytes())
    return seen.hexdigest()[:24]


def ships() -> bool:
    """Whether what ships was lived by the code as it is, and is whole."""
    if not (SHIPPED.exists() and DIGEST.exists()):
        return False
    lived_by, content = DIGEST.read_text(encoding="ascii").split()
    return lived_by == digest() and content == hashlib.sha256(SHIPPED.read_bytes()).hexdigest()


def load_when_empty(owner_url: str, *, fast_passwords: bool = False) -> bool:
    """Load the scenario into a migrated database unless it was loaded before; whether it was loaded now.

    Restored where it ships, else lived through. Refuses (ValueError) a database that holds an association of its own.
    """
    from redframe.demo import load

    if not load.is_wanted(owner_url):
        return False
    if not (ships() and _may_replay(owner_url)):
        say("living through the demo's two seasons takes about two minutes ...")
        return load.load_when_empty(owner_url, fast_passwords=fast_passwords)
    _restore(owner_url)
    load.finish_restored(owner_url, fast_passwords=fast_passwords)
    return True


def _may_replay(owner_url: str) -> bool:
    with psycopg.connect(owner_url) as owner:
        found = owner.execute("SELECT has_parameter_privilege('session_replication_role', 'SET')").fetchone()
    return found is not None and bool(found[0])


def _restore(owner_url: str) -> None:
    url, environment = connection_of(owner_url)
    # Its rows are what triggers have made of what was lived: they are put back as they are.
    environment["PGOPTIONS"] = "-c session_replication_role=replica"
    with tempfile.NamedTemporaryFile(suffix=".dump") as plain:
        plain.write(lzma.decompress(SHIPPED.read_bytes()))
        plain.flush()
        command = [str(postgres_bin() / "pg_restore"), "--data-only", "--single-transaction",
                   "--exit-on-error", f"--dbname={url}", plain.name]  # fmt: skip
        done = subprocess.run(command, env=environment, check=False, capture_output=True, text=True)
    if done.returncode != 0:
        raise RuntimeError(f"the scenario that ships could not be restored: {done.stderr.strip()}")


SMALLEST = 9 | lzma.PRESET_EXTREME


def dumped(owner_url: str, *, effort: int = SMALLEST) -> bytes:
    """The records of a database with the scenario: everything but what the migrations put there, and the mark of a load
    that came to its end; packed with this effort (of lzma)."""
    url, environment = connection_of(owner_url)
    command = [str(postgres_bin() / "pg_dump"), "--format=custom", "--compress=0", "--data-only", "--no-owner",
               *(f"--exclude-table={table}" for table in [*_filled_by_migrations(), "demo_loaded"]), url]  # fmt: skip
    done = subprocess.run(command, env=environment, check=True, capture_output=True)
    return lzma.compress(done.stdout, preset=effort)


def _filled_by_migrations() -> list[str]:
    from redframe.store.installation import filled_tables
    from redframe.store.migrate import migrate

    with tempfile.TemporaryDirectory(prefix="redframe-empty-") as folder:
        cluster = _cluster(Path(folder))
        try:
            migrate(cluster.url("empty"))
            with psycopg.connect(cluster.url("empty")) as owner:
                return filled_tables(owner)
        finally:
            cluster.stop()


def _cluster(folder: Path) -> Cluster:
    folder.chmod(0o755)
    cluster = Cluster(folder, lossy=True)
    cluster.make()
    cluster.start()
    cluster.make_database("empty")
    cluster.let_owner_replay()
    return cluster


def write() -> None:
    """Live through the scenario and write what ships; commit both files with the change that made it stale."""
    from redframe.demo.load import load_when_empty
    from redframe.store.migrate import migrate

    with tempfile.TemporaryDirectory(prefix="redframe-scenario-") as folder:
        cluster = _cluster(Path(folder))
        try:
            migrate(cluster.url("empty"))
            load_when_empty(cluster.url("empty"))
            keep(dumped(cluster.url("empty")))
        finally:
            cluster.stop()
    say(f"written: {SHIPPED.relative_to(ROOT)} ({SHIPPED.stat().st_size / 1e6:.2f} MB)")


def keep(content: bytes) -> None:
    """Write a dump and the digests of it and of the code that it was lived by."""
    SHIPPED.write_bytes(content)
    DIGEST.write_text(f"{digest()} {hashlib.sha256(content).hexdigest()}\n", encoding="ascii")


def write_catalogue() -> None:
    """Write the list of what a database of this release holds, from the migrations."""
    from redframe.store import catalogue
    from redframe.store.migrate import migrate

    with tempfile.TemporaryDirectory(prefix="redframe-empty-") as folder:
        cluster = _cluster(Path(folder))
        try:
            migrate(cluster.url("empty"))
            catalogue.LISTED.write_text("\n".join(catalogue.held(cluster.url("empty"))) + "\n", encoding="utf-8")
        finally:
            cluster.stop()
    say(f"written: {catalogue.LISTED.relative_to(ROOT)}")
