"""What held a load back: logs of a second generator, logs of the bench by the whole road, each threshold from both sides."""

from dataclasses import replace

import numpy as np
import pytest
from independent.load_logs import KINDS, load_log
from readings import typed
from strategies import recipe

from krill.document.reading import read_object, write_object
from krill.logs.log import read_log
from krill.runs.files import load_of_log
from krill.runs.held_back import NO_COOLER, NOT_FED, Fed, Track, held_back
from krill.runs.ran import ran_of
from krill.runs.run_document import read_run_object
from krill.runs.tracks import single_figures, tracks_of
from krill.simulated_bench.bench import BenchPlan, run_bench
from krill.simulated_bench.control import PowerLimit


@pytest.mark.parametrize("kind", KINDS)
def test_logs_of_a_second_generator_are_told_apart(kind):
    found = [held_back(*load_log(kind, seed))[0].by for seed in range(40)]
    assert found.count(kind) >= 38


def throttling(limit_c=95.0, rating_w=900.0):
    """The machine of two chips, its processor held at a limit."""
    raw = write_object(recipe())
    for part in raw["parts"]:
        if part["id"] == "supply":
            part["rating_w"] = rating_w
        for place in part.get("places", []):
            if place["id"] == "processor-core":
                place |= {"throttles": True, "limits": [{"kind": "throttle", "at_c": limit_c}]}
    return read_object(raw)


def of_bench(build, plan):
    """A bench's log by the whole road: text, channels, roles, window, tracks."""
    bench = run_bench(build, plan)
    run = read_run_object(
        {
            "format": "krill-run",
            "version": 1,
            "name": "bench",
            "kind": "log",
            "windows": [{"workload": plan.workload}],
            "roles": dict(bench.roles),
            "log": {"sha256": "0" * 64},
        }
    )
    log = read_log(bench.csv().encode())
    ran = ran_of(run, build, load_of_log(run, log, build, run.window()))
    return {held.source: held for held in held_back(ran.tracks, ran.fed)}


def plan(seed, limits=(), room=24.0):
    return BenchPlan(
        "both", room, load_min=30, step_s=5.0, seed=seed, hidden_spread=0.5, limits=tuple(limits), clocks=True
    )


@pytest.mark.slow
@pytest.mark.parametrize("seed", range(3))
class TestBench:
    def test_heat(self, seed):
        found = of_bench(throttling(limit_c=62.0), plan(seed))["processor"]
        assert found.by == "heat"
        assert found.throttled_share > 0.3
        assert found.clock_lost_share > 0.01
        assert NO_COOLER not in found.says

    def test_a_limit_that_was_set(self, seed):
        found = of_bench(throttling(), plan(seed, [PowerLimit("processor", 95.0)]))["processor"]
        assert found.by == "power limit"
        assert "on its limit of 95 W" in found.evidence
        assert found.says.endswith(NO_COOLER)

    def test_a_limit_that_falls(self, seed):
        limit = PowerLimit("processor", 200.0, 90.0, after_s=120 + 30 * seed, over_s=20)
        assert of_bench(throttling(), plan(seed, [limit]))["processor"].by == "falling limit"
        untold = replace(limit, told=False)
        found = of_bench(throttling(), plan(seed, [untold]))["processor"]
        assert found.by == "falling limit"
        assert "no limit was read" in found.evidence

    def test_regulators(self, seed):
        told = PowerLimit("graphics", 400.0)
        board = PowerLimit("processor", 400.0, 85.0, after_s=60.0, over_s=1600.0, told=False)
        found = of_bench(throttling(), plan(seed, [board, told]))
        assert found["processor"].by == "board or regulators"
        assert found["graphics"].by == "nothing"

    def test_supply(self, seed):
        """Both sources are cut back together, and what is left is all that the supply gives."""
        build = throttling(rating_w=300.0)
        cut = [
            PowerLimit(s, w, 0.75 * w, 45.0, 5.0, told=False) for s, w in (("processor", 125.0), ("graphics", 220.0))
        ]
        found = of_bench(build, plan(seed, cut))
        assert found["processor"].by == "supply"
        assert found["graphics"].by == "supply"
        assert "of a supply of 300 W" in found["graphics"].evidence

    def test_nothing(self, seed):
        found = of_bench(throttling(), plan(seed))
        assert {held.by for held in found.values()} == {"nothing"}


def chip(**more):
    return Track(
        "chip",
        "Chip",
        **{name: np.atleast_1d(np.asarray(v, float)) if name != "asked_w" else v for name, v in more.items()},
    )


def test_noise_of_a_small_source_is_no_fall():
    rng = np.random.default_rng(2)
    watts = 3.0 + 0.2 * rng.standard_normal(400)
    assert by(replace(chip(over_limit_k=-20), watts=watts)) == "nothing"
    assert by(replace(chip(over_limit_k=-20), watts=watts + np.linspace(0.9, 0, 400))) == "board or regulators"


def by(track, fed=NOT_FED):
    (found,) = held_back([track], fed)
    return found.by


class TestSingleFigures:
    """Figures off a display."""

    def test_at_its_limit_with_less_than_the_job_asks_is_heat(self):
        assert by(chip(over_limit_k=-2.5, watts=94.9, asked_w=100.0)) == "heat"
        assert by(chip(over_limit_k=-2.51, watts=94.9, asked_w=100.0)) != "heat"
        assert by(chip(over_limit_k=-2.5, watts=95.1, asked_w=100.0)) == "nothing"

    def test_watts_on_the_limit_with_kelvins_to_spare_are_the_limit(self):
        assert by(chip(over_limit_k=-20, watts=103.9, limit_w=100.0)) == "power limit"
        assert by(chip(over_limit_k=-20, watts=96.1, limit_w=100.0)) == "power limit"
        assert by(chip(over_limit_k=-20, watts=95.9, limit_w=100.0)) == "nothing"

    def test_regulators_at_their_limit(self):
        assert by(chip(over_limit_k=-20, watts=70, limit_w=100.0, regulators_over_k=-2.5)) == "board or regulators"
        assert by(chip(over_limit_k=-20, watts=70, limit_w=100.0, regulators_over_k=-2.6)) == "nothing"

    def test_supply_from_97_per_cent_of_its_rating(self):
        assert by(chip(over_limit_k=-20, watts=70, asked_w=100.0), Fed(np.array([97.0]), 100.0)) == "supply"
        assert by(chip(over_limit_k=-20, watts=70, asked_w=100.0), Fed(np.array([96.9]), 100.0)) == "nothing"
        assert by(chip(over_limit_k=-20, watts=70, asked_w=70.0), Fed(np.array([98.0]), 100.0)) == "nothing"
        assert by(chip(watts=70), Fed(over_limit_k=np.array([-2.5]))) == "supply"

    def test_a_job_that_keeps_it_busy_for_less_than_four_fifths(self):
        assert by(chip(over_limit_k=-1, watts=50, asked_w=100.0, busy=79.0)) == "nothing"
        assert by(chip(over_limit_k=-1, watts=50, asked_w=100.0, busy=81.0)) == "heat"

    def test_without_a_limit_or_a_clock_it_cannot_be_told(self):
        assert by(chip(watts=70)) == "cannot tell"

    def test_small_sources_are_told_of_only_where_something_held_them(self):
        large, small = chip(over_limit_k=-20, watts=100), replace(chip(over_limit_k=-20, watts=24.9), source="s")
        assert [held.source for held in held_back([large, small], NOT_FED)] == ["chip"]
        hot = replace(small, over_limit_k=np.array([0.0]), asked_w=30.0)
        assert [held.by for held in held_back([large, hot], NOT_FED)] == ["heat", "nothing"]


def test_typed_figures_with_a_typed_limit():
    build = throttling()
    run = read_run_object(
        {
            "format": "krill-run",
            "version": 1,
            "name": "evening",
            "kind": "readings",
            "windows": [{"workload": "both"}],
            "settings": {"power_limits": [{"source": "processor", "wanted_w": 150, "granted_w": 90}]},
            "readings": [
                {"minute": 30, "role": "processor-core/temperature", "value": 61},
                {"minute": 30, "role": "processor/power", "value": 89},
            ],
        }
    )
    found = held_back(*tracks_of(build, "both", single_figures(run.readings), run.limits_in(run.window())))
    assert [(held.source, held.by, held.spare_k) for held in found] == [("processor", "power limit", 34.0)]


def test_single_figures_are_the_last_ones_under_load():
    told = [
        typed(10, "processor/power", "now", 100, True),
        typed(20, "processor/power", "now", 90, True),
        typed(30, "processor/power", "now", 20, False),
    ]
    assert single_figures(told)["processor/power"] == [90.0]
