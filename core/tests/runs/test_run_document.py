"""Run files: what they hold, what is refused, and that they come back as they went out."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from krill.errors import DocumentRefused
from krill.runs.quantities_read import READ
from krill.runs.run_document import Reading, read_run, read_run_object, run_schema, write_run

CORE = "processor-core/temperature"


def told(**more):
    readings = [{"minute": 60, "role": CORE, "value": 75}]
    return {
        "format": "krill-run",
        "version": 1,
        "name": "evening",
        "kind": "readings",
        "windows": [{"workload": "both"}],
        "readings": readings,
    } | more


WHOLE = told(
    revision=3,
    note="Window open.",
    room={"start_c": 24, "about_c": 25},
    settings={
        "power_limits": [{"source": "processor", "wanted_w": 150, "granted_w": 125, "hold_s": 56}],
        "fans_by": "firmware",
        "lid": "off",
        "filter": "dusty",
        "locked": ["pump"],
    },
    windows=[
        {"id": "one", "workload": "both", "start_s": 60, "end_s": 600},
        {"id": "two", "workload": "idle", "power_limits": [{"source": "graphics", "granted_w": 200}]},
    ],
    readings=[
        {"minute": 60, "role": CORE, "kind": "highest", "value": 75, "window": "two"},
        {"minute": 61, "role": CORE, "value": 60, "load_on": False, "after_s": 20},
        {"minute": 60, "role": "sound/level", "value": 41, "at_m": 0.5},
        {"minute": 60, "role": "job/score", "value": 900, "more_is_better": True},
        {"minute": 60, "role": "front/smoke", "word": "drawn in"},
    ],
)


def test_comes_back_as_it_went_out():
    run = read_run_object(WHOLE)
    text = write_run(run)
    assert read_run(text) == run.model_copy(update={"written_by": json.loads(text)["written_by"]})
    assert write_run(read_run(text)) == text


@given(
    st.lists(
        st.builds(
            lambda minute, role, kind, share, on: {
                "minute": minute,
                "role": f"part/{role}",
                "kind": kind,
                "value": READ[role].least + share * (READ[role].most - READ[role].least),
                "load_on": on,
            },
            st.floats(0, 1e5),
            st.sampled_from([name for name, q in READ.items() if not q.words]),
            st.sampled_from(["now", "highest", "mean"]),
            st.floats(0, 1),
            st.booleans(),
        ),
        min_size=1,
        max_size=8,
    )
)
def test_any_reading_in_its_range_comes_back(readings):
    run = read_run_object(told(readings=readings))
    assert read_run(write_run(run)).readings == run.readings


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"format": "krill-build"}, "format"),
        ({"version": 2}, "version"),
        ({"kind": "dream"}, "kind"),
        ({"windows": []}, "windows"),
        ({"windows": [{"workload": "both", "start_s": 5}]}, "windows"),
        ({"windows": [{"workload": "both", "start_s": 5, "end_s": 5}]}, "windows"),
        ({"windows": [{"workload": "a"}, {"workload": "b"}]}, "file"),
        ({"readings": []}, "file"),
        ({"readings": [{"minute": 1, "role": CORE}]}, "readings"),
        ({"readings": [{"minute": 1, "role": CORE, "value": 70, "word": "warm"}]}, "readings"),
        ({"readings": [{"minute": 1, "role": "front/smoke", "word": "sideways"}]}, "readings"),
        ({"readings": [{"minute": 1, "role": CORE, "word": "warm"}]}, "readings"),
        ({"readings": [{"minute": 1, "role": CORE, "value": 200.1}]}, "readings"),
        ({"readings": [{"minute": 1, "role": "fan/duty", "value": 101}]}, "readings"),
        ({"readings": [{"minute": 1, "role": CORE, "value": 70, "window": "none"}]}, "file"),
        ({"room": {"about_c": 61}}, "room"),
        ({"log": {"sha256": "abc"}}, "log"),
        ({"note": "a\x00"}, "note"),
        ({"name": "\ud800"}, "name"),
        ({"unknown": 1}, "unknown"),
    ],
)
def test_what_cannot_be_is_refused_with_its_place(change, where):
    with pytest.raises(DocumentRefused) as refused:
        read_run_object(told(**change))
    assert refused.value.problems[0].where.startswith(where)


def test_windows_limits_and_readings_of_each():
    run = read_run_object(WHOLE)
    assert run.window().id == "one"
    assert [r.role for r in run.readings_in(run.window("two"))] == [CORE]
    assert len(run.readings_in(run.window("one"))) == 4
    assert {s: limit.in_force_w for s, limit in run.limits_in(run.window("two")).items()} == {
        "processor": 125,
        "graphics": 200,
    }
    with pytest.raises(DocumentRefused, match="one, two"):
        run.window("three")


def test_a_limit_that_was_only_wanted_is_in_force_until_another_was_granted():
    run = read_run_object(told(settings={"power_limits": [{"source": "a", "wanted_w": 150}, {"source": "b"}]}))
    assert [limit.in_force_w for limit in run.settings.power_limits] == [150, None]


@pytest.mark.parametrize(
    ("change", "lacks"),
    [
        ({}, ["the room", "the watts", "the speeds"]),
        ({"room": {"about_c": 24}}, ["the watts", "the speeds"]),
        (
            {"readings": [{"minute": 0, "role": "room/air", "value": 24}]},
            ["the watts", "the speeds", "how long it ran"],
        ),
        ({"readings": [{"minute": 5, "role": "wall/wall_power", "value": 90}]}, ["the room", "the speeds"]),
        ({"readings": [{"minute": 5, "role": "fan/duty", "value": 90}]}, ["the room", "the watts"]),
        ({"log": {"sha256": "0" * 64}}, []),
    ],
)
def test_what_a_claim_lacks(change, lacks):
    assert read_run_object(told(kind="claim", **change)).lacks == lacks


@pytest.mark.parametrize(
    ("reading", "before"),
    [
        ({"minute": 0, "load_on": False}, True),
        ({"minute": 0, "load_on": True}, False),
        ({"minute": 1, "load_on": False}, False),
        ({"minute": 0, "load_on": False, "after_s": 5}, False),
    ],
)
def test_a_reading_of_the_waiting_machine(reading, before):
    assert Reading(role=CORE, value=40, **reading).is_before is before


def test_the_schema_says_units_and_words_of_every_role():
    roles = run_schema()["x-roles"]
    assert roles["flow"] == {"unit": "l/min", "range": [0.0, 500.0]}
    assert roles["smoke"]["words"] == ["drawn in", "still", "blown out"]
