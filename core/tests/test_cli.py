"""The command line as scripts use it: exit status, one-line errors, complete JSON."""

import json

import pytest
from strategies import recipe

from krill.cli import main
from krill.document.reading import write_text
from krill.simulated_bench.bench import BenchPlan, run_bench


@pytest.fixture
def file(tmp_path):
    path = tmp_path / "build.json"
    path.write_text(write_text(recipe()))
    return path


def test_schema_check_and_predict(file, capsys):
    assert main(["schema"]) == 0
    assert json.loads(capsys.readouterr().out)["title"] == "Build"
    assert main(["check", str(file)]) == 0
    assert "sound" in capsys.readouterr().out
    assert main(["predict", str(file), "--workload", "both", "--room", "30", "--samples", "20", "--json"]) == 0
    prediction = json.loads(capsys.readouterr().out)
    workload = prediction["workloads"][0]
    assert workload["room_c"] == 30
    addresses = {node["address"] for node in workload["nodes"]}
    assert {"processor-core", "loop-a/junction0", "box"} <= addresses
    assert all(hop["address"] for place in workload["places"] for hop in place["hops"])
    assert main(["predict", str(file), "--samples", "0"]) == 0
    assert "Both" in capsys.readouterr().out


def test_a_load_is_followed_in_time(file, capsys):
    assert main(["forecast", str(file), "--minutes", "20", "--samples", "10", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["workload"] == "both"
    assert told["minutes"][-1] == 20
    assert {len(curve["c"]) for curve in told["curves"]} == {len(told["minutes"])}
    assert main(["forecast", str(file), "--minutes", "20", "--samples", "0", "--drift", "1", "--before", "cold"]) == 0
    said = capsys.readouterr().out
    assert "20 min over cold" in said
    assert "settles at" in said
    assert main(["forecast", str(file), "--workload", "sleeping"]) == 1
    assert "there is no such workload" in capsys.readouterr().err
    with pytest.raises(SystemExit):
        main(["forecast", str(file), "--minutes", "0"])


def test_classes_are_listed_by_kind_and_an_unknown_kind_is_refused(capsys):
    assert main(["classes", "pump"]) == 0
    lines = capsys.readouterr().out.splitlines()
    assert [line.split()[:2] for line in lines][-1] == ["pump", "pump_strong"]
    assert all(line.startswith("pump ") for line in lines)
    assert main(["classes"]) == 0
    assert len(capsys.readouterr().out.splitlines()) > 10 * len(lines)
    assert main(["classes", "propeller"]) == 1
    assert "no class is of kind 'propeller'; kinds: cooler, coupling" in capsys.readouterr().err


def test_refusals_are_one_line_each_and_exit_1(file, tmp_path, capsys):
    raw = json.loads(file.read_text())
    raw["workloads"][0]["watts"]["processor"] = -1
    file.write_text(json.dumps(raw))
    assert main(["check", str(file)]) == 1
    error = capsys.readouterr().err
    assert error.count("\n") == 1
    assert "idle/watts/processor: -1; allowed: 0 to 100000 W" in error
    assert main(["predict", str(tmp_path / "missing.json")]) == 1
    assert main(["predict", str(file), "--workload", "none"]) == 1
    with pytest.raises(SystemExit) as stop:
        main(["predict"])
    assert stop.value.code == 2


@pytest.mark.parametrize("command", ["check", "predict"])
def test_a_class_that_nobody_knows_is_refused_with_the_nearest(file, command, capsys):
    raw = json.loads(file.read_text())
    [fan, *_] = [part for part in raw["parts"] if part["kind"] == "fan"]
    fan["class"] = "fan_120x26"
    file.write_text(json.dumps(raw))
    assert main([command, str(file)]) == 1
    said = f"{fan['id']}/class: there is no class 'fan_120x26'; allowed: one of the 20 classes of kind fan, the nearest: fan_120x25"
    assert said in capsys.readouterr().err


def test_analyse_recipe_and_practice(file, tmp_path, capsys):
    log = tmp_path / "log.csv"
    log.write_text(run_bench(recipe(), BenchPlan("both", 24.0, load_min=30, step_s=5.0)).csv())
    assert main(["analyse", str(log), "--build", str(file), "--json"]) == 0
    analysis = json.loads(capsys.readouterr().out)
    assert analysis["lines"]["repaired"] == 0
    assert any(c["role"] == "processor-core/temperature" and c["settled"] for c in analysis["loads"][0]["channels"])
    assert main(["analyse", str(log)]) == 0
    assert "load from" in capsys.readouterr().out
    assert main(["recipe", "65", "115", "20", "22"]) == 0
    assert json.loads(capsys.readouterr().out)["format"] == "krill-build"
    assert main(["practice", str(file), "--workload", "nothing"]) == 1
    capsys.readouterr()
    logs = []
    for more in (["--exact", "--seed", "5"], ["--exact", "--seed", "6"], ["--seed", "5"]):
        assert main(["practice", str(file), "--workload", "both", "--minutes", "12", *more]) == 0
        rows = [line.split(",") for line in capsys.readouterr().out.splitlines()]
        assert float(rows[-1][0]) == pytest.approx(60 * (5 + 12 + 4), abs=3)
        logs.append({name: float(value) for name, value in zip(rows[0], rows[-130], strict=True)})
    apart = {name: [abs(log[name] - logs[0][name]) for log in logs[1:]] for name in logs[0] if "temperature [" in name}
    assert max(exact for exact, _ in apart.values()) < 3.0  # noise and resolution of sensors alone
    assert max(hidden for _, hidden in apart.values()) > 3.0


def test_a_study_from_a_file(file, tmp_path, capsys):
    question = tmp_path / "question.json"
    vary = [{"address": "movers/fans", "options": [{"value": 0.4}, {"value": 0.9, "label": "fast"}]}]
    question.write_text(json.dumps({"vary": vary, "demands": {"margins": [{"workload": "both", "at_least_k": 3}]}}))
    assert main(["study", str(file), str(question), "--json"]) == 0
    result = json.loads(capsys.readouterr().out)
    assert result["size"] == 2
    assert result["columns"]["margin_k"][1] > result["columns"]["margin_k"][0]
    assert main(["study", str(file), str(question)]) == 0
    assert "fast: " in capsys.readouterr().out
    question.write_text("{")
    assert main(["study", str(file), str(question)]) == 1
    question.write_text(json.dumps({"vary": [{"address": "nobody/x", "options": [{"value": 1}]}]}))
    assert main(["study", str(file), str(question)]) == 1
    assert "nobody/x" in capsys.readouterr().err


@pytest.fixture
def strange(tmp_path):
    """Files of every kind that is no document."""
    made = {
        "wide": '\ufeff{"format": "krill-build"}'.encode("utf-16"),
        "binary": bytes(range(256)) * 20,
        "empty": b"",
        "list": b"[1, 2]",
        "deep": b"[" * 100_000,
        "digits": b'{"format": "krill-build", "version": ' + b"9" * 5000 + b"}",
        "cut": b'{"format": "krill-build", "ver',
    }
    for name, data in made.items():
        (tmp_path / name).write_bytes(data)
    return {name: str(tmp_path / name) for name in made} | {"folder": str(tmp_path), "none": str(tmp_path / "none")}


@pytest.mark.parametrize("kind", ["wide", "binary", "empty", "list", "deep", "digits", "cut", "folder", "none"])
@pytest.mark.parametrize(
    "command",
    [["check"], ["predict"], ["analyse"], ["compare", "="], ["study", "="], ["verdict", "="], ["calibrate", "="]],
)
def test_a_file_that_is_no_document_is_one_line_and_exit_1(strange, capsys, command, kind):
    name, *others = command
    assert main([name, strange[kind], *(strange[kind] for _ in others)]) == 1
    said = capsys.readouterr().err
    assert said.startswith("krill: ")
    assert said.count("\n") == 1


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        (["--room", "nan"], "argument --room: 'nan'; allowed: -40 to 70 °C"),
        (["--room", "70.1"], "allowed: -40 to 70 °C"),
        (["--room", "warm"], "'warm'; allowed: -40 to 70 °C"),
        (["--samples", "-5"], "'-5'; allowed: a whole number from 0 to 20000"),
        (["--samples", "20001"], "allowed: a whole number from 0 to 20000"),
        (["--samples", "9" * 5000], "allowed: a whole number from 0 to 20000"),
        (["--samples", "1e3"], "'1e3'; allowed: a whole number"),
        (["--colour"], "unrecognized arguments"),
    ],
)
def test_a_wrong_call_is_one_line_and_exit_2(capsys, wrong, says):
    with pytest.raises(SystemExit) as stop:
        main(["predict", "file.json", *wrong])
    said = capsys.readouterr().err
    assert stop.value.code == 2
    assert says in said
    assert said.count("\n") == 1


def test_the_ends_of_what_is_allowed_are_allowed(file, capsys):
    for room in ("-40", "70"):
        assert main(["predict", str(file), "--room", room, "--samples", "0"]) == 0
