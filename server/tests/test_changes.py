"""Differences in words, and predictions over HTTP."""

import json

import pytest

from builds.changes import changes_between
from krill.document.reading import read_text, write_object


def texts(change):
    old = {
        "rooms": [{"id": "room", "air_c": 24}],
        "parts": [{"id": "fan", "class": "a", "factor": {"value": 1, "from": "class"}}],
    }
    new = json.loads(json.dumps(old))
    change(new)
    return changes_between(json.dumps(old), json.dumps(new))


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: d["rooms"][0].update(air_c=26), ["room/air_c: 24 → 26"]),
        (lambda d: d["parts"][0].update({"class": "b"}), ["fan/class: a → b"]),
        (lambda d: d["parts"][0]["factor"].update(value=1.2), ["fan/factor: 1 → 1.2"]),
        (lambda d: d["parts"].append({"id": "new", "kind": "fan"}), ["new/kind: — → fan"]),
        (lambda d: d["parts"].clear(), None),
        (lambda d: None, []),
    ],
)
def test_changes_by_address(change, said):
    found = texts(change)
    assert found == said if said is not None else len(found) >= 1


def test_the_first_revision_has_no_changes_and_many_are_cut():
    assert changes_between(None, "{}") == []
    many = json.dumps({"parts": [{"id": f"p{i}", "kind": "fan"} for i in range(60)]})
    assert changes_between(json.dumps({"parts": []}), many)[-1].startswith("and ")


def ask(client, **body):
    return client.post("/api/predict", json.dumps(body), content_type="application/json")


def test_a_prediction_is_stateless_and_named(signed_in, build):
    document = write_object(read_text(build.text))
    client = signed_in("stranger")
    first, second = (ask(client, document=document, workloads=["both"], samples=30).json() for _ in range(2))
    assert first == second
    assert first["workloads"][0]["places"][0]["band_c"]["low"] < first["workloads"][0]["places"][0]["temperature_c"]
    warmer = ask(client, document=document, workloads=["both"], room_c=30).json()
    assert warmer["id"] != first["id"]


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"samples": 5000}, "body/data/samples"),
        ({"room_c": 400}, "body/data/room_c"),
        ({"workloads": ["none"]}, "workloads/none"),
    ],
)
def test_what_cannot_be_asked_is_refused_by_address(signed_in, build, change, where):
    body = {"document": write_object(read_text(build.text)), **change}
    answer = ask(signed_in("owner"), **body)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"].endswith(where.removeprefix("body/"))


def test_a_network_that_does_not_settle_is_a_sentence_not_a_crash(signed_in, build, monkeypatch):
    from krill.errors import NotConverged

    def never(*_args, **_kw):
        raise NotConverged("the flow through 'pump' did not settle")

    monkeypatch.setattr("ask.router.predict", never)
    answer = ask(signed_in("owner"), document=write_object(read_text(build.text)))
    assert answer.status_code == 422
    assert "did not settle" in answer.json()["errors"][0]["what"]


def test_exports(signed_in, build):
    client = signed_in("reader")
    assert json.loads(client.get(f"/api/builds/{build.pk}/document").content)["format"] == "krill-build"
    table = client.get(f"/api/builds/{build.pk}/prediction.csv").content.decode().splitlines()
    assert table[0].startswith("workload,room_c,address")
    assert len(table) == 1 + 4 * 9
    log = client.get(f"/api/builds/{build.pk}/practice.csv?workload=both&minutes=5&seed=2").content.decode()
    assert log.startswith("Time [s],Processor temperature [°C]")
    assert client.get(f"/api/builds/{build.pk}/practice.csv?workload=none").status_code == 422
