"""Requests made from the API's own schema, signed in and not: no failure of the server, no answer that the schema does not know.

    bin/with-server .venv/dev/bin/python tests/schema_attack.py [EXAMPLES] [SEED]        (bin/attack runs it)

Documents in bodies are those of builds that are there, and builds are asked for by their ids: so most requests get past the door.
Documents that are broken are attacked by the tests of the core and of the server.
"""

import json
import os
import subprocess
import sys
import tempfile
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance"
#: what would end the session that asks
LEFT_OUT = ("logout", "change_password", "end_session", "login", "take_link")
RECIPES = ("small_blower", "water_loop")


class Browser:
    """Somebody's browser: cookies, and the token that they bring."""

    def __init__(self, address: str) -> None:
        self.address, self.jar = address, CookieJar()
        self._opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self._opener.open(f"{address}/api/session").close()

    def post(self, path: str, body: Any) -> Any:
        headers = {"X-CSRFToken": self._cookies()["csrftoken"], "Content-Type": "application/json"}
        request = urllib.request.Request(self.address + path, json.dumps(body).encode(), headers)
        with self._opener.open(request) as answer:
            return json.loads(answer.read())

    def headers(self) -> list[str]:
        cookies = self._cookies()
        shown = "; ".join(f"{name}={value}" for name, value in cookies.items())
        return ["-H", f"Cookie: {shown}", "-H", f"X-CSRFToken: {cookies['csrftoken']}"]

    def _cookies(self) -> dict[str, str]:
        return {cookie.name: cookie.value or "" for cookie in self.jar}


def narrowed(schema: dict[str, Any], builds: list[dict[str, Any]]) -> dict[str, Any]:
    """The schema with these builds' documents in bodies and their ids in addresses."""
    documents = {"enum": [build["document"] for build in builds]}
    ids = {"enum": [build["id"] for build in builds]}
    for name, shape in schema["components"]["schemas"].items():
        for key, asked in shape.get("properties", {}).items():
            if name.endswith("In") and asked.get("$ref", "").endswith("/Build"):
                shape["properties"][key] = documents
    for methods in schema["paths"].values():
        for operation in methods.values():
            for parameter in operation.get("parameters", []):
                if parameter["name"] == "build_id":
                    parameter["schema"] = ids
    return schema


def attacked(address: str, schema: Path, headers: list[str], examples: int, seed: int) -> int:
    left_out = [word for name in LEFT_OUT for word in ("--exclude-operation-id", name)]
    command = [Path(sys.executable).with_name("schemathesis"), "run", schema, "--url", address, "--phases", "fuzzing"]
    told = ["--checks", CHECKS, "--max-examples", str(examples), "--seed", str(seed)]
    quiet = ["--continue-on-failure", "--warnings", "off", "--request-timeout", "60", "--no-shrink", "--no-color"]
    return subprocess.run([*command, *told, *quiet, *left_out, *headers], check=False, cwd=schema.parent).returncode


def main(examples: int = 60, seed: int = 1) -> int:
    address = os.environ["KRILL_ADDRESS"]
    name, password = Path(os.environ["KRILL_PEOPLE"]).read_text().splitlines()[0].split(": ")
    browser = Browser(address)
    browser.post("/api/login", {"username": name, "password": password})
    builds = [browser.post("/api/builds/recipe", {"recipe": recipe}) for recipe in RECIPES for _ in range(2)]
    with tempfile.TemporaryDirectory() as folder:
        schema = Path(folder) / "openapi.json"
        schema.write_text(json.dumps(narrowed(json.loads((ROOT / "web/openapi.json").read_text()), builds)))
        signed_in = attacked(address, schema, browser.headers(), examples, seed)
        return signed_in | attacked(address, schema, [], max(examples // 10, 1), seed)


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:])))
