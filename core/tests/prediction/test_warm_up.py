"""Modes of a build's network: they add up, and follow the same network in time."""

import numpy as np
import pytest
from strategies import recipe

from krill.prediction.questions.warm_up import warm_up
from krill.simulated_bench.bench import BenchPlan, run_bench


@pytest.fixture(scope="module")
def ways():
    build = recipe()
    return warm_up(build, next(w for w in build.workloads if w.id == "both"), 24.0)


def test_modes_carry_the_whole_step_and_die_away(ways):
    T = ways.solved.solution.temperature
    assert ways.missing.sum(axis=1).real == pytest.approx(T[0] - T[1], abs=1e-6)
    assert np.all(ways.rates.real < 0)


def test_every_node_follows_the_room_in_the_end(ways):
    """Nearly: what the laws give for a kelvin of room is a kelvin, less what thinner coolant and air change."""
    given = ways.solved.network.pattern.given
    followed = np.delete(ways.of_room.sum(axis=1).real, given)
    assert followed == pytest.approx(np.ones_like(followed), abs=0.1)


def test_the_modes_follow_the_bench(ways):
    """The bench integrates the whole network with scipy's BDF; the modes are linear about its end."""
    plan = BenchPlan("both", 24.0, 40, lead_in_min=20, after_min=0, step_s=10, room_drift_k=0, hidden_spread=0)
    log = run_bench(recipe(), plan)
    under_load = log.time_s >= 60 * plan.lead_in_min
    t = log.time_s[under_load] - log.time_s[under_load][0]
    for name, role in log.roles.items():
        place, _, statistic = role.rpartition("/")
        if statistic == "temperature":
            way = ways.of_node(ways.solved.structure.node_of[place])
            missing = (np.exp(way.rates * t[:, None]) @ way.missing).real
            rise = abs(way.missing.sum().real)
            assert log.channels[name][under_load] == pytest.approx(
                log.settled_c[place] - missing, abs=0.7 + 0.05 * rise
            )
