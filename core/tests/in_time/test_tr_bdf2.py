"""The step in time against closed forms: lumps, ladders, ramps, periodic loads, slabs, a falling flux; its order, its error."""

from itertools import pairwise
from math import erfc, exp, log2, pi, sqrt

import numpy as np
import pytest

from krill.networks.heat import HeatNetwork
from krill.networks.laws import LinkPattern, PowerLaw
from krill.networks.tr_bdf2 import Driving, time_step

NO_LINKS = LinkPattern(np.empty(0, dtype=np.intp), np.empty(0, dtype=np.intp))


def ladder(conductances, given=(0,), links=()):
    """Nodes in a row, node 0 given: W/K between each and the next; matrix entries as the pattern wants them."""
    n = len(conductances) + 1
    entries = []
    for at, g in enumerate(conductances):
        entries += [(at, at, -g), (at, at + 1, g), (at + 1, at + 1, -g), (at + 1, at, g)]
    rows, columns, values = (np.array(column) for column in zip(*entries, strict=True)) if entries else ([], [], [])
    inner, outer = (np.array(ends, dtype=np.intp) for ends in zip(*links, strict=True)) if links else (None, None)
    pattern = NO_LINKS if inner is None else LinkPattern(inner, outer)
    names = tuple(f"n{i}" for i in range(n))
    network = HeatNetwork(
        names,
        np.asarray(rows, dtype=np.intp),
        np.asarray(columns, dtype=np.intp),
        np.array(given, dtype=np.intp),
        pattern,
    )
    return network, network.matrix(np.asarray(values, dtype=float)[None, :])


def marched(network, matrix, C, T, power, until, steps, laws=()):
    """Equal steps; ``power`` gives watts (and given temperatures) at a time, (node,)."""
    T, C = np.array(T, dtype=float)[None, :], np.array(C, dtype=float)[None, :]
    h = until / steps
    for at in range(steps):
        J, p = network.linear(T, matrix, laws)
        start, end = (np.array(power(t), dtype=float)[None, :] for t in (at * h, (at + 1) * h))
        for forced in (start, end):
            forced += np.where(np.isin(np.arange(T.shape[1]), network.held), 0.0, p)
        T = time_step(network, C, T, h, Driving(J, start, end, {}, {})).end
    return T[0]


def test_one_lump_follows_its_exponential(case):
    """R01, with steps of a 400th of its constant; and far beyond it a step lands on the settled value (L-stable)."""
    for point in case("R01").points:
        p = point["in"]
        network, matrix = ladder([1 / p["R_K_W"]])
        told = lambda t, p=p: [p["T_amb_C"], p["P_W"]]  # noqa: E731
        C = [0.0, p["C_J_K"]]
        steps = max(int(400 * p["t_s"] / (p["R_K_W"] * p["C_J_K"])), 1)
        if p["t_s"]:
            found = marched(network, matrix, C, [p["T_amb_C"]] * 2, told, p["t_s"], steps)
            assert found[1] == pytest.approx(point["out"]["T_C"], abs=1e-4)
        settled = p["T_amb_C"] + p["P_W"] * p["R_K_W"]
        leap = marched(network, matrix, C, [p["T_amb_C"]] * 2, told, 1e11, 1)
        assert leap[1] == pytest.approx(settled, abs=1e-4)


def test_a_ladder_of_two_is_its_closed_form(case):
    """R05."""
    for point in case("R05").points:
        p, out = point["in"], point["out"]
        network, matrix = ladder([1 / p["R2"], 1 / p["R1"]])
        for t in (5, 50, 500):
            found = marched(network, matrix, [0, p["C2"], p["C1"]], [0, 0, 0], lambda _: [0, 0, 1.0], t, 1200)
            assert found[2] == pytest.approx(out[f"Zth_t{t}"], abs=2e-6)


def test_a_periodic_load_swings_between_its_settled_peak_and_valley(case):
    """R06, brought there by repetition."""
    p, out = case("R06").points[0]["in"], case("R06").points[0]["out"]
    network, matrix = ladder([1 / p["R_K_W"]])
    C, T = [0, p["tau_s"] / p["R_K_W"]], np.array([0.0, p["P_on_W"] * p["R_K_W"] * p["duty"]])
    on = p["duty"] * p["period_s"]
    for _ in range(40):
        valley = T[1]
        T = marched(network, matrix, C, T, lambda _: [0, p["P_on_W"]], on, 60)
        peak = T[1]
        T = marched(network, matrix, C, T, lambda _: [0, 0], p["period_s"] - on, 60)
    assert peak == pytest.approx(out["dT_max_K"], abs=1e-4)
    assert valley == pytest.approx(out["dT_min_K"], abs=1e-4)


def test_a_ramp_lags_by_its_constant():
    """Watts that rise evenly: T = R a (t - tau (1 - e^(-t/tau))), closed form; exact but for the start's transient."""
    network, matrix = ladder([1 / 0.4])
    tau, a, t = 0.4 * 250, 0.3, 180.0
    found = marched(network, matrix, [0, 250], [0, 0], lambda s: [0, a * s], t, 900)
    assert found[1] == pytest.approx(0.4 * a * (t - tau * (1 - exp(-t / tau))), abs=1e-5)


def test_a_room_that_drifts_is_followed():
    """A given temperature that rises evenly: the lump lags by tau in the end."""
    network, matrix = ladder([2.0])
    found = marched(network, matrix, [0, 100], [20, 20], lambda s: [20 + 0.01 * s, 0], 1000.0, 500)
    assert found == pytest.approx([30.0, 30.0 - 0.01 * 50 * (1 - exp(-20))], abs=1e-5)


def test_cooling_by_a_flux_that_falls_with_its_power(case):
    """R10: dT' = -a dT^1.25, a law that bends: linear at each step's start, of the second order all the same."""
    points = case("R10").points
    fixed = case("R10").points[0]["in"]
    network, matrix = ladder([0.0], links=((1, 0),))
    laws = [PowerLaw(np.array([fixed["a_1_s_K025"] * 100.0]), 0.25, 1.0)]
    for point in points:
        t, exact = point["in"]["t_s"], point["out"]["dT_K"]
        coarse, fine = (
            marched(network, matrix, [0, 100.0], [0, point["in"]["dT0_K"]], lambda _: [0, 0], t, steps, laws)[1]
            for steps in (200, 400)
        )
        assert fine == pytest.approx(exact, abs=4e-4)
        assert 3.0 < (coarse - exact) / (fine - exact) < 5.0


@pytest.mark.parametrize("of", ["smooth load", "ladder"])
def test_the_order_is_two(of):
    """Halved steps leave a quarter of the error: order 2 ± 0.1, measured on a load that is smooth in time."""
    network, matrix = ladder([0.5, 2.0])
    C, w = [0, 80.0, 30.0], 0.02

    def told(t):
        return [20.0, 5.0 * np.cos(w * t) if of == "smooth load" else 0.0, 0.0]

    start = [20, 20, 20] if of == "smooth load" else [20, 60, 45]
    exact = marched(network, matrix, C, start, told, 200.0, 2000)
    errors = [abs(marched(network, matrix, C, start, told, 200.0, steps) - exact).max() for steps in (50, 100, 200)]
    orders = [log2(a / b) for a, b in pairwise(errors)]
    assert orders == pytest.approx([2, 2], abs=0.1)


def slab(cells, thickness, k, rho_c, film, area=1.0):
    """A slab in cells between an insulated face (last) and a face with a film to node 0."""
    dx = thickness / cells
    first = 1 / (1 / (film * area) + dx / 2 / (k * area))
    return ladder([first, *[k * area / dx] * (cells - 1)]), [0.0, *[rho_c * area * dx] * cells]


def test_a_slab_cools_by_its_fourier_series():
    """One face insulated, the other held: T/T0 = sum 4/(n pi) sin(n pi/2) ... (Carslaw & Jaeger 1959), closed form."""
    L, k, rho_c, cells = 0.02, 1.0, 2e6, 120
    (network, matrix), C = slab(cells, L, k, rho_c, 1e9)
    alpha = k / rho_c
    for fourier in (0.05, 0.2, 1.0):
        t = fourier * L**2 / alpha
        found = marched(network, matrix, C, [0.0, *[100.0] * cells], lambda _: np.zeros(cells + 1), t, 200)
        x = L - (cells - 0.5) * L / cells  # of the innermost cell from the insulated face
        series = sum(
            4
            / ((2 * n + 1) * pi)
            * (-1) ** n
            * exp(-((2 * n + 1) ** 2) * pi**2 / 4 * fourier)
            * np.cos((2 * n + 1) * pi / 2 * x / L)
            for n in range(60)
        )
        assert found[-1] == pytest.approx(100 * series, abs=0.03)


def test_a_thick_wall_warms_as_a_half_space():
    """Its face held: T = erfc(x / (2 sqrt(alpha t))) (Carslaw & Jaeger 1959), closed form."""
    L, k, rho_c, cells, t = 0.2, 0.5, 1e6, 250, 1000.0
    (network, matrix), C = slab(cells, L, k, rho_c, 1e9)
    found = marched(network, matrix, C, [50.0, *[0.0] * cells], lambda _: [50.0, *[0.0] * cells], t, 150)
    for cell in (6, 25, 50):
        x = (cell - 0.5) * L / cells
        assert found[cell] == pytest.approx(50 * erfc(x / (2 * sqrt(k / rho_c * t))), abs=0.02)


def test_mixed_cells_in_a_row_carry_a_front_as_their_closed_form():
    """Coolant through equal cells (tanks in series): 1 - e^(-s) sum s^k/k!, closed form; energy arrives complete."""
    n, flow, C = 6, 40.0, 100.0
    rows = np.array([[i, i, i, i - 1] for i in range(1, n + 1)]).reshape(-1, 2)
    values = np.tile([-flow, flow], n)
    network = HeatNetwork(
        tuple(f"c{i}" for i in range(n + 1)), rows[:, 0], rows[:, 1], np.array([0], dtype=np.intp), NO_LINKS
    )
    matrix = network.matrix(values[None, :])
    s = 5.0
    t = s * C / flow
    found = marched(network, matrix, [0.0, *[C] * n], [1.0, *[0.0] * n], lambda _: [1.0, *[0.0] * n], t, 500)
    term, total = 1.0, 0.0
    for k in range(n):
        total += term
        assert found[k + 1] == pytest.approx(1 - exp(-s) * total, abs=1e-4)
        term *= s / (k + 1)


def test_the_error_that_is_told_is_of_the_third_order_and_near_the_true_one():
    network, matrix = ladder([0.5, 2.0])
    C, T = np.array([[0, 80.0, 30.0]]), np.array([[20.0, 60.0, 45.0]])
    forced = np.array([[20.0, 0.0, 0.0]])
    told, true = [], []
    for h in (4.0, 2.0, 1.0):
        step = time_step(network, C, T, h, Driving(matrix, forced, forced, {}, {}))
        exact = marched(network, matrix, C[0], T[0], lambda _: forced[0], h, 400)
        told.append(abs(step.error).max())
        true.append(abs(step.end[0] - exact).max())
    assert [log2(a / b) for a, b in pairwise(told)] == pytest.approx([3, 3], abs=0.35)
    assert all(0.3 < a / b < 3 for a, b in zip(told, true, strict=True))


def test_rows_of_a_batch_do_not_see_each_other():
    network, matrix = ladder([0.5, 2.0])
    T = np.array([[20.0, 60.0, 45.0], [20.0, 25.0, 30.0]])
    C = np.array([[0, 80.0, 30.0], [0, 40.0, 90.0]])
    forced = np.array([[20.0, 0.0, 3.0], [20.0, 1.0, 0.0]])
    both = time_step(network, C, T, 5.0, Driving(np.repeat(matrix, 2, axis=1), forced, forced, {}, {}))
    for row in range(2):
        one = slice(row, row + 1)
        alone = time_step(network, C[one], T[one], 5.0, Driving(matrix, forced[one], forced[one], {}, {}))
        assert both.end[row] == pytest.approx(alone.end[0], abs=1e-12)
        assert both.error[row] == pytest.approx(alone.error[0], abs=1e-12)


def test_many_rows_are_eliminated_to_the_same_as_a_few():
    network, matrix = ladder([0.5, 2.0, 1.0])
    rng = np.random.default_rng(1)
    T = rng.uniform(20, 80, (40, 4))
    forced = np.column_stack([np.full(40, 20.0), rng.uniform(0, 5, (40, 3))])
    C = np.array([[0, 80.0, 30.0, 10.0]])
    many = time_step(network, C, T, 7.0, Driving(np.repeat(matrix, 40, axis=1), forced, forced, {}, {})).end
    for row in (0, 17, 39):
        one = slice(row, row + 1)
        alone = time_step(network, C, T[one], 7.0, Driving(matrix, forced[one], forced[one], {}, {})).end
        assert many[row] == pytest.approx(alone[0], abs=1e-9)


class _OneLimit:
    """Holds node 2 at a limit by the watts of one source."""

    def __init__(self, limit_c):
        self.limit_c = limit_c

    def concerns(self, T, kept):
        return bool((T[:, 2] > self.limit_c).any() or (kept["s"] < 1).any())

    def kept(self, before, T, warmed):
        room = (self.limit_c - T[:, 2]) / warmed["s"][:, 2]
        return {"s": np.clip(before["s"] + room, 0.0, 1.0)}


def test_a_source_that_is_held_keeps_its_place_at_the_limit_and_settles_where_the_heat_goes():
    network, matrix = ladder([0.5, 2.0])
    watts = np.array([[0.0, 0.0, 40.0]])
    driving = {"kept": {"s": np.ones(1)}, "watts": {"s": watts}, "holds": _OneLimit(70.0)}
    T, C = np.full((1, 3), 20.0), np.array([[0, 80.0, 30.0]])
    hottest = 0.0
    for _ in range(400):
        start = np.array([[20.0, 0.0, 40.0]]) - (1 - driving["kept"]["s"])[:, None] * watts
        step = time_step(network, C, T, 5.0, Driving(matrix, start, start, **driving))
        T, driving["kept"] = step.end, step.kept
        hottest = max(hottest, step.stage[0, 2], step.end[0, 2])
    assert hottest == pytest.approx(70.0, abs=1e-9)
    settled = (70.0 - 20.0) / (1 / 0.5 + 1 / 2.0)  # W through both in series
    assert driving["kept"]["s"][0] == pytest.approx(settled / 40.0, abs=1e-9)
