"""A script's client: made from the shipped description by an ordinary Python generator, and used."""

from __future__ import annotations

import importlib
import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from typing import Any

from redframe.api.description import SHIPPED
from redframe.demo.scenario import PASSWORD, made_id
from tests.support import Server

METHODS = ("get", "put", "post", "delete")


def _speaks_json(operation: dict[str, Any]) -> bool:
    """Whether an endpoint takes and gives JSON only: pictures, tables and documents are fetched as they are."""
    bodies = [operation.get("requestBody", {}), *operation["responses"].values()]
    kinds = {kind for body in bodies for kind in body.get("content", {})}
    return kinds <= {"application/json", "application/problem+json"}


def _json_part(description: dict[str, Any]) -> dict[str, Any]:
    paths = {
        path: {method: one for method, one in item.items() if method not in METHODS or _speaks_json(one)}
        for path, item in description["paths"].items()
    }
    return {**description, "paths": {path: item for path, item in paths.items() if set(item) & set(METHODS)}}


class PythonClient(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        folder = Path(cls.folder.name)
        cls.description = json.loads(SHIPPED.read_text(encoding="utf-8"))
        source = folder / "openapi.json"
        source.write_text(json.dumps(_json_part(cls.description)), encoding="utf-8")
        (folder / "config.yaml").write_text("post_hooks: []\n", encoding="utf-8")
        done = subprocess.run(
            [sys.executable, "-m", "openapi_python_client", "generate", "--path", str(source), "--meta", "none",
             "--config", str(folder / "config.yaml"), "--output-path", str(folder / "red_frame_client")],
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        cls.said = done.stdout + done.stderr
        if done.returncode:
            raise RuntimeError(cls.said)
        sys.path.insert(0, str(folder))
        cls.addClassCleanup(sys.path.remove, str(folder))

    def test_made_without_a_warning(self) -> None:
        """Every endpoint of JSON is understood by the generator, and so is every shape."""
        self.assertNotIn("WARNING", self.said)
        self.assertNotIn("Cannot parse", self.said)

    def test_operations_are_named_as_a_script_would_call_them(self) -> None:
        """Each id is a verb and its object, used once; no shape comes twice for its two directions."""
        ids = [one["operationId"] for item in self.description["paths"].values() for name, one in item.items()
               if name in METHODS]  # fmt: skip
        self.assertEqual(len(ids), len(set(ids)))
        for one in ids:
            self.assertRegex(one, r"^[a-z]+(_[a-z0-9]+)*$")
            self.assertNotIn("api_v1", one)
        shapes = list(self.description["components"]["schemas"])
        self.assertFalse([name for name in shapes if name.endswith(("-Input", "-Output", "__1"))])

    def test_signs_in_and_reads_a_colony(self) -> None:
        """With nothing but the generated code: a session, and a colony by its id."""
        client_class = importlib.import_module("red_frame_client.client").Client
        sign_in = importlib.import_module("red_frame_client.api.session.sign_in")
        read_colony = importlib.import_module("red_frame_client.api.colonies.read_colony")
        credentials = importlib.import_module("red_frame_client.models.sign_in_input").SignInInput
        server = Server()
        self.addCleanup(server.stop)
        with client_class(base_url=server.url) as client:
            session = sign_in.sync(client=client, body=credentials(email="mentor@corrane.example", password=PASSWORD))
            self.assertEqual(session.person.name, "Bettrys Lund")
            colony = read_colony.sync(client=client, colony_id=made_id("corrane", "Kettle Wood", "K3"))
            self.assertEqual(colony.colony.label, "K3")
            self.assertEqual(colony.apiary.name, "Kettle Wood")
