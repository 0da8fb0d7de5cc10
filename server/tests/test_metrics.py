"""What is counted, and who may see it."""

import contextlib
import re

import pytest
from solving import run_study

from studies.actions import ask
from wire.turns import Overtaken, Ticket


def counted(client, name: str, **labels: str) -> float:
    """A figure of /metrics; 0 where nothing was counted yet."""
    text = client.get("/metrics").content.decode()
    for line in text.splitlines():
        told = re.fullmatch(r"(\w+)(?:\{(.*)\})? (\S+)", line)
        if told and told[1] == name and set(re.findall(r'(\w+)="([^"]*)"', told[2] or "")) >= set(labels.items()):
            return float(told[3])
    return 0.0


def test_requests_are_counted_by_operation_and_status(people, build, signed_in):
    client = signed_in("owner")
    names = {"operation": "get_build", "method": "GET"}
    before = [counted(client, "krill_requests_total", **names, status=status) for status in ("200", "404")]
    client.get(f"/api/builds/{build.pk}")
    client.get(f"/api/builds/{build.pk}")
    signed_in("stranger").get(f"/api/builds/{build.pk}")
    after = [counted(client, "krill_requests_total", **names, status=status) for status in ("200", "404")]
    assert after == [before[0] + 2, before[1] + 1]
    assert counted(client, "krill_request_seconds_count", operation="get_build") >= 3


def test_addresses_that_are_nobodys_make_no_series_of_their_own(people, signed_in):
    client = signed_in("owner")
    nobodys = {"operation": "other", "method": "GET", "status": "404"}
    before = counted(client, "krill_requests_total", **nobodys)
    client.get("/nowhere/1")
    client.get("/nowhere/2")
    assert counted(client, "krill_requests_total", **nobodys) == before + 2
    assert "nowhere" not in client.get("/metrics").content.decode()


@pytest.mark.parametrize(
    "elsewhere", [{"REMOTE_ADDR": "192.0.2.7"}, {"HTTP_X_FORWARDED_FOR": "192.0.2.7"}, {"HTTP_X_FORWARDED_FOR": ""}]
)
def test_nobody_elsewhere_sees_them(people, signed_in, elsewhere):
    assert signed_in("owner").get("/metrics", **elsewhere).status_code == 404
    assert signed_in(None).get("/metrics", REMOTE_ADDR="::1").status_code == 200


def test_the_queue_is_told_as_it_stands(people, build, signed_in):
    question = {"vary": [{"address": "movers/fans", "options": [{"value": 0.5}, {"value": 0.9}]}]}
    study = ask(people["owner"], build.pk, question, "two")
    client = signed_in("owner")
    assert counted(client, "krill_studies", state="waiting") == 1
    assert counted(client, "krill_jobs", status="todo") == 1
    run_study(str(study.pk))
    assert counted(client, "krill_studies", state="waiting") == 0


@pytest.mark.parametrize(("error", "ended"), [(None, "answered"), (Overtaken(), "overtaken"), (ValueError(), "failed")])
def test_long_questions_are_counted_by_how_they_ended(people, signed_in, error, ended):
    client = signed_in("owner")
    before = counted(client, "krill_questions_total", function="of_a_test", ended=ended)
    with contextlib.suppress(Overtaken, ValueError), Ticket(1, "", "of_a_test").told(()):
        if error is not None:
            raise error
    assert counted(client, "krill_questions_total", function="of_a_test", ended=ended) == before + 1


def test_a_slow_question_is_logged_with_its_size(people, caplog, monkeypatch):
    import wire.turns
    from krill.recipes.water_loop import water_loop

    build = water_loop(125, 220, 30, 24, "slow")
    monkeypatch.setattr(wire.turns, "SLOW_S", -1.0)
    with Ticket(1, "", "predict").told((build, ["both"])):
        pass
    (line,) = [record for record in caplog.records if record.message == "slow question"]
    assert line.told["asks"] == "predict"
    assert line.told["parts"] == [len(build.parts)]
    monkeypatch.setattr(wire.turns, "SLOW_S", 1.0)
    caplog.clear()
    with Ticket(1, "", "predict").told((build,)):
        pass
    assert not caplog.records
