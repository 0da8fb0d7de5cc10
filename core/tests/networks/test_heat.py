"""The heat network alone: closed forms in steady state and in time, its Jacobian, conservation."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from krill.networks.heat import HeatNetwork
from krill.networks.laws import BentLaw, FilmLaw, LinkPattern, PowerLaw
from krill.numerics.elimination import Elimination

NOTHING = []


NO_LINKS = LinkPattern(np.array([], dtype=np.intp), np.array([], dtype=np.intp))


def chain(resistances, links=NO_LINKS):
    """Ambient (node 0) - R - node 1 - R - node 2 ...; entries in the pattern's order."""
    rows, columns, entries = [], [], []
    for k, R in enumerate(resistances):
        i, j, G = k, k + 1, 1 / R
        rows += [i, i, j, j]
        columns += [i, j, j, i]
        entries += [-G, G, -G, G]
    names = tuple(f"n{i}" for i in range(len(resistances) + 1))
    network = HeatNetwork(names, np.array(rows), np.array(columns), np.array([0]), links)
    return network, network.matrix(np.array([entries]))


def test_a_ladder_in_time_is_the_published_one(case):
    """R05: two-stage Cauer ladder through the network's own residual."""
    for point in case("R05").points:
        p, out = point["in"], point["out"]
        network, matrix = chain([p["R2"], p["R1"]])  # ambient - R2 - C2 - R1 - C1
        power, C = np.array([[0.0, 0.0, 1.0]]), np.array([1.0, p["C2"], p["C1"]])

        def rate(_, T, network=network, matrix=matrix, power=power, C=C):
            return network.residual(T[None], matrix, power, NOTHING)[0][0] / C

        end = solve_ivp(rate, (0, 500), np.zeros(3), method="BDF", t_eval=[5, 50, 500], rtol=1e-8, atol=1e-10).y[2]
        assert end == pytest.approx([out["Zth_t5"], out["Zth_t50"], out["Zth_t500"]], rel=1e-4)


def test_cooling_by_a_flux_of_power_one_and_a_quarter(case):
    """R10: temperature-dependent link, flux ~ dT^1.25."""
    links = LinkPattern(np.array([1]), np.array([0]))
    network = HeatNetwork(("room", "body"), np.array([], dtype=int), np.array([], dtype=int), np.array([0]), links)
    matrix = network.matrix(np.zeros((1, 0)))
    for point in case("R10").points:
        p = point["in"]
        laws = [PowerLaw(np.array([p["a_1_s_K025"]]), 0.25, 1.0)]

        def rate(_, T, laws=laws):
            return network.residual(T[None], matrix, np.zeros((1, 2)), laws)[0][0]

        start = np.array([0.0, p["dT0_K"]])
        end = solve_ivp(rate, (0, p["t_s"]), start, method="BDF", rtol=1e-9, atol=1e-10).y[1, -1]
        assert end == pytest.approx(point["out"]["dT_K"], rel=2e-4)


@given(st.lists(st.floats(0.01, 5.0), min_size=1, max_size=8), st.floats(0.1, 300.0), st.floats(-10, 40))
def test_a_chain_carries_its_watts_over_the_sum_of_its_resistances(resistances, watts, ambient):
    network, matrix = chain(resistances)
    power = np.zeros((1, len(resistances) + 1))
    power[0, -1], power[0, 0] = watts, ambient
    T, report = network.steady(np.full_like(power, 20.0), matrix, power, NOTHING)
    assert report.settled.all()
    assert T[0, -1] - ambient == pytest.approx(watts * sum(resistances), rel=1e-9)
    assert T[0, 0] == pytest.approx(ambient, rel=0, abs=1e-12 * max(1.0, T[0, -1]))  # rounding of the hottest node


def test_the_jacobian_is_the_derivative_with_bent_links():
    links = LinkPattern(np.array([2, 3, 1]), np.array([1, 2, 0]))
    network, matrix = chain([0.4, 0.7, 0.2], links)
    power, T = np.array([[20.0, 1.0, 2.0, 30.0]]), np.array([[20.0, 30.0, 44.0, 52.0]])
    G = [
        PowerLaw(np.array([1.3]), 0.3, 10.0),
        FilmLaw(lambda inner, outer: 0.2 + 0.01 * inner + 0.02 * outer),
        BentLaw(lambda difference, mean: np.minimum(difference, 4.0 + 0.01 * mean)),
    ]
    _, J = network.residual(T, matrix, power, G)
    for k in range(4):
        step = np.zeros((1, 4))
        step[0, k] = 1e-5
        numeric = (
            network.residual(T + step, matrix, power, G)[0] - network.residual(T - step, matrix, power, G)[0]
        ) / 2e-5
        assert network.dense(J)[0, :, k] == pytest.approx(numeric[0], rel=1e-6, abs=5e-5)  # films: slopes over 1 mK


def test_a_batch_equals_its_singles():
    network, matrix = chain([0.3, 0.6])
    both = np.repeat(matrix, 2, axis=1)
    power = np.array([[20.0, 0.0, 50.0], [30.0, 10.0, 80.0]])
    together, _ = network.steady(np.full((2, 3), 20.0), both, power, NOTHING)
    for row in range(2):
        alone, _ = network.steady(np.full((1, 3), 20.0), matrix, power[row : row + 1], NOTHING)
        assert together[row] == pytest.approx(alone[0])


def test_elimination_over_a_batch_is_the_dense_solve():
    """Random sparse systems with a dominant diagonal: the pattern's elimination against LAPACK."""
    rng = np.random.default_rng(4)
    for n in (3, 9, 30):
        filled = rng.random((n, n)) < 3.5 / n
        filled |= filled.T | np.eye(n, dtype=bool)
        A = np.where(filled, rng.normal(size=(50, n, n)), 0.0) - 3 * n * np.eye(n)
        b = rng.normal(size=(50, n))
        pattern = np.flatnonzero(filled.ravel())
        x = Elimination(n, pattern).solve(A.reshape(50, -1)[:, pattern].T, b.T.copy()).T
        assert x == pytest.approx(np.linalg.solve(A, b[..., None])[..., 0], rel=1e-9, abs=1e-12)


def test_many_samples_equal_few():
    """The batch goes another way to its solution from 24 samples on: the same temperatures."""
    network, matrix = chain([0.4, 0.7, 0.2])
    power = np.array([[20.0, 1.0, 2.0, 30.0]])
    few, _ = network.steady(np.full((1, 4), 20.0), matrix, power, NOTHING)
    rows = 40
    many, _ = network.steady(
        np.full((rows, 4), 20.0), np.repeat(matrix, rows, axis=1), np.repeat(power, rows, 0), NOTHING
    )
    assert many == pytest.approx(np.repeat(few, rows, 0), rel=1e-12)


def test_what_does_not_settle_is_named():
    network, matrix = chain([1.0])
    _, report = network.steady(np.zeros((1, 2)), matrix, np.array([[0.0, np.nan]]), NOTHING)
    assert not report.settled[0]
    assert "'n1'" in network.why_not(report, 0)
