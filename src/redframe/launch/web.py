"""The process of the web server: it reads the program in while the database starts, and serves once it knows where.

The settings come as one line of JSON on the standard input; nothing there means that nobody waits any more.
"""

from __future__ import annotations

import gc
import json
import os
import sys

import uvicorn

from redframe.api.app import create

KEPT_OPEN_S = 75
"""Longer than a proxy in front keeps its connections, and than somebody looks at a page: one that is closed just as it
is used again looks like a server that is away."""

LOOK_AFTER, LOOK_AGAIN = 20_000, (20, 20)
"""New records after which the collector looks through the young ones (Python's own: 700), and how many such looks
make one at the older."""


def settle() -> None:
    """What is read in at the start stays: looked through again and again for rubbish, it would hold up every answer.
    An answer makes thousands of small records in which nothing circles: they are looked through less often."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(LOOK_AFTER, *LOOK_AGAIN)


def main() -> None:
    """Wait for the settings, then serve on the loopback address."""
    line = sys.stdin.readline()
    if not line:
        return
    settings = json.loads(line)
    os.environ.update(settings["environment"])
    # Whose word is taken for where a request came from: nobody's, unless the installation names its proxies.
    proxies = os.environ.get("REDFRAME_TRUSTED_PROXIES", "")
    app = create()
    settle()
    uvicorn.run(
        app, host="127.0.0.1", port=settings["port"], access_log=False, log_level="warning",
        timeout_graceful_shutdown=5, timeout_keep_alive=KEPT_OPEN_S, server_header=False,
        proxy_headers=bool(proxies), forwarded_allow_ips=proxies,
    )  # fmt: skip


if __name__ == "__main__":
    main()
