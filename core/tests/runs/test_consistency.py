"""Pairs of runs that agree with themselves, and pairs whose load, figure or mount was another one."""

import numpy as np
import pytest
from strategies import recipe

from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.runs.as_run import value_of
from krill.runs.compare import RunSide, compare
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Measured

CORE, HOT = "processor-core/temperature", "loop-a/coolant_hot"
ROLES = (CORE, "graphics-chip/temperature", HOT)
WATTS = {"both/watts/processor": 125.0, "both/watts/graphics": 220.0}
MACHINES = 20


def hidden(watts=1.0):
    """Temperatures of machines of the stated tolerances, their processor at a share of its watts, (role, machine)."""
    build = recipe()
    load = next(w for w in build.workloads if w.id == "both")
    known = {"both/watts/processor": 125.0 * watts, "both/watts/graphics": 220.0}
    solved = solve_cases(build, [Case(load, 24.0)], MACHINES, 77, known)
    return {role: value_of(solved, role, solved.drawn(0)) for role in ROLES}


def side(values, machine, rng, half=1.0, known=None, build=None, **more):
    measured = [
        Measured(role, float(v[machine]) + rng.normal(0, half / 1.645), half, **more) for role, v in values.items()
    ]
    return RunSide("run", build or recipe(), "both", RunRoom(24.0), measured, WATTS if known is None else known)


def flagged(other, known=None, half=1.0, machines=MACHINES):
    rng = np.random.default_rng(6)
    first = hidden()
    found = 0
    for k in range(machines):
        pair = compare(side(first, k, rng, half), side(other, k, rng, half, known), samples=20)
        found += any(item.role == CORE for item in pair.inconsistent)
    return found / machines


def test_honest_pairs_are_left_alone():
    assert flagged(hidden()) <= 0.05


@pytest.mark.parametrize("share", [0.7, 1.35])
def test_another_load_than_was_written_down_is_flagged(share):
    """The second run drew other watts than were noted of it; its coolant says so."""
    assert flagged(hidden(share)) >= 0.9


def test_the_same_other_load_is_no_fault_where_it_was_read():
    assert flagged(hidden(0.7), {**WATTS, "both/watts/processor": 87.5}) <= 0.05


def test_poor_readings_flag_nothing_that_they_cannot_tell():
    assert flagged(hidden(0.85), half=3.0) <= 0.2


def test_a_flagged_part_ranks_nothing_and_the_reasons_stand_in_their_order():
    rng = np.random.default_rng(1)
    found = compare(side(hidden(), 0, rng), side(hidden(0.6), 0, rng), samples=20)
    part = next(p for p in found.parts if p.role == CORE)
    assert part.conclusion == "not counted"
    assert "load, statistic, settled, flow or mount?" in part.because
    assert "K/W" in part.because


@pytest.mark.parametrize(
    ("kinds", "counted"), [(("mean", "mean"), True), (("highest", "highest"), True), (("highest", "mean"), False)]
)
def test_unlike_figures_are_not_subtracted(kinds, counted):
    rng = np.random.default_rng(1)
    sides = [side({CORE: hidden()[CORE]}, 0, rng, statistic=kind) for kind in kinds]
    (part,) = compare(*sides, samples=20).parts
    assert (part.conclusion != "not counted") is counted


def test_what_was_changed_on_purpose_is_no_inconsistency():
    raw = write_object(recipe())
    paste = next(part for part in raw["parts"] if part["id"] == "paste-processor")
    paste["resistance_mm2k_w"] = 40
    changed = read_object(raw)
    rng = np.random.default_rng(1)
    values = hidden()
    hotter = values | {CORE: values[CORE] + 15}
    found = compare(side(values, 0, rng), side(hotter, 0, rng, build=changed), samples=20)
    assert [item.role for item in found.inconsistent] == []


@pytest.mark.parametrize(("change", "differs"), [(0.149, False), (0.17, True)])
def test_from_fifteen_per_cent_on(change, differs):
    values = {role: v[:1] * 0 + v[0] for role, v in hidden().items()}
    drop = values[CORE] - values[HOT]
    exact = values | {CORE: values[HOT] + drop * (1 + change)}
    sides = [
        RunSide("run", recipe(), "both", RunRoom(24.0), [Measured(r, float(v[0]), 0.05) for r, v in run.items()], WATTS)
        for run in (values, exact)
    ]
    found = {(item.role, item.over) for item in compare(*sides, samples=20).inconsistent}
    assert ((CORE, "Loop A coolant, hottest") in found) is differs
