"""What the machine must have: Debian packages, installed when missing, one clear line when they cannot be."""

from __future__ import annotations

import fcntl
import os
import shutil
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from typing import NoReturn

ROOT = Path(__file__).resolve().parents[3]
POSTGRES_HOME = Path("/usr/lib/postgresql")
OLDEST_POSTGRES = 15
OLDEST_NODE = 20


def fail(sentence: str) -> NoReturn:
    """End with one clear line."""
    sys.exit(f"redframe: {sentence}")


def say(sentence: str) -> None:
    """Tell the person at the terminal what is going on."""
    print(f"redframe: {sentence}", flush=True)


def run_quietly(command: list[str], what: str, cwd: Path = ROOT, env: dict[str, str] | None = None) -> str:
    """Run a command, return what it printed; show it and end only when it fails."""
    done = subprocess.run(command, cwd=cwd, env=env, capture_output=True, text=True, check=False)
    if done.returncode != 0:
        sys.stderr.write((done.stdout + done.stderr)[-6000:])
        fail(f"{what} did not work (see above)")
    return done.stdout


@contextmanager
def alone() -> Iterator[None]:
    """One process at a time of those that set this checkout up."""
    folder = os.open(ROOT, os.O_RDONLY)
    try:
        fcntl.flock(folder, fcntl.LOCK_EX)
        yield
    finally:
        os.close(folder)


NOBODY = ("nobody", "nogroup")


@cache
def without_root() -> tuple[str, ...]:
    """What to put before a command that needs nothing of root: started by root, it goes on as `nobody`, who owns
    nothing here. Nothing where this process is not root's, or where that user could not read the program."""
    if os.geteuid() != 0 or shutil.which("setpriv") is None:
        return ()
    user, group = NOBODY
    switch = ("setpriv", f"--reuid={user}", f"--regid={group}", "--clear-groups", "--no-new-privs", "--")
    try_it = [*switch, sys.executable, "-c", "import redframe"]
    return switch if subprocess.run(try_it, cwd="/", capture_output=True, check=False).returncode == 0 else ()


def administrator(refusal: str) -> list[str]:
    """What to put before a command that needs an administrator: nothing as root, else sudo, which may ask for the
    password at a terminal. Ends with the refusal where there is no way."""
    if os.geteuid() == 0:
        return []
    if shutil.which("sudo") is None:
        fail(refusal)
    if subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode == 0:
        return ["sudo", "-n"]
    if not sys.stdin.isatty() or subprocess.run(["sudo", "-v"], check=False).returncode:
        fail(refusal)
    return ["sudo"]


def install_packages(*packages: str) -> None:
    """Install Debian packages, with sudo where needed; says what is missing where it cannot."""
    names = " ".join(packages)
    if shutil.which("apt-get") is None:
        fail(f"missing on this machine, and there is no apt-get to install it: {names}")
    sudo = administrator(f"missing, and installing needs an administrator: sudo apt-get install {names}")
    say(f"installing {names} ...")
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    # Another command may be at it: its lock is waited for.
    wait = ["-o", "DPkg::Lock::Timeout=300"]
    # sudo drops the environment: what the installer must know goes through env.
    quiet = [*sudo, "env", "DEBIAN_FRONTEND=noninteractive"] if sudo else []
    command = [*quiet, "apt-get", *wait, "install", "-y", "--no-install-recommends", *packages]
    run_quietly([*sudo, "apt-get", *wait, "update"], "Fetching the package lists", env=env)
    run_quietly(command, f"Installing {names}", env=env)


def postgres_bin() -> Path:
    """The folder of PostgreSQL's server programs, installed from Debian's packages when there is none."""
    for attempt in range(2):
        versions = sorted(
            (int(folder.name) for folder in POSTGRES_HOME.glob("[0-9]*") if (folder / "bin" / "initdb").exists()),
            reverse=True,
        )
        if versions and versions[0] >= OLDEST_POSTGRES:
            return POSTGRES_HOME / str(versions[0]) / "bin"
        if attempt == 0:
            install_packages("postgresql")
    fail(f"PostgreSQL {OLDEST_POSTGRES} or newer is needed (Debian package: postgresql)")


def chromium() -> str:
    """Path of Debian's Chromium, installed with a base font when missing."""
    for attempt in range(2):
        found = shutil.which("chromium")
        if found and Path("/usr/share/fonts").exists():
            return found
        if attempt == 0:
            install_packages("chromium", "fonts-dejavu-core")
    fail("Chromium is needed for the browser tests (Debian package: chromium)")


def node() -> None:
    """Refuse a missing or old Node.js with a clear line."""
    if shutil.which("node") is None or shutil.which("npm") is None:
        fail(f"Node.js {OLDEST_NODE} or newer with npm is needed to build the front end")
    version = run_quietly(["node", "--version"], "Asking Node.js for its version").strip()
    if int(version.removeprefix("v").split(".")[0]) < OLDEST_NODE:
        fail(f"Node.js {OLDEST_NODE} or newer is needed; this is {version}")


def data_folder(given: str | None) -> Path:
    """Where an installation keeps its data: the given folder, or the user's own, outside the checkout."""
    if given:
        return Path(given).resolve()
    if os.geteuid() == 0:
        return Path("/var/lib/redframe")
    base = os.environ.get("XDG_DATA_HOME")
    return (Path(base) if base else Path.home() / ".local" / "share") / "redframe"
