"""What nobody foresaw has one shape, a reference in the log, and no trace on the wire; HTTPS; bodies of strangers."""

import io
import json
import logging
import os
import subprocess
import sys
from pathlib import Path

import pytest
from django.db import OperationalError
from django.test import Client, override_settings
from django.test.client import RequestFactory

from krill_server import health
from krill_server.api import api
from krill_server.bodies import ANONYMOUS_BYTES

SERVER = Path(__file__).parents[1]
PROBLEM = "application/problem+json"
BEHIND_A_PROXY = {
    "ALLOWED_HOSTS": ["krill.example"],
    "CSRF_TRUSTED_ORIGINS": ["https://krill.example"],
    "SECURE_PROXY_SSL_HEADER": ("HTTP_X_FORWARDED_PROTO", "https"),
    "SECURE_SSL_REDIRECT": True,
    "SECURE_REDIRECT_EXEMPT": [r"^(healthz|readyz)$"],
    "SESSION_COOKIE_SECURE": True,
    "CSRF_COOKIE_SECURE": True,
}


def breaks_with(monkeypatch, error):
    def broken(*asked):
        raise error

    monkeypatch.setattr("builds.router.cards", broken, raising=False)
    monkeypatch.setattr("runs.router.build_for", broken)


def test_an_unforeseen_failure_is_a_problem_with_a_reference_that_stands_in_the_log(
    signed_in, build, monkeypatch, caplog
):
    breaks_with(monkeypatch, RuntimeError("secret of the house"))
    with caplog.at_level(logging.ERROR, logger="krill"):
        answer = signed_in("owner").get(f"/api/builds/{build.pk}/runs")
    assert (answer.status_code, answer["Content-Type"]) == (500, PROBLEM)
    said = answer.json()["errors"][0]["what"]
    assert "secret of the house" not in answer.content.decode()
    assert said.rsplit(" ", 1)[1] in caplog.text
    assert "secret of the house" in caplog.text


def test_the_database_away_is_503_and_says_when_to_come_back(signed_in, build, monkeypatch):
    breaks_with(monkeypatch, OperationalError("connection refused"))
    answer = signed_in("owner").get(f"/api/builds/{build.pk}/runs")
    assert (answer.status_code, answer["Content-Type"], answer["Retry-After"]) == (503, PROBLEM, "2")
    assert answer.json()["errors"][0]["where"] == "database"


def test_the_database_away_before_an_operation_is_503_too(signed_in, monkeypatch):
    client = signed_in("owner")

    def away(*asked):
        raise OperationalError("connection refused")

    monkeypatch.setattr("django.contrib.sessions.backends.db.SessionStore.load", away)
    client.raise_request_exception = False
    assert client.get("/api/builds").status_code == 503


def test_unknown_addresses_have_the_shape_of_every_error(db):
    answer = Client().get("/api/nothing-here")
    assert (answer.status_code, answer["Content-Type"]) == (404, PROBLEM)
    assert answer.json()["errors"] == [{"where": "address", "what": "there is no /api/nothing-here", "allowed": ""}]
    page = Client().get("/nothing-here")
    assert (page.status_code, page["Content-Type"]) == (404, "text/plain")


class Body(io.BytesIO):
    """A body that knows whether it was read."""

    was_read = False

    def read(self, *asked):
        self.was_read = True
        return super().read(*asked)


def posted(client, size):
    """The answer to a body of some size, and whether it was read."""
    body = Body(b"{" * 2048)
    told = {"CONTENT_LENGTH": str(size), "wsgi.input": body}
    return client.post("/api/login", content_type="application/json", **told), body.was_read


def test_a_strangers_body_is_refused_before_it_is_read(people):
    answer, was_read = posted(Client(), ANONYMOUS_BYTES + 1)
    assert (answer.status_code, answer["Content-Type"], was_read) == (401, PROBLEM, False)
    assert posted(Client(), ANONYMOUS_BYTES)[1]


def test_a_body_over_the_limit_is_refused_before_it_is_read_whoever_sends_it(signed_in, settings):
    settings.DATA_UPLOAD_MAX_MEMORY_SIZE = 2**20
    answer, was_read = posted(signed_in("owner"), 2**20 + 1)
    assert (answer.status_code, answer["Content-Type"], was_read) == (413, PROBLEM, False)
    assert answer.json()["errors"][0]["allowed"] == "up to 1 MB in one request"
    assert posted(signed_in("owner"), 2**20)[1]


@pytest.mark.parametrize(("origin", "status"), [("https://krill.example", 200), ("https://evil.example", 403)])
def test_signing_in_behind_a_proxy_that_speaks_https(people, origin, status):
    with override_settings(**BEHIND_A_PROXY):
        client = Client(enforce_csrf_checks=True)
        of_proxy = {"HTTP_HOST": "krill.example", "HTTP_X_FORWARDED_PROTO": "https"}
        client.get("/api/session", **of_proxy)
        token = client.cookies["csrftoken"]
        assert token["secure"]
        answer = client.post(
            "/api/login",
            json.dumps({"username": "owner", "password": "owner-long-enough"}),
            content_type="application/json",
            HTTP_X_CSRFTOKEN=token.value,
            HTTP_ORIGIN=origin,
            **of_proxy,
        )
        assert answer.status_code == status
        if status == 200:
            assert client.cookies["sessionid"]["secure"]


def test_without_https_everything_but_health_is_sent_there(db):
    with override_settings(**BEHIND_A_PROXY):
        answer = Client().get("/api/session", HTTP_HOST="krill.example")
        assert (answer.status_code, answer["Location"]) == (301, "https://krill.example/api/session")
        assert Client().get("/readyz", HTTP_HOST="krill.example").status_code == 200


class TestHealth:
    def test_a_server_without_a_worker_is_ready_but_not_well(self, db):
        assert Client().get("/readyz").json() == {"well": True, "database": "ok"}
        answer = Client().get("/healthz")
        assert answer.status_code == 503
        assert answer.json() == {
            "well": False,
            "database": "ok",
            "worker": "none has been heard of for 30 s",
            "disk": "ok",
        }

    def test_a_worker_that_was_heard_of_lately(self, db):
        from django.db import connection

        with connection.cursor() as cursor:
            cursor.execute("INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - interval '29 seconds')")
        assert Client().get("/healthz").json()["worker"] == "ok"
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '31 seconds'")
        assert Client().get("/healthz").status_code == 503

    def test_the_database_away(self, db, monkeypatch):
        monkeypatch.setattr(health, "_database", lambda: "does not answer")
        answer = Client().get("/healthz")
        assert (answer.status_code, answer.json()["worker"]) == (503, "unknown")
        assert Client().get("/readyz").status_code == 503

    @pytest.mark.parametrize(("free_mb", "well"), [(199, False), (200, True)])
    def test_a_full_disk(self, db, monkeypatch, free_mb, well):
        monkeypatch.setattr(health.shutil, "disk_usage", lambda path: type("Usage", (), {"free": free_mb * 2**20}))
        assert (Client().get("/healthz").json()["disk"] == "ok") is well


DEEP = """
import threading
import numpy as np
from krill_server.threads import in_roomy_thread

def solve(request):
    return float(np.linalg.solve(2 * np.eye(400)[None], np.ones((1, 400, 1)))[0, 0, 0])

threading.stack_size(2 * 2**20)
done = []
server = threading.Thread(target=lambda: done.append(in_roomy_thread(solve)(None)))
server.start()
server.join()
print(*done, threading.stack_size())
"""


def test_answers_have_stack_enough_whatever_thread_the_server_asks_from():
    """Straight in the small thread this solve ends the process wherever LAPACK divides it among cores."""
    environment = {name: value for name, value in os.environ.items() if not name.endswith("_NUM_THREADS")}
    found = subprocess.run(
        [sys.executable, "-c", DEEP],
        cwd=SERVER,
        env=environment,
        capture_output=True,
        text=True,
        check=False,
        timeout=60,
    )
    assert found.returncode == 0, found.stderr[-400:]
    assert found.stdout.split() == ["0.5", str(2 * 2**20)]


def test_a_request_leaves_its_answer_to_the_pool(settings):
    import threading

    from krill_server.threads import in_roomy_thread

    seen = []
    in_roomy_thread(lambda request: seen.append(threading.current_thread().name))(RequestFactory().get("/"))
    assert seen[0].startswith("krill-answer")


@pytest.mark.parametrize(
    ("sent", "where", "what"),
    [
        ('{"name": "a\\u0000b"}', "name", "cannot be stored"),
        ('{"note": "\\ud800"}', "note", "cannot be stored"),
        ('{"readings": [{"minute": ' + "9" * 400 + "}]}", "readings/0/minute", "beyond measure"),
        ('{"readings": [{"minute": ' + "9" * 5000 + "}]}", "file", "beyond measure"),
        ('{"room_start_c": NaN}', "file", "NaN is not a figure"),
        ('{"name": ', "line 1 column 10", "not JSON"),
        ("[" * 100_000, "file", "nested too deeply"),
    ],
)
def test_json_that_cannot_be_stored_is_refused_with_its_address(signed_in, build, sent, where, what):
    answer = signed_in("owner").post(f"/api/builds/{build.pk}/runs/readings", sent, content_type="application/json")
    assert (answer.status_code, answer["Content-Type"]) == (422, PROBLEM)
    fault = answer.json()["errors"][0]
    assert fault["where"] == where
    assert what in fault["what"]


def test_the_wrong_password_that_is_one_too_many_has_the_shape_of_every_error(people):
    client = Client()
    client.get("/api/session")
    token = {"HTTP_X_CSRFTOKEN": client.cookies["csrftoken"].value}
    body = json.dumps({"username": "owner", "password": "wrong"})
    answers = [client.post("/api/login", body, content_type="application/json", **token) for _ in range(9)]
    assert [answer.status_code for answer in answers] == [401] * 7 + [429] * 2
    for answer in answers[-2:]:
        assert answer["Content-Type"] == PROBLEM
        assert answer.json()["errors"][0]["what"] == "too many wrong passwords"


def test_a_method_that_an_address_does_not_have_is_refused_in_the_one_shape(signed_in):
    answer = signed_in("owner").put("/api/builds")
    assert answer.status_code == 405
    (fault,) = answer.json()["errors"]
    assert fault == {"where": "method", "what": "PUT is not for this address", "allowed": answer["Allow"]}
    assert set(answer["Allow"].split(", ")) == {"GET", "POST"}
    assert signed_in("owner").put("/").status_code == 405


def test_the_schema_tells_of_files_and_errors_by_their_types(signed_in, build):
    paths = api.get_openapi_schema()["paths"]
    kinds = {
        (operation["operationId"], status): list(answer.get("content", {}))
        for methods in paths.values()
        for operation in methods.values()
        for status, answer in operation["responses"].items()
    }
    assert {tuple(kind) for (_, status), kind in kinds.items() if int(status) >= 400} == {("application/problem+json",)}
    table = signed_in("owner").get(f"/api/builds/{build.pk}/prediction.csv")
    assert table["Content-Type"].split(";")[0] == kinds["prediction_csv", 200][0] == "text/csv"
    assert kinds["get_build", 200] == ["application/json"]
    assert (
        signed_in("owner").get(f"/api/builds/{build.pk}/archive.zip")["Content-Type"] == kinds["export_archive", 200][0]
    )
