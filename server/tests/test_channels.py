"""Channels of logs: reasons, units that somebody tells, what is remembered for the next log, loads that a log shows."""

import json

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from runs.models import KnownLayout

ROWS = 121


def odd_log(shift=0.0):
    """Two loads of an unlike sort, a part's sensor in a unit that nobody knows, a channel of another name."""
    lines = ["Time [min];CPU Package [°C];CPU Package Power [W];Probe [marks];T7 [°C]"]
    for i in range(ROWS):
        load = 20 <= i < 60 or 80 <= i < 110
        lines.append(f"{i};{60 + shift if load else 35};{120 if load else 12};{140 if load else 95};{41 + i / 100:.2f}")
    return "\n".join(lines).encode()


def upload(client, build, content):
    form = {"workload": "both", "file": SimpleUploadedFile("evening.csv", content)}
    answer = client.post(f"/api/builds/{build.pk}/runs/log", form)
    assert answer.status_code == 201, answer.content
    return answer.json()


def change(client, run, body):
    return client.patch(f"/api/runs/{run['id']}", json.dumps(body), content_type="application/json")


def named(run, name):
    return next(channel for channel in run["channels"] if channel["name"] == name)


def test_each_channel_says_why_it_was_taken_so(signed_in, build):
    run = upload(signed_in("editor"), build, odd_log())
    assert named(run, "CPU Package")["reason"] == "temperature, by its unit °C; processor by its name"
    assert "nothing of this build is called so" in named(run, "T7")["reason"]
    assert named(run, "Probe")["asked"]
    assert run["lines"]["time"] == "minutes"
    assert {"role": "processor/limit", "label": "Processor power limit"} in run["roles"]


def test_a_unit_that_is_told_is_used_and_stays(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    probe = named(run, "Probe")
    told = change(client, run, {"units": {probe["index"]: "°F"}}).json()
    assert named(told, "Probe")["unit"] == "°C"
    assert not named(told, "Probe")["asked"]
    told = change(client, run, {"roles": {named(told, "Probe")["index"]: "graphics-chip/temperature"}}).json()
    settled = {c["role"]: c["mean"] for c in told["analysis"]["channels"]}
    assert settled["graphics-chip/temperature"] == pytest.approx(60.0)
    series = client.get(f"/api/runs/{run['id']}/series?points=200").json()["channels"]
    assert max(next(c["values"] for c in series if c["name"] == "Probe")) == pytest.approx(60.0)
    exported = client.get(f"/api/runs/{run['id']}/run.json").json()
    assert exported["log"]["units"] == {"Probe": "°F"}


def test_a_unit_that_nobody_knows_is_refused_with_those_that_are(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    answer = change(client, run, {"units": {named(run, "Probe")["index"]: "furlongs"}})
    assert answer.status_code == 422
    assert "°C, °F, K" in answer.json()["errors"][0]["allowed"]


def test_a_role_of_another_build_is_refused(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    answer = change(client, run, {"roles": {named(run, "T7")["index"]: "nobody/temperature"}})
    assert answer.status_code == 422
    assert "is nothing of this build" in answer.content.decode()


def test_what_was_said_is_remembered_for_the_next_log_of_the_layout(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    change(client, run, {"units": {named(run, "Probe")["index"]: "°F"}})
    change(client, run, {"roles": {named(run, "T7")["index"]: "box/air"}})
    again = upload(client, build, odd_log(shift=2.0))
    assert named(again, "T7")["role"] == "box/air"
    assert named(again, "T7")["reason"] == "as you said"
    assert named(again, "Probe")["unit"] == "°C"
    assert again["document"]["log"]["units"] == {"Probe": "°F"}


def test_nobody_else_is_told_what_one_remembered(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    change(client, run, {"roles": {named(run, "T7")["index"]: "box/air"}})
    assert KnownLayout.objects.count() == 1
    other = upload(signed_in("owner"), build, odd_log(shift=1.0))
    assert named(other, "T7")["role"] == "ignore"


def test_a_remembered_role_that_the_build_does_not_have_is_left_out(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    change(client, run, {"roles": {named(run, "T7")["index"]: "box/air"}})
    KnownLayout.objects.update(roles={"T7": "gone/temperature"})
    assert named(upload(client, build, odd_log(shift=1.0)), "T7")["role"] == "ignore"


def test_other_loads_of_the_log_are_offered_until_they_are_taken(signed_in, build):
    client = signed_in("editor")
    run = upload(client, build, odd_log())
    window = run["analysis"]["window"]
    assert (window["start_s"], window["end_s"]) == (pytest.approx(1200, abs=61), pytest.approx(3540, abs=61))
    [more] = run["more_loads"]
    assert (more["start_s"], more["end_s"]) == (pytest.approx(4800, abs=61), pytest.approx(6540, abs=61))
    windows = [
        {"id": "load", "workload": "both", "start_s": window["start_s"], "end_s": window["end_s"]},
        {"id": "load-2", "workload": "both", "start_s": more["start_s"], "end_s": more["end_s"]},
    ]
    taken = change(client, run, {"windows": windows}).json()
    assert taken["more_loads"] == []
    assert np.isclose(
        client.get(f"/api/runs/{run['id']}?window=load-2").json()["analysis"]["window"]["start_s"], more["start_s"]
    )
