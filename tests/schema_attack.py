"""Requests made from the API's own schema, signed in and not: no failure of the server, no answer that the schema does not know.

bin/with-server .venv/dev/bin/python tests/schema_attack.py [EXAMPLES] [SEED]        (bin/attack runs it)
"""

import json
import os
import subprocess
import sys
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
CHECKS = "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance"
#: what would end the session that asks, or make the person another one
LEFT_OUT = ("logout", "change_password", "end_session", "login", "take_link")


def signed_in(address: str, name: str, password: str) -> list[str]:
    """Headers of a browser that has signed in."""
    jar = CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    opener.open(f"{address}/api/session").close()
    token = {cookie.name: cookie.value for cookie in jar}["csrftoken"]
    body = json.dumps({"username": name, "password": password}).encode()
    headers = {"X-CSRFToken": token or "", "Content-Type": "application/json"}
    opener.open(urllib.request.Request(f"{address}/api/login", body, headers)).close()
    for _ in range(3):
        made = json.dumps({"recipe": "small_blower"}).encode()
        fresh = {cookie.name: cookie.value or "" for cookie in jar}
        headers["X-CSRFToken"] = fresh["csrftoken"]
        opener.open(urllib.request.Request(f"{address}/api/builds/recipe", made, headers)).close()
    cookies = "; ".join(f"{cookie.name}={cookie.value}" for cookie in jar)
    return ["-H", f"Cookie: {cookies}", "-H", f"X-CSRFToken: {headers['X-CSRFToken']}"]


def attacked(address: str, headers: list[str], examples: int, seed: int) -> int:
    left_out = [word for name in LEFT_OUT for word in ("--exclude-operation-id", name)]
    command = [Path(sys.executable).with_name("schemathesis"), "run", ROOT / "web/openapi.json", "--url", address]
    told = [
        "--checks",
        CHECKS,
        "--max-examples",
        str(examples),
        "--seed",
        str(seed),
        "--phases",
        "examples,coverage,fuzzing",
    ]
    quiet = ["--continue-on-failure", "--warnings", "off", "--request-timeout", "60", "--no-shrink", "--no-color"]
    return subprocess.run([*command, *told, *quiet, *left_out, *headers], check=False, cwd="/tmp").returncode


def main(examples: int, seed: int) -> int:
    address = os.environ["KRILL_ADDRESS"]
    name, password = Path(os.environ["KRILL_PEOPLE"]).read_text().splitlines()[0].split(": ")
    return attacked(address, signed_in(address, name, password), examples, seed) | attacked(address, [], 3, seed)


if __name__ == "__main__":
    sys.exit(main(*(int(word) for word in (*sys.argv[1:], *("60", "1")[len(sys.argv) - 1 :]))))
