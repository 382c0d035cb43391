"""The commands of `./redframe`."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from redframe.launch.system import ROOT, data_folder, fail

DEFAULT_PORT = 8400
EPILOGUE = """\
./redframe demo                        start with the demo scenario on http://127.0.0.1:8400
./redframe serve --port 80 --data /srv/redframe
./redframe administrator --association "..." --email ... --name "..." --timezone Area/Place
./redframe backup before-update.dump

serve, administrator, password, backup and restore work on DATABASE_URL where it is set, otherwise on a
private PostgreSQL cluster in the data folder.
"""


def parser() -> argparse.ArgumentParser:
    """The command line."""
    top = argparse.ArgumentParser(
        prog="redframe",
        description="Red Frame: counts, thresholds, treatments and their verification, for those who look after bees.",
        epilog=EPILOGUE,
        formatter_class=argparse.RawDescriptionHelpFormatter,
    )
    commands = top.add_subparsers(dest="command", metavar="COMMAND", required=True)

    def command(name: str, text: str, *, data: bool = True) -> argparse.ArgumentParser:
        added = commands.add_parser(name, help=text, description=text)
        if data:
            added.add_argument("--data", metavar="DIR", help="folder of the installation's data")
        return added

    for name, text in (
        ("demo", "set up what is missing and start with the demo scenario"),
        ("serve", "start a real installation, without demo data"),
    ):
        command(name, text).add_argument("--port", type=int, default=DEFAULT_PORT, metavar="N")
    first = command("administrator", "add an administrator, and the association when it is new")
    first.add_argument("--association", required=True)
    first.add_argument("--email", required=True)
    first.add_argument("--name", required=True)
    first.add_argument("--timezone", default="UTC", help="time zone of the place, as Area/Place")
    first.add_argument("--south", action="store_true", help="start from a southern calendar")
    password = command("password", "give somebody a new password")
    password.add_argument("--email", required=True)
    password.add_argument(
        "--forget-second-factor",
        action="store_true",
        help="for somebody who has lost the device and the recovery codes",
    )
    command("backup", "write a backup to FILE").add_argument("file", type=Path, metavar="FILE")
    command("restore", "put a backup back into an empty database").add_argument("file", type=Path, metavar="FILE")
    test = command("test", "run every check; ends with 'N passed, N failed'", data=False)
    test.add_argument("only", nargs="*", help="parts of test names, to run only these")
    command("bench", "measure speed and memory; prints a table", data=False)
    command("client", "generate the front end's client from the API", data=False)
    command("cards", "draw the cards of signs that ship with the front end", data=False)
    command("schema", "write the list of what a database of this release holds", data=False)
    command("scenario", "live through the demo's scenario and write what ships", data=False)
    return top


def main() -> None:
    """Run one command; what the machine refuses is said in one line."""
    given = parser().parse_args()
    try:
        _run(given)
    except OSError as error:
        fail(f"{error.filename or 'this machine'}: {error.strerror or error}")


def _run(given: argparse.Namespace) -> None:
    if given.command in ("demo", "serve"):
        from redframe.launch.server import serve

        folder = data_folder(given.data)
        serve(folder / "demo" if given.command == "demo" and not given.data else folder, given.port,
              demo=given.command == "demo")  # fmt: skip
    elif given.command in ("administrator", "password", "backup", "restore"):
        _on_database(given)
    elif given.command == "client":
        from redframe.launch.client import write_client

        write_client()
    elif given.command == "cards":
        from redframe.launch.cards import write_cards

        write_cards()
    elif given.command == "schema":
        from redframe.launch.scenario import write_catalogue

        write_catalogue()
    elif given.command == "scenario":
        from redframe.launch.scenario import write

        write()
    else:
        sys.path.insert(0, str(ROOT))
        if given.command == "test":
            from redframe.launch.checks import run_all

            sys.exit(run_all(given.only))
        from bench.run import main as bench

        bench()


def _on_database(given: argparse.Namespace) -> None:
    from redframe.launch.backup import backup, restore
    from redframe.launch.server import check_whole, database
    from redframe.store.migrate import migrate

    with database(data_folder(given.data), join=given.command != "restore") as opened:
        owner_url = opened.owner_url
        if given.command == "restore":
            restore(owner_url, given.file)
        if not opened.joined:
            # What runs already has been brought to its release by whoever started it.
            migrate(owner_url)
        if given.command == "restore":
            check_whole(owner_url)
        elif given.command == "backup":
            backup(owner_url, given.file.resolve())
        elif given.command == "password":
            from redframe.launch.administrator import set_password

            set_password(owner_url, given.email, forget_second_factor=given.forget_second_factor)
        else:
            from redframe.launch.administrator import add_administrator

            add_administrator(
                owner_url,
                association=given.association,
                email=given.email,
                name=given.name,
                timezone=given.timezone,
                south=given.south,
            )


if __name__ == "__main__":
    main()
