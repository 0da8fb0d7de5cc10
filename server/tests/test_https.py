"""Two people at one build, through a proxy that speaks HTTPS, on a server as it is deployed."""

import http.client
import json
import os
import socket
import ssl
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from http.cookiejar import CookieJar
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any

import pytest
from databases import SERVER, environment_of, manage, migrated

NAME = f"krill_https_{os.getpid()}"


class Proxy(BaseHTTPRequestHandler):
    """Hands everything on, as deploy/nginx.conf tells a proxy to."""

    behind = 0

    def hand_on(self) -> None:
        size = int(self.headers.get("Content-Length") or 0)
        told = {
            name: value
            for name, value in self.headers.items()
            if name.lower() not in ("connection", "x-forwarded-proto")
        }
        told |= {"X-Forwarded-Proto": "https", "X-Forwarded-For": self.client_address[0]}
        behind = http.client.HTTPConnection("127.0.0.1", self.behind, timeout=60)
        behind.request(self.command, self.path, self.rfile.read(size) if size else None, told)
        answer = behind.getresponse()
        body = answer.read()
        self.send_response(answer.status)
        for name, value in answer.getheaders():
            if name.lower() not in ("transfer-encoding", "content-length", "connection"):
                self.send_header(name, value)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)
        behind.close()

    do_GET = do_POST = do_PATCH = do_PUT = hand_on

    def log_message(self, *told: Any) -> None:
        """Nothing."""


class Person:
    """A browser's part: cookies, the token in a header, and where the page is from."""

    def __init__(self, address: str, certificate: Path, origin: str | None = None) -> None:
        self.address, self.origin, self.jar = address, origin or address, CookieJar()
        trust = urllib.request.HTTPSHandler(context=ssl.create_default_context(cafile=str(certificate)))
        self.opener = urllib.request.build_opener(trust, urllib.request.HTTPCookieProcessor(self.jar))

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        token = next((cookie.value for cookie in self.jar if cookie.name == "csrftoken"), "") or ""
        request = urllib.request.Request(
            self.address + path,
            None if body is None else json.dumps(body).encode(),
            {"Content-Type": "application/json", "X-CSRFToken": token, "Origin": self.origin},
            method=method,
        )
        try:
            with self.opener.open(request, timeout=60) as answer:
                return answer.status, json.loads(answer.read() or b"null")
        except urllib.error.HTTPError as error:
            with error:
                return error.code, json.loads(error.read() or b"null")

    def sign_in(self, name: str, password: str) -> int:
        self.ask("GET", "/api/session")
        return self.ask("POST", "/api/login", {"username": name, "password": password})[0]


def free_port() -> int:
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        return int(one.getsockname()[1])


def answers(port: int) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/readyz", timeout=5) as answer:
            return bool(answer.status == 200)
    except OSError:
        return False


@pytest.fixture
def workshop(django_db_setup: Any, db: Any, tmp_path: Path) -> Iterator[tuple[str, Path]]:
    """The address of a server behind a proxy, and its certificate; "mara" and "ole" may sign in."""
    certificate, key = tmp_path / "cert.pem", tmp_path / "key.pem"
    subprocess.run(
        ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=localhost",
         "-addext", "subjectAltName=DNS:localhost", "-keyout", key, "-out", certificate],
        check=True, capture_output=True,
    )  # fmt: skip
    with migrated(NAME):
        port = free_port()
        told = {"KRILL_SECRET": "a1B2c3D4" * 8, "KRILL_HOSTS": "localhost", "KRILL_HTTPS": "1", "KRILL_PROXIES": "1"}
        granian = Path(sys.executable).parent / "granian"
        server = subprocess.Popen(
            [granian, "--interface", "wsgi", "--host", "127.0.0.1", "--port", str(port), "--workers", "1",
             "--blocking-threads", "4", "--no-ws", "--log-level", "error", "krill_server.wsgi:application"],
            cwd=SERVER, env=environment_of(NAME, **told),
        )  # fmt: skip
        handler = type("ProxyOfTest", (Proxy,), {"behind": port})
        proxy = ThreadingHTTPServer(("127.0.0.1", 0), handler)
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        context.load_cert_chain(certificate, key)
        proxy.socket = context.wrap_socket(proxy.socket, server_side=True)
        threading.Thread(target=proxy.serve_forever, daemon=True).start()
        try:
            end = time.monotonic() + 60
            while not answers(port):
                assert time.monotonic() < end, "the server did not start"
                time.sleep(0.1)
            yield f"https://localhost:{proxy.server_address[1]}", certificate
        finally:
            proxy.shutdown()
            proxy.server_close()
            server.terminate()
            server.wait(20)


def added(name: str) -> str:
    return manage(NAME, "krill_users", "add", name).stdout.strip().split(": ")[1]


def test_two_people_behind_https_work_on_one_build(workshop):
    address, certificate = workshop
    mara, ole = Person(address, certificate), Person(address, certificate)
    assert mara.sign_in("mara", added("mara")) == 200
    assert ole.sign_in("ole", added("ole")) == 200
    assert all(cookie.secure for person in (mara, ole) for cookie in person.jar)
    made = mara.ask("POST", "/api/builds/recipe", {"recipe": "water_loop", "name": "shared"})[1]
    build = f"/api/builds/{made['id']}"
    assert ole.ask("GET", build)[0] == 404
    assert mara.ask("PUT", f"{build}/access", {"username": "ole", "role": "editor"})[0] in (200, 204)

    def rename(person: Person, name: str, base: int) -> tuple[int, Any]:
        patch = [{"op": "replace", "path": "/name", "value": name}]
        return person.ask("PATCH", f"{build}/draft", {"base": base, "patch": patch, "label": "name", "merge": False})

    status, saved = rename(ole, "by ole", made["sequence"])
    assert status == 200
    assert rename(mara, "by mara", made["sequence"])[0] == 409  # she is told that he was first
    assert rename(mara, "by mara", saved["sequence"])[0] == 200
    assert ole.ask("GET", build)[1]["document"]["name"] == "by mara"


def test_a_page_from_elsewhere_signs_nobody_in(workshop):
    address, certificate = workshop
    password = added("mara")
    assert Person(address, certificate, origin="https://elsewhere.example").sign_in("mara", password) == 403
    assert Person(address, certificate).sign_in("mara", password) == 200


def test_wrong_passwords_are_held_off_by_the_address_that_the_proxy_saw(workshop):
    address, certificate = workshop
    password = added("mara")
    guesses = [Person(address, certificate).sign_in("mara", f"guess {n}") for n in range(9)]
    assert guesses[:7] == [401] * 7
    assert guesses[-1] == 429
    assert Person(address, certificate).sign_in("mara", password) == 429
