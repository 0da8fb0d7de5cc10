"""Lines of the log: one a request as JSON with its id, slow ones told, nothing of a body, a failure under the id that is told."""

import json
import logging

import pytest
from django.test import Client

from krill_server import log_lines
from krill_server.log_lines import JsonLines


@pytest.fixture
def lines(caplog):
    caplog.set_level(logging.INFO, logger="krill.access")

    def told():
        return [record.told | {"level": record.levelname} for record in caplog.records if record.name == "krill.access"]

    return told


def test_a_request_is_one_line_with_who_asked_and_what_came_of_it(signed_in, build, lines):
    answer = signed_in("owner").get(f"/api/builds/{build.pk}?secret=1")
    (line,) = lines()
    assert line["path"] == f"/api/builds/{build.pk}"
    assert (line["method"], line["status"], line["user"], line["level"]) == ("GET", 200, "owner", "INFO")
    assert line["sent"] == len(answer.content)
    assert len(answer["X-Request-ID"]) == 16
    assert "secret" not in str(lines())


def test_a_stranger_has_no_name(db, lines):
    Client().get("/api/builds")
    assert (lines()[0]["user"], lines()[0]["status"]) == ("", 401)


@pytest.mark.parametrize(
    ("given", "taken"),
    [("of-a-proxy-17", True), ("x" * 64, True), ("x" * 65, False), ("short", False), ("a b c d e f g", False)],
)
def test_an_id_that_a_proxy_gives_is_taken_over_where_it_is_one(db, given, taken):
    answer = Client().get("/api/session", HTTP_X_REQUEST_ID=given)
    assert (answer["X-Request-ID"] == given) is taken


@pytest.mark.parametrize(("slow_s", "level"), [(60.0, "INFO"), (0.0, "WARNING")])
def test_what_takes_long_is_a_warning(db, lines, monkeypatch, slow_s, level):
    monkeypatch.setattr(log_lines, "SLOW_S", slow_s)
    Client().get("/api/session")
    assert lines()[0]["level"] == level


def test_a_failure_is_told_under_the_id_of_its_request(signed_in, build, monkeypatch, caplog):
    def broken(*asked):
        raise RuntimeError("no")

    monkeypatch.setattr("runs.router.build_for", broken)
    answer = signed_in("owner").get(f"/api/builds/{build.pk}/runs")
    assert answer["X-Request-ID"] in answer.json()["errors"][0]["what"]
    assert answer["X-Request-ID"] in caplog.text


def test_lines_are_json_with_the_trace_of_a_failure():
    record = logging.LogRecord("krill", logging.ERROR, "", 0, "%s failed", ("this",), None)
    line = json.loads(JsonLines().format(record))
    assert (line["says"], line["level"], line["from"]) == ("this failed", "error", "krill")
    assert "request" not in line
    try:
        raise ValueError("why\nso")
    except ValueError as error:
        record.exc_info = (type(error), error, error.__traceback__)
    text = JsonLines().format(record)
    assert "\n" not in text
    assert "ValueError: why" in json.loads(text)["trace"]
