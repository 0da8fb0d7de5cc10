"""Runs on the command line: verdict, compare, calibrate, of files beside each other."""

import hashlib
import json

import pytest
from strategies import recipe

from krill.cli import main
from krill.document.reading import read_text, write_text
from krill.simulated_bench.bench import BenchPlan, run_bench

CORE = "processor-core/temperature"


@pytest.fixture
def build(tmp_path):
    path = tmp_path / "build.json"
    path.write_text(write_text(recipe()), encoding="utf-8")
    return str(path)


@pytest.fixture
def run_file(tmp_path):
    def write(name="run", value=75, **more):
        readings = [{"minute": 60, "role": CORE, "value": value, "kind": "mean"}]
        room = {"start_c": 24, "end_c": 24}
        told = {
            "format": "krill-run",
            "version": 1,
            "name": name,
            "kind": "readings",
            "windows": [{"workload": "both"}],
        }
        path = tmp_path / f"{name}.json"
        path.write_text(json.dumps(told | {"room": room, "readings": readings} | more), encoding="utf-8")
        return str(path)

    return write


def said(capsys, *arguments):
    assert main(list(arguments)) == 0
    return capsys.readouterr().out


def refused(capsys, *arguments):
    assert main(list(arguments)) == 1
    lines = capsys.readouterr().err.strip().splitlines()
    assert all(line.startswith("krill: ") for line in lines)
    return lines


def test_a_verdict_in_words_and_as_json(build, run_file, capsys):
    text = said(capsys, "verdict", build, run_file(value=95))
    assert "hotter than predicted" in text
    found = json.loads(said(capsys, "verdict", build, run_file(value=95), "--json"))
    assert found["places"][0]["measured_c"] == 95
    assert {"sentence", "quantities", "held_back", "excluded", "room", "suspects"} <= found.keys()


def test_a_log_is_found_beside_its_run_and_known_by_its_hash(build, run_file, tmp_path, capsys):
    log = run_bench(recipe(), BenchPlan("both", 24.0, load_min=20, step_s=5.0, seed=2)).csv().encode()
    (tmp_path / "both.csv").write_bytes(log)
    file = {"sha256": hashlib.sha256(log).hexdigest(), "name": "both.csv"}
    run = run_file("logged", kind="log", readings=[], log=file)
    assert "Graphics memory" in said(capsys, "verdict", build, run)
    (tmp_path / "other.csv").write_bytes(log + b"\n")
    assert "SHA-256" in refused(capsys, "verdict", build, run, "--log", str(tmp_path / "other.csv"))[0]
    (tmp_path / "both.csv").unlink()
    refused(capsys, "verdict", build, run)


def test_one_evening(build, run_file, capsys):
    lost, known = run_file("lost", room={}), run_file("known", room={"start_c": 29, "end_c": 29})
    alone = json.loads(said(capsys, "verdict", build, lost, "--json"))["room"]
    shared = json.loads(said(capsys, "verdict", build, lost, "--evening-of", known, "--json"))["room"]
    assert shared["half_k"] < 1.6 < alone["half_k"]
    assert shared["air_c"] == pytest.approx(29, abs=1.5)


def test_two_runs_compared(build, run_file, capsys):
    text = said(capsys, "compare", run_file("one", 80), run_file("two", 70), "--build", build)
    assert text.startswith("two is 10")
    assert "cooler than one on Processor" in text
    assert json.loads(said(capsys, "compare", run_file("one"), run_file("two"), "--build", build, "--json"))["parts"]
    assert "--build" in refused(capsys, "compare", run_file("one"), run_file("two"))[0]
    assert "verdict" in refused(capsys, "compare", run_file("one"), build)[0]


def test_two_builds_compared_with_coolant_air_sound_and_height(build, tmp_path, capsys):
    raw = json.loads(write_text(recipe()))
    for load in raw["workloads"]:
        load["movers"]["fan-a1"] = {"duty": 0.3}
    other = tmp_path / "other.json"
    other.write_text(json.dumps(raw), encoding="utf-8")
    text = said(capsys, "compare", build, str(other), "--workload", "both")
    for name in ("Processor", "coolant, hottest", "Box air", "sound at the listener", "height"):
        assert name in text
    found = json.loads(said(capsys, "compare", build, str(other), "--workload", "both", "--json"))
    hot = next(item for item in found["others"] if item["address"] == "loop-a/coolant_hot")
    assert hot["band"]["low"] < hot["difference"] < hot["band"]["high"]
    assert hot["difference"] > 0


def test_calibrate_writes_a_build_that_predicts_otherwise(build, run_file, tmp_path, capsys):
    out = tmp_path / "learnt.json"
    text = said(capsys, "calibrate", build, run_file(value=90), "--free", "plate-processor/factor", "--out", str(out))
    assert "*Processor plate" in text
    learnt = read_text(out.read_text(encoding="utf-8"))
    assert learnt.calibration.runs[0].name == "run"
    before, after = (said(capsys, "predict", b, "--workload", "both", "--samples", "0") for b in (build, str(out)))
    assert before != after
    found = json.loads(said(capsys, "calibrate", build, run_file(value=90), "--json"))
    assert found["calibration"]["unknowns"]
    assert "plate-processor/factor" in refused(capsys, "calibrate", build, run_file(), "--free", "x/y")[0]


@pytest.mark.parametrize("window", ["load", "other"])
def test_windows_by_their_id(build, run_file, capsys, window):
    run = run_file(windows=[{"workload": "both"}, {"id": "idle", "workload": "idle"}])
    if window == "other":
        assert "load, idle" in refused(capsys, "verdict", build, run, "--window", window)[0]
    else:
        assert "Processor" in said(capsys, "verdict", build, run, "--window", window)


def test_a_load_of_another_build_is_refused(build, run_file, capsys):
    assert "there is no workload 'x'" in refused(capsys, "verdict", build, run_file(windows=[{"workload": "x"}]))[0]


def test_the_schema_of_runs(capsys):
    assert "krill-run" in said(capsys, "schema", "--run")
