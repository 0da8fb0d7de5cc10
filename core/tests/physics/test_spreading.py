"""Spreading: series against published values, against Lee, against a numerical solve, superposition."""

import numpy as np
import pytest
from other_laws.spreading import spreading_lee_maximum, spreading_series
from scipy.sparse import coo_matrix
from scipy.sparse.linalg import spsolve

from krill.physics.spreading import Face, InfluenceTable, influence, shared_table, spreading_lee

PLATE = (0.2, 0.15)


def solved_by_differences(sources, plate, thickness, k, h, cells):
    """Mean temperature over each source with one watt into each of ``sources`` in turn: an own 3-D finite-volume solve.

    Faces must fall on cell borders. Returns kelvins over the air (source, source).
    """
    nx, ny, nz = cells
    dx, dy, dz = plate[0] / nx, plate[1] / ny, thickness / nz
    number = np.arange(nx * ny * nz).reshape(nx, ny, nz)
    rows, columns, values = [], [], []

    def link(first, second, G):
        rows.extend([first, first, second, second])
        columns.extend([first, second, second, first])
        size = np.full(first.shape, G)
        values.extend([size, -size, size, -size])

    link(number[:-1].ravel(), number[1:].ravel(), k * dy * dz / dx)
    link(number[:, :-1].ravel(), number[:, 1:].ravel(), k * dx * dz / dy)
    link(number[:, :, :-1].ravel(), number[:, :, 1:].ravel(), k * dx * dy / dz)
    bottom = number[:, :, -1].ravel()
    rows.append(bottom)
    columns.append(bottom)
    values.append(np.full(bottom.shape, dx * dy / (1 / h + dz / 2 / k)))
    A = coo_matrix((np.concatenate(values), (np.concatenate(rows), np.concatenate(columns)))).tocsc()
    found, masks = [], []
    for face in sources:
        x, y = (np.arange(nx) + 0.5) * dx, (np.arange(ny) + 0.5) * dy
        inside = np.outer(abs(x - face.centre[0]) < face.size[0] / 2, abs(y - face.centre[1]) < face.size[1] / 2)
        masks.append(inside)
    for mask in masks:
        q = np.zeros(nx * ny * nz)
        q[number[:, :, 0][mask]] = 1.0 / mask.sum()
        T = spsolve(A, q)
        surface = T[number[:, :, 0]] + (1.0 / mask.sum()) / (dx * dy) * (dz / 2 / k) * mask
        found.append([surface[other].mean() for other in masks])
    return np.array(found)


def test_centred_sources_are_the_published_series(case):
    """S05: mean by the series within its truncation; Lee's quick form."""
    for point in case("S05").points:
        p, out = point["in"], point["out"]
        plate = (p["plate_x_m"], p["plate_y_m"])
        face = Face((p["source_x_m"], p["source_y_m"]), (plate[0] / 2, plate[1] / 2))
        mean = spreading_series(face, plate, p["t_m"], p["k"], p["h_back"])
        assert mean == pytest.approx(out["Rs_mean_series"], rel=5e-4)
        figures = (face.size[0] * face.size[1], plate[0] * plate[1], p["t_m"], p["k"], p["h_back"])
        assert spreading_lee(*figures) == pytest.approx(out["Rs_mean_Lee"], rel=1e-6)
        assert spreading_lee_maximum(*figures) == pytest.approx(out["Rs_max_Lee"], rel=1e-6)
        assert spreading_lee(*figures) == pytest.approx(mean, rel=0.10)  # the quick form's own claim


def test_sources_off_the_centre_are_the_published_series(case):
    """S06."""
    for point in case("S06").points:
        p, out = point["in"], point["out"]
        face = Face((p["source_x_m"], p["source_y_m"]), (p["centre_x_m"], p["centre_y_m"]))
        mean = spreading_series(face, (p["plate_x_m"], p["plate_y_m"]), p["t_m"], p["k"], p["h_back"])
        assert mean == pytest.approx(out["Rs_mean"], rel=5e-4)


@pytest.mark.slow
def test_two_sources_on_one_base_by_an_own_numerical_solve():
    """Superposition: self and mutual influence against a 3-D finite-volume solve (extrapolated over two grids)."""
    faces = [Face((0.04, 0.03), (0.05, 0.045)), Face((0.02, 0.06), (0.15, 0.09))]
    t, k, h = 0.008, 195.0, 90.0
    plain = t / (k * PLATE[0] * PLATE[1]) + 1 / (h * PLATE[0] * PLATE[1])
    coarse, fine = (solved_by_differences(faces, PLATE, t, k, h, cells) for cells in ((40, 30, 4), (80, 60, 8)))
    by_differences = fine + (fine - coarse) / 3
    by_series = np.array([[float(influence(a, b, PLATE, t, k, h)) for b in faces] for a in faces]) + plain
    assert by_series == pytest.approx(by_differences, rel=4e-3)
    assert by_series[0, 1] == pytest.approx(by_series[1, 0], rel=1e-12)


def test_a_source_over_the_whole_plate_spreads_nothing(case):
    """S07, first row."""
    p = case("S07").points[0]["in"]
    side = p["plate_m"]
    assert spreading_series(Face((side, side), (side / 2, side / 2)), (side, side), p["t_m"], p["k"], p["h"]) < 1e-6


def test_far_apart_sources_are_cooler_than_the_mean():
    near, far = Face((0.02, 0.02), (0.05, 0.075)), Face((0.02, 0.02), (0.19, 0.075))
    assert float(influence(near, far, PLATE, 0.003, 195.0, 60.0)) < 0


def test_the_table_is_the_series():
    """Chebyshev in logarithms over a wide range of film and thickness, against the series at random points."""
    faces = [Face((0.04, 0.03), (0.05, 0.045)), Face((0.02, 0.06), (0.15, 0.09))]
    rng = np.random.default_rng(3)
    film, t, k = rng.uniform(30, 150, 20), rng.uniform(6e-3, 9e-3, 20), rng.uniform(180, 210, 20)
    table = InfluenceTable(faces, PLATE, (float((film / k).min()), float((film / k).max())), (6e-3, 9e-3))
    assert table.covers(film / k, t)
    assert not table.covers(film / k * 3, t)
    R = table(film / k, t, k)
    for i, j in ((0, 0), (0, 1), (1, 1)):
        direct = influence(faces[i], faces[j], PLATE, t, k, film)
        assert R[:, i, j] == pytest.approx(direct, rel=2e-4)


def test_builds_a_little_apart_share_a_table_and_it_holds_to_its_ends():
    faces = (Face((0.03, 0.02), (0.06, 0.075)), Face((0.025, 0.03), (0.14, 0.06)))
    asked = shared_table(faces, PLATE, (0.11, 0.95), (5e-3, 5e-3))
    assert shared_table(faces, PLATE, (0.113, 0.93), (5e-3, 5e-3)) is asked
    assert shared_table(faces, PLATE, (0.11, 0.95), (6e-3, 6e-3)) is not asked
    ratio, t, k = np.array([0.11, 0.3, 0.95]), np.full(3, 5e-3), np.full(3, 180.0)
    assert asked.covers(ratio, t)
    direct = influence(faces[0], faces[1], PLATE, t, k, ratio * k)
    assert asked(ratio, t, k)[:, 0, 1] == pytest.approx(direct, rel=2e-4)


@pytest.mark.parametrize(("better", "factor"), [("k", 1.5), ("t", 1.5)])
def test_a_thicker_or_better_plate_spreads_better(better, factor):
    face, figures = Face((0.03, 0.03), (0.1, 0.075)), {"t": 0.004, "k": 150.0}
    plain = spreading_series(face, PLATE, figures["t"], figures["k"], 60.0)
    figures[better] *= factor
    assert spreading_series(face, PLATE, figures["t"], figures["k"], 60.0) < plain
