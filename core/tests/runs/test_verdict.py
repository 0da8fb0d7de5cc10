"""Verdicts on simulated machines whose truth is known."""

import pytest
from readings import typed
from strategies import recipe, well_known_recipe

from krill.document.build import Command
from krill.document.reading import read_object, write_object
from krill.logs.log import read_log
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.runs.analysis import OfBuild, analyse, roles_of
from krill.runs.as_run import commanded_build
from krill.runs.typed import measured_from_readings
from krill.runs.verdict import Measured, verdict
from krill.simulated_bench.bench import BenchPlan, run_bench


def judged(build, plan):
    """The whole road: bench, CSV text, reader, roles, window, settled values, verdict."""
    bench = run_bench(build, plan)
    log = read_log(bench.csv().encode())
    roles = [suggestion.role for suggestion in roles_of(log, build)]
    assert dict(zip(log.names, roles, strict=True)) == bench.roles
    found = analyse(log, roles, ran=OfBuild(build, "both"))
    measured = [
        Measured(c.role, c.settled.value, (c.settled.high - c.settled.low) / 2, c.settled.settled)
        for c in found.channels
        if c.settled and c.role != "room/air"
    ]
    known = {f"both/watts/{c.role.split('/')[0]}": c.mean for c in found.channels if c.role.endswith("/power")}
    speeds = {c.role.split("/")[0]: c.mean for c in found.channels if c.role.endswith("/speed")}
    room = (found.room_start_c + found.room_end_c) / 2
    return verdict(
        commanded_build(build, "both", {mover: Command(speed_rpm=rpm) for mover, rpm in speeds.items()}),
        "both",
        room,
        measured,
        known,
    ), bench


def plan(seed, **hidden):
    return BenchPlan(
        "both", 24.0, load_min=45, lead_in_min=4, after_min=2, step_s=5.0, seed=seed, hidden_spread=0.0, hidden=hidden
    )


@pytest.fixture(scope="module")
def known_build():
    return well_known_recipe()


@pytest.mark.slow
def test_a_plate_that_is_40_per_cent_worse_is_named_in_nine_of_ten(known_build):
    named = 0
    for seed in range(10):
        found, _ = judged(known_build, plan(seed, **{"plate-graphics/factor": 1.4}))
        named += bool(found.suspects) and found.suspects[0].address == "plate-graphics/factor"
    assert named >= 9


@pytest.mark.slow
def test_a_faultless_log_names_nobody(known_build):
    for seed in range(10, 22):
        assert judged(known_build, plan(seed))[0].suspects == []


def test_settled_values_are_the_truth_of_the_bench(known_build):
    found, bench = judged(known_build, plan(3))
    for spot in found.places:
        if spot.role.endswith("/temperature"):
            assert spot.measured_c == pytest.approx(bench.settled_c[spot.role.split("/")[0]], abs=0.6)


def test_a_band_wider_than_a_quarter_of_the_rise_cannot_tell():
    raw = write_object(recipe())
    for part in raw["parts"]:
        for place in part.get("places", []):
            if place["id"] == "memory-place":
                place |= {"package_k_w": {"value": 9, "plus_minus": "60%", "from": "estimate"}, "limits": []}
    build = read_object(raw)
    middle = verdict(build, "both", 24.0, [Measured("memory-place/temperature", 58.0, 0.5)])
    rise = middle.places[0].predicted_c - 24.0
    assert (middle.places[0].predicted_high - middle.places[0].predicted_low) / 2 > 0.25 * rise
    assert middle.places[0].conclusion == "cannot tell"
    far = verdict(build, "both", 24.0, [Measured("memory-place/temperature", 99.0, 0.5)])
    assert far.places[0].conclusion == "hotter than predicted"


def test_a_run_that_was_stopped_while_rising_is_not_judged():
    found = verdict(recipe(), "both", 24.0, [Measured("processor-core/temperature", 40.0, 2.0, settled=False)])
    assert found.places[0].conclusion == "cannot tell"


def test_typed_readings_choose_the_last_under_load_and_widen_when_rising():
    role = "processor-core/temperature"
    readings = [
        typed(20, role, "now", 68, True),
        typed(30, role, "now", 72, True),
        typed(33, role, "now", 55, False),
    ]
    run = measured_from_readings(readings, "both")
    (measured,), excluded = run.values, run.excluded
    assert measured.value == 72
    assert measured.half_width == pytest.approx(6.0)
    assert not measured.settled
    assert any("after the load ended" in text for text in excluded)
    assert any("still rising" in text for text in excluded)


def test_a_sink_in_a_duct_that_is_40_per_cent_worse_is_named():
    raw = write_object(RECIPES["ducted_sink"].make(30, 12, 4, 22.0, "duct"))
    for part in raw["parts"]:
        for item in (part, *part.get("places", [])):
            item |= {
                k: {**v, "plus_minus": "3%", "from": "measured"}
                for k, v in item.items()
                if isinstance(v, dict) and "value" in v
            }
        if part["kind"] == "cooler":
            rated = {"resistance_k_w": 0.75, "rated_airflow_m3_h": 15, "pressure_pa": 20, "still_k_w": 6, "factor": 1}
            part |= {field: {"value": value, "plus_minus": "4%", "from": "measured"} for field, value in rated.items()}
        if part["kind"] == "interface":
            part["resistance_mm2k_w"] = {"value": 30, "plus_minus": "3%", "from": "measured"}
        for place in part.get("places", []):
            place["package_k_w"] = {"value": 0.5, "plus_minus": "3%", "from": "measured"}
    build = read_object(raw)
    places = ("first-place", "second-place", "drive-place")
    worse = predict(build, ["full"], samples=0, overrides={"sink-first/factor": 1.4}).workloads[0]
    measured = [Measured(f"{p.address}/temperature", p.temperature_c, 0.2, True) for p in worse.places]
    assert [m.role.split("/")[0] for m in measured] == list(places)
    found = verdict(build, "full", 22.0, measured, {})
    assert found.suspects[0].address == "sink-first/factor"
    assert found.suspects[0].change == pytest.approx(0.4, abs=0.1)


@pytest.mark.parametrize(
    ("share", "said"),
    [
        (0.0, "nothing is off"),
        (0.4, "nothing is off"),
        (0.6, "Processor is {:.0f} K hotter than the middle"),
        (-0.6, "Processor is {:.0f} K cooler than the middle"),
    ],
)
def test_a_reading_at_the_edge_of_a_wide_band_is_not_called_nothing(share, said):
    build, role = recipe(), "processor-core/temperature"
    band = verdict(build, "both", 24.0, [Measured(role, 60.0, 1.0)]).places[0]
    half = (band.predicted_high - band.predicted_low) / 2
    found = verdict(build, "both", 24.0, [Measured(role, band.predicted_c + share * half, 1.0)])
    assert found.places[0].conclusion == "as predicted"
    assert said.format(abs(share) * half) in found.sentence
    assert (f"± {half:.0f} K only" in found.sentence) is (abs(share) > 0.5)


def test_a_few_kelvins_aside_are_nothing_however_narrow_the_band(known_build):
    role = "graphics-chip/temperature"
    band = verdict(known_build, "both", 24.0, [Measured(role, 60.0, 1.0)]).places[0]
    half = (band.predicted_high - band.predicted_low) / 2
    found = verdict(known_build, "both", 24.0, [Measured(role, band.predicted_c + min(0.7 * half, 3.9), 1.0)])
    assert "nothing is off" in found.sentence
