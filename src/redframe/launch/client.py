"""The API's description as it ships, and the front end's typed client that is generated from it."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from redframe.launch.front_end import WEB, install
from redframe.launch.system import run_quietly, say

DESCRIPTION = Path(__file__).parents[1] / "api" / "openapi.json"
CLIENT = WEB / "src" / "client" / "schema.d.ts"


def api_description() -> str:
    """The OpenAPI document, as the running application would give it."""
    from redframe.api.app import build
    from redframe.api.description import computed
    from redframe.api.settings import Settings

    app = build(Settings(database_url="", web=Path("/"), fast_passwords=True))
    return json.dumps(computed(app), indent=1, sort_keys=True) + "\n"


def generate_client() -> str:
    """The client's source for the API as it is."""
    install()
    with tempfile.TemporaryDirectory() as folder:
        description, written = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        description.write_text(api_description(), encoding="utf-8")
        tool = str(WEB / "node_modules" / ".bin" / "openapi-typescript")
        run_quietly([tool, str(description), "-o", str(written)], "Generating the client", cwd=WEB)
        return written.read_text(encoding="utf-8")


def write_client() -> None:
    """Write the description and the client; commit both with the change of the API."""
    DESCRIPTION.write_text(api_description(), encoding="utf-8")
    CLIENT.parent.mkdir(parents=True, exist_ok=True)
    CLIENT.write_text(generate_client(), encoding="utf-8")
    say(f"written: {CLIENT.relative_to(WEB.parent)}")
