"""Edges of the flow networks: slopes against finite differences, smooth at rest, affinity laws at every speed."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from krill.components.edges import (
    Curve,
    Medium,
    MoverEdges,
    PipeEdges,
    PowerEdges,
    curve_from_parabola,
    curve_from_points,
    one_row,
)


def col(*values):
    return np.array([values], dtype=float)


MEDIUM = Medium(col(995.0), col(8e-4))
COLUMN = np.array([0])
POINTS = curve_from_points(np.array([0, 4, 8, 12, 15]) / 6e4, np.array([52, 46, 35, 18, 0]) * 1e3)
GROUPS = {
    "pipe": PipeEdges(COLUMN, col(2.0), col(0.01), col(1.5e-6), col(4.0)),
    "power": PowerEdges(COLUMN, col(1e7), col(3e11), col(1.75), col(994.0), col(7.2e-4)),
    "pump": MoverEdges(COLUMN, POINTS, col(0.7), col(1.0), col(1.0), col(994.0), col(0.0)),
    "parabola": MoverEdges(COLUMN, curve_from_parabola(3e4, 2e-4), col(0.6), col(1.1), col(0.9), col(994.0), col(0.0)),
}


@pytest.mark.parametrize("name", GROUPS)
@given(flow=st.floats(-0.3, 0.4).filter(lambda m: abs(m) > 1e-3))
def test_slopes_are_the_derivatives(name, flow):
    group, step = GROUPS[name], 1e-6
    _, slope = group.at(MEDIUM)(col(flow))
    ahead, behind = (float(group.at(MEDIUM)(col(flow + d))[0][0, 0]) for d in (step, -step))
    numeric = (ahead - behind) / (2 * step)
    assert float(slope[0, 0]) == pytest.approx(numeric, rel=2e-3, abs=2.0)


@pytest.mark.parametrize("name", GROUPS)
def test_drops_rise_with_flow_and_slopes_are_positive_at_rest(name):
    flows = np.linspace(-0.4, 0.6, 400)
    medium = Medium(np.full((400, 1), 995.0), np.full((400, 1), 8e-4))
    drop, slope = GROUPS[name].at(medium)(flows[:, None])
    assert np.all(np.diff(drop[:, 0]) >= -1e-6)
    assert np.all(slope[:, 0] >= 0)


@given(st.floats(0.05, 1.0), st.floats(-0.5, 2.0))
def test_affinity_laws_hold_on_the_whole_extended_curve(speed, share):
    flow = share * float(POINTS.free_flow[0]) * 995.0
    rated = MoverEdges(COLUMN, POINTS, col(1.0), col(1.0), col(1.0), col(995.0), col(0.0))
    slower = MoverEdges(COLUMN, POINTS, col(speed), col(1.0), col(1.0), col(995.0), col(0.0))
    at_rated = float(rated.at(MEDIUM)(col(flow))[0][0, 0])
    scaled = float(slower.at(MEDIUM)(col(speed * flow))[0][0, 0])
    assert scaled == pytest.approx(speed**2 * at_rated, rel=1e-9, abs=1e-6)


def test_a_curve_passes_its_points_and_goes_on_beyond_them():
    head, _ = POINTS.head(col(8 / 6e4))
    assert float(head[0, 0]) == pytest.approx(35e3)
    backwards, overrun = (float(POINTS.head(col(q))[0][0, 0]) for q in (-2 / 6e4, 20 / 6e4))
    assert backwards > 52e3
    assert overrun < 0


def test_a_stall_dip_is_solved_on_its_falling_envelope():
    curve = curve_from_points(np.array([0.0, 20, 40, 60, 80]) / 3600, np.array([16.0, 11, 12.5, 6, 0]))
    heads = curve.head(np.linspace(0, 80 / 3600, 200)[:, None])[0][:, 0]
    assert np.all(np.diff(heads) <= 1e-9)
    assert heads[50] >= 12.4


def test_a_curve_that_ends_above_zero_is_led_down_to_it():
    curve = curve_from_points(np.array([1.0, 2.0, 3.0]), np.array([9.0, 8.0, 6.0]))
    assert float(curve.free_flow[0]) == pytest.approx(6.0)
    assert float(curve.head(col(0.0))[0][0, 0]) == pytest.approx(9.0)


def test_curves_of_unlike_length_stand_side_by_side():
    both = Curve.stack([POINTS, curve_from_parabola(3e4, 2e-4)])
    flow = np.array([[8 / 6e4, 1e-4]])
    assert both.head(flow)[0][0] == pytest.approx([35e3, 3e4 * 0.75])


def test_a_stopped_mover_only_resists():
    still = MoverEdges(COLUMN, POINTS, col(0.0), col(1.0), col(1.0), col(995.0), col(0.0))
    drop, _ = still.at(MEDIUM)(col(0.1))
    assert float(drop[0, 0]) > 0


def test_one_row_of_a_batch_is_that_sample():
    batch = PowerEdges(
        COLUMN,
        np.zeros((3, 1)),
        np.array([[1e11], [2e11], [3e11]]),
        np.full((3, 1), 2.0),
        col(995.0),
        col(7.2e-4),
    )
    single = one_row(batch, 1)
    assert float(single.at(MEDIUM)(col(0.05))[0][0, 0]) == pytest.approx(2e11 * (0.05 / 995) ** 2)
