"""Lines with rounded corners: closed forms of an L, a U and a way in space, and the arcs drawn point by point."""

import numpy as np
import pytest

from krill.fit.boxes import free_way, rotation
from krill.fit.polyline import corners_in, length_of, passes, sampled


def points(*corners):
    return np.array(corners, dtype=float)


U = points([0, 0, 0], [0, 80, 0], [50, 80, 0], [50, 0, 0])


def test_ports_of_a_u_stand_two_radii_apart():
    found = corners_in(U)
    assert found.room == pytest.approx([25, 25])
    assert np.rad2deg(found.turn) == pytest.approx([90, 90])
    assert length_of(U, found.room) == pytest.approx(2 * (80 - 25) + np.pi * 25)


def test_a_single_corner_has_its_shorter_leg():
    corner = points([0, 0, 0], [30, 0, 0], [30, 100, 0])
    assert corners_in(corner).room == pytest.approx([30])
    assert corners_in(corner, (10, 0)).room == pytest.approx([20])
    assert corners_in(corner, (0, 90)).room == pytest.approx([10])


def test_a_flat_turn_has_more_room_than_a_sharp_one():
    def room(degrees):
        a = np.deg2rad(degrees)
        return corners_in(points([-100, 0, 0], [0, 0, 0], [100 * np.cos(a), 100 * np.sin(a), 0])).room[0]

    assert room(45) == pytest.approx(100 / np.tan(np.pi / 8))
    assert room(45) > room(90) > room(135)
    assert room(180) == pytest.approx(0, abs=1e-4)


def test_a_corner_that_does_not_turn_leaves_its_leg_to_the_next():
    turns = points([0, 0, 0], [100, 0, 0], [160, 0, 0], [160, 100, 0])
    found = corners_in(turns)
    assert len(found.turn) == 1
    assert found.room == pytest.approx([60])


def test_length_is_that_of_legs_and_arcs_drawn_point_by_point():
    """A way in space, each corner replaced by an arc of its own plane."""
    way = points([0, 0, 0], [120, 0, 0], [120, 90, 30], [40, 160, 30])
    found = corners_in(way)
    radius = np.minimum(found.room, [20, 30])
    drawn = [way[0]]
    for i, (corner, turn, r) in enumerate(zip(found.at, found.turn, radius, strict=True)):
        back, on = (v / np.linalg.norm(v) for v in (way[i] - corner, way[i + 2] - corner))
        cut = r * np.tan(turn / 2)
        start, middle = corner + cut * back, corner + (back + on) / np.linalg.norm(back + on) * r / np.cos(turn / 2)
        normal = np.cross(-back, on) / np.linalg.norm(np.cross(-back, on))
        arm = start - middle
        for a in np.linspace(0, turn, 400):
            drawn.append(middle + arm * np.cos(a) + np.cross(normal, arm) * np.sin(a))
    drawn.append(way[-1])
    drawn = np.array(drawn)
    assert length_of(way, radius) == pytest.approx(np.linalg.norm(np.diff(drawn, axis=0), axis=1).sum(), rel=1e-5)


def test_a_rounded_line_is_never_longer_than_its_corners_nor_shorter_than_the_way_across():
    rng = np.random.default_rng(11)
    for _ in range(200):
        way = rng.uniform(0, 300, (rng.integers(2, 8), 3))
        found = corners_in(way)
        legs = np.linalg.norm(np.diff(way, axis=0), axis=1).sum()
        length = length_of(way, np.minimum(found.room, rng.uniform(0, 80)))
        assert np.linalg.norm(way[-1] - way[0]) - 1e-6 <= length <= legs + 1e-6


def test_repeated_points_are_one():
    twice = points([0, 0, 0], [50, 0, 0], [50, 0, 0], [50, 50, 0])
    assert corners_in(twice).room == pytest.approx([50])


def test_samples_lie_on_the_line_and_close_together():
    found = sampled(U, 7)
    assert np.linalg.norm(np.diff(found, axis=0), axis=1).max() <= 7
    assert all(any(np.allclose(corner, point) for point in found) for corner in U)


def test_a_line_passes_the_boxes_that_its_samples_lie_in():
    """Against points every tenth of a millimetre, on 200 random lines and boxes; along an axis, and just beside a face."""
    rng = np.random.default_rng(7)
    for _ in range(200):
        line, half = rng.uniform(-60, 60, (4, 3)), rng.uniform(2, 30, 3)
        sure = (np.abs(sampled(line, 0.1)) < half - 0.1).all(axis=1).any()
        none = not (np.abs(sampled(line, 0.1)) < half + 0.1).all(axis=1).any()
        found = bool(passes(line[None], half[None])[0])
        assert found or not sure
        assert not (found and none)
    along = points([-50, 0, 0], [50, 0, 0])
    assert passes(along[None], np.array([[10.0, 1, 1]]))[0]
    assert not passes(along[None] + np.array([0, 1.0, 0]), np.array([[10.0, 1, 1]]))[0]
    assert not passes(along[None], np.array([[10.0, -1, 1]]))[0]
    assert not passes(along[None] + np.array([61.0, 0, 0]), np.array([[10.0, 1, 1]]))[0]


def test_free_way_to_boxes():
    """Straight on, beside, behind, inside, and a turned one by its closed form."""
    middle = points([100, 0, 0], [100, 50, 0], [-100, 0, 0], [0, 0, 0], [100, 0, 0])
    half = np.full((5, 3), 10.0)
    turned = rotation(points(*[[0, 0, 0]] * 4, [0, 0, 45]))
    ways = free_way(np.zeros(3), np.array([1.0, 0, 0]), middle, half, turned)
    assert ways == pytest.approx([90, np.inf, np.inf, 0, 100 - 10 * 2**0.5])
