"""Building the front end when its sources have changed since the last time."""

from __future__ import annotations

import hashlib
from pathlib import Path

from redframe.launch.system import ROOT, alone, node, run_quietly, say

WEB = ROOT / "web"
DIST = WEB / "dist"
SOURCES = (
    "src/**/*", "public/**/*", "index.html", "vite.config.ts", "tsconfig.json", "package-lock.json",
    "../src/redframe/wording/*.json", "../docs/methods/*.md",
)  # fmt: skip


def _digest(patterns: tuple[str, ...]) -> str:
    seen = hashlib.sha256()
    for path in sorted({file for pattern in patterns for file in WEB.glob(pattern) if file.is_file()}):
        seen.update(str(path.relative_to(WEB)).encode())
        seen.update(path.read_bytes())
    return seen.hexdigest()


def install() -> None:
    """Install the locked npm packages when the lock has changed."""
    stamp = WEB / "node_modules" / ".redframe-lock"
    wanted = _digest(("package-lock.json",))
    if stamp.exists() and stamp.read_text() == wanted:
        return
    node()
    say("installing front-end packages from the lock ...")
    run_quietly(["npm", "ci", "--no-audit", "--no-fund"], "Installing front-end packages", cwd=WEB)
    stamp.write_text(wanted)


def build() -> Path:
    """Build the front end unless it is current; return the folder to serve. One process at a time: others wait."""
    stamp = DIST / ".redframe-sources"
    wanted = _digest(SOURCES)

    def is_current() -> bool:
        return stamp.exists() and stamp.read_text() == wanted

    if is_current():
        return DIST
    with alone():
        if not is_current():
            install()
            say("building the front end ...")
            run_quietly(["npm", "run", "--silent", "build"], "Building the front end", cwd=WEB)
            stamp.write_text(wanted)
    return DIST
