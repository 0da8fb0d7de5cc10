"""A line through corners, rounded at each: its turns, the radius there is room for, its length, points along it.

A corner that turns by an angle a with radius R takes R tan(a/2) of either leg; two corners share the leg between them.
"""

from dataclasses import dataclass
from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: a corner that turns by less is none, rad
_STRAIGHT: Final = 1e-3
#: two corners that lie closer are one, mm
_ONE_MM: Final = 1e-6


@dataclass(frozen=True)
class Corners:
    """Where a line turns (corner, 3), by how much, rad, and the widest radius of its middle line there, mm."""

    at: Array
    turn: Array
    room: Array


def corners_in(points: Array, straight: tuple[float, float] = (0.0, 0.0)) -> Corners:
    """Every turn of a line through points (point, 3), mm; its ends stay straight for so many mm."""
    legs, length = _legs(points)
    if len(legs) < 2:
        return Corners(np.zeros((0, 3)), np.zeros(0), np.zeros(0))
    ways = legs / length[:, None]
    turn = np.arccos(np.clip((ways[:-1] * ways[1:]).sum(axis=1), -1.0, 1.0))
    free = length / 2
    free[0], free[-1] = length[0] - straight[0], length[-1] - straight[1]
    sharp = turn > _STRAIGHT
    # a leg beside a corner that does not turn belongs to the other one
    free[1:-1] = np.where(sharp[:-1] & sharp[1:], free[1:-1], length[1:-1])
    least = np.maximum(np.minimum(free[:-1], free[1:]), 0.0)
    tangent = np.tan(np.minimum(turn, np.pi - 1e-9) / 2)
    room = np.divide(least, tangent, out=np.full(len(turn), np.inf), where=sharp)
    return Corners(_kept(points)[1:-1][sharp], turn[sharp], room[sharp])


def length_of(points: Array, radius: Array) -> float:
    """Length of a line whose turns, as ``corners_in`` tells them, are laid with radii (corner,), mm.

    >>> square = np.array([[0.0, 0, 0], [100, 0, 0], [100, 100, 0]])
    >>> round(length_of(square, np.array([50.0])), 2)  # 50 + a quarter of a circle of 50 + 50
    178.54
    """
    _, legs = _legs(points)
    turn = corners_in(points).turn
    return float(legs.sum() - (radius * (2 * np.tan(np.minimum(turn, np.pi - 1e-9) / 2) - turn)).sum())


def sampled(points: Array, step: float) -> Array:
    """Points along a line, (sample, 3), no further apart than ``step``, its corners among them."""
    kept = _kept(points)
    found = [kept[:1]]
    for a, b in pairwise(kept):
        count = max(int(np.ceil(np.linalg.norm(b - a) / step)), 1)
        found.append(a + (b - a) * np.arange(1, count + 1)[:, None] / count)
    return np.concatenate(found)


def passes(points: Array, half: Array) -> NDArray[np.bool_]:
    """Whether a line passes the inside of boxes, (box,): its points in each box's own axes (box, point, 3), half sizes (box, 3)."""
    start, way = points[:, :-1], np.diff(points, axis=1)
    ends = half[:, None]
    with np.errstate(divide="ignore", invalid="ignore"):
        one, two = (-ends - start) / way, (ends - start) / way
    still, within = way == 0.0, np.abs(start) < ends
    enters = np.where(still, np.where(within, 0.0, np.inf), np.minimum(one, two)).max(axis=2)
    leaves = np.where(still, np.where(within, 1.0, -np.inf), np.maximum(one, two)).min(axis=2)
    return np.asarray((np.maximum(enters, 0.0) < np.minimum(leaves, 1.0)).any(axis=1))


def _kept(points: Array) -> Array:
    """Points without those that repeat the one before."""
    apart = np.linalg.norm(np.diff(points, axis=0), axis=1) > _ONE_MM
    return np.asarray(points[np.concatenate([[True], apart])])


def _legs(points: Array) -> tuple[Array, Array]:
    legs = np.diff(_kept(points), axis=0)
    return legs, np.linalg.norm(legs, axis=1)
