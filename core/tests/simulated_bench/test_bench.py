"""The simulated bench: repeatable, hidden by seed, and its settled state is the steady solution."""

import numpy as np
import pytest
from strategies import recipe

from krill.networks.states import Case
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.solving import solve_cases
from krill.simulated_bench.bench import BenchPlan, hidden_figures, run_bench


def test_the_same_seed_gives_the_same_log():
    plan = BenchPlan("both", 24.0, load_min=6, step_s=5.0, seed=3)
    assert run_bench(recipe(), plan).csv() == run_bench(recipe(), plan).csv()
    other = BenchPlan("both", 24.0, load_min=6, step_s=5.0, seed=4)
    assert run_bench(recipe(), plan).csv() != run_bench(recipe(), other).csv()


def test_a_long_run_ends_at_the_steady_solution():
    plan = BenchPlan("both", 24.0, load_min=120, after_min=0, step_s=10.0, room_drift_k=0.0, hidden_spread=0.0)
    log = run_bench(recipe(), plan)
    for name, role in log.roles.items():
        place, _, statistic = role.rpartition("/")
        if statistic == "temperature":
            assert np.mean(log.channels[name][-60:]) == pytest.approx(log.settled_c[place], abs=0.35)


def test_hidden_figures_are_drawn_from_the_tolerances_or_set():
    build = recipe()
    hidden = hidden_figures(build, BenchPlan("both", 24.0, seed=2, hidden={"plate-graphics/factor": 1.4}))
    assert hidden["plate-graphics/factor"] == pytest.approx(1.4)
    assert hidden["processor-core/chip_area_mm2"] != pytest.approx(200e-6)
    exact = hidden_figures(build, BenchPlan("both", 24.0, hidden_spread=0.0))
    assert exact["processor-core/chip_area_mm2"] == pytest.approx(200e-6)


def test_every_node_has_a_capacity():
    build = recipe()
    solved = solve_cases(build, [Case(build.workloads[-1], 24.0)])
    C = node_capacities(solved.network)[0]
    assert np.all(C > 0)
    water = sum(C[i] for i, name in enumerate(solved.structure.node_names) if "loop-a" in name or "coolant" in name)
    assert water > 0.9 * 0.9e-3 * 995 * 4000
