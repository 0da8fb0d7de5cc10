"""Runs: files kept byte for byte, series, verdicts, bad files."""

import gzip
import json

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from builds.actions import keep_revision, save_draft
from krill.document.reading import read_text
from krill.logs.limits import MAX_BYTES
from krill.runs.analysis import logged_load
from krill.runs.judging import judge
from krill.runs.run_document import LoadWindow
from krill.simulated_bench.bench import BenchPlan, run_bench
from runs.models import Chunk, Run
from runs.queries import logged_load_of
from runs.series import packed, pyramid, thinned, unpacked


@pytest.fixture
def practice(build):
    plan = BenchPlan("both", 24.0, load_min=40, lead_in_min=3, after_min=2, seed=4)
    return run_bench(read_text(build.text), plan).csv().encode()


def upload(client, build, content, name="run.csv", **fields):
    form = {"workload": "both", "file": SimpleUploadedFile(name, content), **fields}
    return client.post(f"/api/builds/{build.pk}/runs/log", form)


def test_a_log_is_kept_and_judged(signed_in, build, practice):
    client = signed_in("editor")
    packed_log = gzip.compress(practice)
    answer = upload(client, build, packed_log, "run.csv.gz", room_start_c=24, room_end_c=24.2)
    assert answer.status_code == 201, answer.content
    run = answer.json()
    assert run["lines"]["repaired"] == 0
    assert all(channel["sure"] for channel in run["channels"])
    assert client.get(f"/api/runs/{run['id']}/original").content == packed_log
    series = client.get(f"/api/runs/{run['id']}/series?points=200").json()["channels"]
    assert max(len(channel["values"]) for channel in series) <= 220
    verdict = client.get(f"/api/runs/{run['id']}/verdict").json()
    assert {p["role"] for p in verdict["places"]} >= {"processor-core/temperature", "loop-a/coolant_hot"}
    assert (verdict["room_c"], verdict["room_half_k"]) == (pytest.approx(24.1), 0)
    drawn = {place["address"]: place["temperature_c"] for place in verdict["predicted"]["places"]}
    judged = {place["role"]: place["predicted_c"] for place in verdict["places"]}
    assert drawn["processor-core"] == pytest.approx(judged["processor-core/temperature"], abs=0.05)


def test_without_a_room_it_is_taken_from_the_readings_until_somebody_says_it(signed_in, build):
    body = {"workload": "both", "readings": [{"minute": 60, "role": "processor-core/temperature", "value": 75}]}
    client = signed_in("owner")
    run = client.post(f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json").json()
    unread = client.get(f"/api/runs/{run['id']}/verdict").json()
    assert 0 < unread["room_half_k"] <= 5
    assert unread["predicted"]["room_c"] == pytest.approx(unread["room_c"])
    change = json.dumps({"room": {"start_c": 24, "end_c": 25}})
    client.patch(f"/api/runs/{run['id']}", change, content_type="application/json")
    assert client.get(f"/api/runs/{run['id']}/verdict").json()["places"][0]["measured_c"] == 75


def test_no_two_runs_of_a_build_get_the_same_name(signed_in, build):
    readings = [{"minute": 60, "role": "processor-core/temperature", "value": 75}]
    names = ["Both typed", "Both typed", "x" * 120, "x" * 120, ""]
    made = [
        signed_in("owner")
        .post(
            f"/api/builds/{build.pk}/runs/readings",
            json.dumps({"workload": "both", "readings": readings, "name": name}),
            content_type="application/json",
        )
        .json()["name"]
        for name in names
    ]
    assert made == ["Both typed", "Both typed 2", "x" * 120, "x" * 114 + " 2", "both readings"]


def test_a_reading_after_the_load_is_left_out_with_its_reason(signed_in, build):
    readings = [
        {"minute": 60, "role": "processor-core/temperature", "value": 75},
        {"minute": 63, "role": "processor-core/temperature", "value": 52, "load_on": False},
    ]
    body = {"workload": "both", "room_start_c": 24, "room_end_c": 24, "readings": readings}
    client = signed_in("owner")
    run = client.post(f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json").json()
    verdict = client.get(f"/api/runs/{run['id']}/verdict").json()
    assert verdict["places"][0]["measured_c"] == 75
    assert "after the load ended" in verdict["excluded"][0]


@pytest.mark.parametrize(
    ("content", "why"), [(b"", "empty"), (b"\x00\x01\x02" * 50, "binary"), (b"hello\nworld\n", "table")]
)
def test_what_is_no_log_is_refused_with_the_reason(signed_in, build, content, why):
    answer = upload(signed_in("owner"), build, content or b"\n")
    assert answer.status_code == 422
    assert why in answer.json()["errors"][0]["what"]
    assert not Run.objects.exists()


def test_a_file_over_the_limit_is_refused(signed_in, build, monkeypatch):
    monkeypatch.setattr("runs.router.MAX_BYTES", 1000)
    answer = upload(signed_in("owner"), build, b"a,b\n" + b"1,2\n" * 1000)
    assert answer.status_code == 413
    assert MAX_BYTES == 50 * 2**20


def test_roles_and_window_can_be_changed(signed_in, build, practice):
    client = signed_in("owner")
    run = upload(client, build, practice, room_start_c=24, room_end_c=24).json()
    window = {"workload": "both", "start_s": 600, "end_s": 1800}
    change = json.dumps({"roles": {"1": "ignore"}, "windows": [window]})
    changed = client.patch(f"/api/runs/{run['id']}", change, content_type="application/json").json()
    assert changed["channels"][0]["role"] == "ignore"
    assert changed["analysis"]["window"]["by"] == "hand"


@pytest.mark.parametrize("times", [(1800, 600), (600, 600), (-1, 600), (600, 1e7), (1e7, 2e7)])
def test_a_window_that_is_no_window_of_the_log_is_refused(signed_in, build, practice, times):
    client = signed_in("owner")
    run = upload(client, build, practice, room_start_c=24, room_end_c=24).json()
    start, end = times
    windows = [{"workload": "both", "start_s": start, "end_s": end}]
    answer = client.patch(f"/api/runs/{run['id']}", json.dumps({"windows": windows}), content_type="application/json")
    assert answer.status_code == 422
    assert "windows" in answer.json()["errors"][0]["where"]
    windows = json.dumps({"windows": [{"workload": "both"}]})
    reset = client.patch(f"/api/runs/{run['id']}", windows, content_type="application/json")
    assert reset.status_code == 200
    assert reset.json()["analysis"]["window"]["by"] != "hand"


def test_a_run_with_one_room_figure_is_judged_with_more_doubt(signed_in, build, practice):
    client = signed_in("owner")

    def bands(**room):
        run = upload(client, build, practice, **room).json()
        own = {str(channel["index"]): "ignore" for channel in run["channels"] if channel["role"] == "room/air"}
        client.patch(f"/api/runs/{run['id']}", json.dumps({"roles": own}), content_type="application/json")
        found = client.get(f"/api/runs/{run['id']}/verdict").json()
        return {place["role"]: place["predicted_high"] - place["predicted_low"] for place in found["places"]}

    both, one = bands(room_start_c=24, room_end_c=24), bands(room_start_c=24)
    assert both.keys() == one.keys()
    assert one
    assert sum(one.values()) > sum(both.values())
    assert one["box/air"] > 1.5 * both["box/air"]  # the narrowest band: the room's doubt is most of it


def test_chunks_and_pyramid_round_trip(db):
    values = np.where(np.arange(10_000) % 97 == 0, np.nan, np.sin(np.arange(10_000) / 500))
    chunks = list(packed(values))
    assert len(chunks) == 3
    assert np.array_equal(unpacked([data for data, _ in chunks]), values, equal_nan=True)
    low, mean, high = pyramid(values)[5]
    assert low <= mean <= high
    t, y = thinned(np.arange(10_000.0), values, 300)
    assert len(t) <= 330
    assert np.nanmax(y) == np.nanmax(values)
    assert not Chunk.objects.exists()


def test_the_demo_loads_once(db, settings, tmp_path, capsys):
    from django.core.management import call_command

    settings.RUN = tmp_path
    call_command("load_demo")
    call_command("load_demo")
    assert Run.objects.count() == 18  # nine of Heron, five of Sandpiper, four of Limpet
    assert "password" in capsys.readouterr().out


def test_an_analysis_is_worked_out_once_until_what_it_follows_from_changes(signed_in, build, practice, monkeypatch):
    logs: list[int] = []
    verdicts: list[int] = []
    monkeypatch.setattr("runs.queries.logged_load", lambda *asked: logs.append(1) or logged_load(*asked))
    monkeypatch.setattr("runs.queries.judge", lambda *asked: verdicts.append(1) or judge(*asked))
    client = signed_in("owner")
    run = upload(client, build, practice).json()
    first = client.get(f"/api/runs/{run['id']}/verdict").json()
    assert client.get(f"/api/runs/{run['id']}/verdict").json() == first
    assert (len(logs), len(verdicts)) == (1, 1)
    made = Run.objects.get(pk=run["id"])
    load = LoadWindow(workload="both", start_s=240, end_s=1800)
    assert logged_load_of(made, load).analysis.window.by == "hand"
    assert len(logs) == 2


def test_an_answer_is_kept_until_something_that_it_is_made_from_changes(signed_in, build, monkeypatch):
    verdicts: list[int] = []
    monkeypatch.setattr("runs.queries.judge", lambda *asked: verdicts.append(1) or judge(*asked))
    client = signed_in("owner")
    readings = [{"minute": 60, "role": "processor-core/temperature", "value": 75}]
    body = {"workload": "both", "readings": readings, "about_c": 24}
    run = client.post(f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json").json()
    address = f"/api/runs/{run['id']}/verdict"
    assert client.get(f"/api/builds/{build.pk}/runs").json()[0]["said"] is None
    first = client.get(address).json()
    assert client.get(address).json() == first
    assert client.get(f"/api/builds/{build.pk}/runs").json()[0]["said"] == first["sentence"]
    assert len(verdicts) == 1
    change = json.dumps({"room": {"start_c": 20, "end_c": 20}})
    client.patch(f"/api/runs/{run['id']}", change, content_type="application/json")
    assert client.get(address).json()["room_c"] == 20
    assert len(verdicts) == 2
    monkeypatch.setattr("runs.queries.fingerprint", lambda: "another Krill")
    client.get(address)
    assert len(verdicts) == 3


def test_watts_and_speeds_may_be_typed_and_the_verdict_stands_on_them(signed_in, build):
    client = signed_in("owner")

    def keep(*more):
        typed = [{"minute": 60, "role": "processor-core/temperature", "value": 75}, *more]
        body = json.dumps({"workload": "both", "readings": typed, "room_start_c": 24, "room_end_c": 24})
        return client.post(f"/api/builds/{build.pk}/runs/readings", body, content_type="application/json")

    def predicted(run):
        return client.get(f"/api/runs/{run.json()['id']}/verdict").json()["places"][0]["predicted_c"]

    plain = keep()
    hot = keep({"minute": 60, "role": "processor/power", "value": 160})
    slow = keep({"minute": 60, "role": "fan-a1/speed", "value": 700})
    assert predicted(hot) > predicted(plain) + 5
    assert predicted(slow) > predicted(plain)
    assert "W" in client.get(f"/api/runs/{hot.json()['id']}/run.csv").content.decode()
    refused = keep({"minute": 60, "role": "fan-a1/speed", "value": -1})
    assert refused.status_code == 422
    assert "0 to 30000 rpm" in str(refused.json()["errors"])


def test_two_runs_are_held_against_each_other(signed_in, build):
    client = signed_in("owner")

    def keep(name, celsius, *more):
        typed = [{"minute": 60, "role": "processor-core/temperature", "value": celsius}, *more]
        told = {"workload": "both", "name": name, "readings": typed, "room_start_c": 24, "room_end_c": 24}
        body = json.dumps(told)
        return client.post(f"/api/builds/{build.pk}/runs/readings", body, content_type="application/json").json()["id"]

    before, after = keep("before", 80), keep("after", 70)
    found = client.get(f"/api/runs/{before}/compare/{after}").json()
    assert found["sentence"].startswith("after is 10 ± 3 K cooler than before on ")
    assert (found["parts"][0]["conclusion"], found["changes"]) == ("cooler", [])
    hot = keep("hot", 90, {"minute": 60, "role": "processor/power", "value": 160})
    told = client.get(f"/api/runs/{before}/compare/{hot}").json()
    assert told["changes"][0]["what"] == "watts of Processor"
    assert told["parts"][0]["equal_k"] < told["parts"][0]["measured_k"]
    assert signed_in("stranger").get(f"/api/runs/{before}/compare/{after}").status_code == 404


def test_a_revision_is_told_by_what_its_runs_gave_against_the_one_before(signed_in, build, people):
    client = signed_in("owner")

    def typed(value):
        readings = [{"minute": 60, "role": "processor-core/temperature", "value": value, "kind": "now"}]
        body = {"workload": "both", "room_start_c": 24, "room_end_c": 24, "readings": readings}
        return client.post(
            f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json"
        ).json()

    before, url = typed(75), f"/api/builds/{build.pk}/measured-changes"
    assert client.get(url).json() == []
    document = read_text(build.text).model_copy(update={"notes": "another paste"})
    build.refresh_from_db()
    save_draft(people["owner"], build.pk, build.sequence, document, "paste")
    keep_revision(people["owner"], build.pk, "paste")
    after = typed(66)
    [change] = client.get(url).json()
    assert (change["before"], change["after"]) == (before["id"], after["id"])
    assert (change["revision"], change["before_revision"]) == (2, 1)
    assert change["measured_k"] == pytest.approx(-9.0)
    assert change["predicted_k"] == pytest.approx(0.0, abs=1e-6)
    assert (change["part"], change["conclusion"]) == ("Processor", "cooler")
