"""Random air networks and loops: mass, pressure and energy close, nothing is NaN, a batch equals its singles."""

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from machines import random_air, random_loop

from krill.components.radiator_table import AIR_HEAT_CAPACITY
from krill.document.reading import read_object
from krill.networks.blocks import STILL_AIR_FADE
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of

MANY = settings(max_examples=40, deadline=None, suppress_health_check=list(HealthCheck))


def solved(raw, samples=0):
    build = read_object(raw)
    return solve_cases(build, cases_of(build, ["full"], None), samples)


def closes(flow, solution, draught, scale):
    """Mass at every free node and pressure along every edge."""
    balance = flow.graph.incidence @ solution.mass_flow[0]
    assert np.max(np.abs(balance), initial=0.0) < 1e-8 * scale
    head, tail = solution.pressure[0, flow.graph.head], solution.pressure[0, flow.graph.tail]
    lifted = solution.drop[0] + (0.0 if draught is None else draught[0])
    assert tail - head == pytest.approx(lifted, abs=1e-6 * max(np.max(np.abs(solution.drop)), 1.0))


def energy(found):
    """Watts that leave by air and walls, against watts made; W."""
    flow, T = found.structure.air, found.solution.temperature[0]
    stream = found.solution.air.mass_flow[0] * AIR_HEAT_CAPACITY
    outside = set(found.network.pattern.given.tolist())
    mixed = {item.node for item in found.structure.mixed}
    total = 0.0
    for edge, C in enumerate(stream):
        tail, head, own = flow.tail_nodes[edge], flow.head_nodes[edge], flow.active_nodes[edge]
        outlet = T[own] if own >= 0 else T[tail if C >= 0 else head]
        still = found.network.pattern.standing[-1][edge] / (
            1.0 + STILL_AIR_FADE * C**2
        )  # what standing air still carries
        for end, other in ((head, tail), (tail, head)):
            if end in outside:
                total += still * (T[own if own >= 0 else other] - T[end])
        if (head if C >= 0 else tail) in outside | mixed:
            total += abs(C) * outlet
        if (tail if C >= 0 else head) in outside | mixed:
            total -= abs(C) * T[tail if C >= 0 else head]
    pattern = found.network.pattern
    outer = pattern.network.links.outer.tolist()  # walls, and what stands still in the outside air
    total += sum(float(found.link_heat[0, link]) for link, node in enumerate(outer) if node in outside)
    power = found.solution.power[0].copy()
    power[pattern.given] = 0.0
    return total, power.sum()


@MANY
@given(random_air())
def test_random_air_closes(raw):
    found = solved(raw)
    assert np.all(np.isfinite(found.solution.temperature))
    closes(
        found.structure.air,
        found.solution.air,
        found.network.draught(found.solution.temperature),
        found.network.air_model.scale,
    )
    left, made = energy(found)
    assert left == pytest.approx(made, rel=1e-5, abs=2e-3)


@MANY
@given(random_loop())
def test_random_loops_close(raw):
    found = solved(raw)
    assert np.all(np.isfinite(found.solution.temperature))
    closes(found.structure.coolant, found.solution.coolant, None, found.network.coolant_model.scale)
    left, made = energy(found)
    assert left == pytest.approx(made, rel=1e-5, abs=2e-3)


@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
@given(random_loop())
def test_a_batch_equals_its_singles(raw):
    found = solved(raw, samples=30)
    draws = {a: v for a, v in found.table.draws(1, 30).items()}
    build = read_object(raw)
    for row in (0, 7, 29):
        alone = solve_cases(build, cases_of(build, ["full"], None), 0, 1, {a: float(v[row]) for a, v in draws.items()})
        assert found.solution.temperature[row + 1] == pytest.approx(alone.solution.temperature[0], abs=2e-3)
