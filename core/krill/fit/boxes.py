"""Outlines as boxes in the housing: where their corners are, and how far two of them, or one and a wall, overlap.

A box is turned about x, then y, then z. Two overlap by the least distance that parts them, by the separating axes of two
oriented boxes (Gottschalk, Lin & Manocha 1996): the faces of both and the cross products of their edges.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Indices = NDArray[np.intp]

#: pairs that are held against each other at once: some ten megabytes
_AT_ONCE: Final = 10_000
#: edges that are nearly parallel make no axis of their own
_PARALLEL: Final = 1e-9


def rotation(degrees: Array) -> Array:
    """Rotation matrices (box, 3, 3) of turns about x, then y, then z, degrees (box, 3)."""
    angles = np.deg2rad(np.asarray(degrees, dtype=np.float64))
    c, s = np.cos(angles), np.sin(angles)
    zero, one = np.zeros(len(angles)), np.ones(len(angles))
    x = _matrix([one, zero, zero], [zero, c[:, 0], -s[:, 0]], [zero, s[:, 0], c[:, 0]])
    y = _matrix([c[:, 1], zero, s[:, 1]], [zero, one, zero], [-s[:, 1], zero, c[:, 1]])
    z = _matrix([c[:, 2], -s[:, 2], zero], [s[:, 2], c[:, 2], zero], [zero, zero, one])
    return np.asarray(z @ y @ x)


def _matrix(*rows: list[Array]) -> Array:
    return np.stack([np.stack(row, axis=-1) for row in rows], axis=-2)


def corners(middle: Array, half: Array, turned: Array) -> Array:
    """Corners (box, 8, 3) of boxes by their middles and half sizes, both (box, 3), and rotations (box, 3, 3)."""
    signs = np.array([[i, j, k] for i in (-1, 1) for j in (-1, 1) for k in (-1, 1)], dtype=np.float64)
    local = signs[None] * half[:, None]
    return np.asarray(middle[:, None] + local @ np.swapaxes(turned, 1, 2))


def reach(half: Array, turned: Array) -> Array:
    """Half sizes (box, 3) of the boxes along the housing's axes that hold them."""
    return np.asarray(np.abs(turned) @ half[..., None])[..., 0]


def overlaps(middle: Array, half: Array, turned: Array, within: float) -> tuple[Indices, Indices, Array]:
    """(first, second, how far they overlap) of every two boxes whose holding boxes come as near as ``within``, first < second.

    Positive is the least way that parts the two, negative a free way: the widest gap that a face or an edge shows, at most
    the true distance. ``middle`` and ``half`` (box, 3), ``turned`` (box, 3, 3), all in one unit.
    """
    extent = reach(half, turned)
    low, high = middle - extent, middle + extent + within
    near = np.ones((len(middle), len(middle)), dtype=bool)
    for axis in range(3):
        near &= (low[:, None, axis] < high[None, :, axis]) & (low[None, :, axis] < high[:, None, axis])
    first, second = (np.asarray(side, dtype=np.intp) for side in np.nonzero(np.triu(near, 1)))
    found = [
        _pairs(middle, half, turned, first[at : at + _AT_ONCE], second[at : at + _AT_ONCE])
        for at in range(0, len(first), _AT_ONCE)
    ]
    return first, second, np.concatenate(found) if found else np.zeros(0)


def _pairs(middle: Array, half: Array, turned: Array, first: Indices, second: Indices) -> Array:
    a, b = np.swapaxes(turned, 1, 2)[first], np.swapaxes(turned, 1, 2)[second]  # rows are the axes of each box
    crossed = np.cross(a[:, :, None], b[:, None, :]).reshape(len(first), 9, 3)
    length = np.linalg.norm(crossed, axis=-1)
    real = length > _PARALLEL
    axes = np.concatenate([a, b, crossed / np.where(real, length, 1.0)[..., None]], axis=1)
    apart = np.abs(np.einsum("pak,pk->pa", axes, (middle[second] - middle[first])))
    radius = _radius(axes, a, half[first]) + _radius(axes, b, half[second])
    shared = radius - apart
    shared[:, 6:] = np.where(real, shared[:, 6:], np.inf)
    return np.asarray(shared.min(axis=1))


def _radius(axes: Array, own: Array, half: Array) -> Array:
    return np.asarray((np.abs(np.einsum("pak,pjk->paj", axes, own)) * half[:, None]).sum(axis=-1))


def sticks_out(middle: Array, half: Array, turned: Array, inside: Array) -> Array:
    """How far each box stands out of a housing of size ``inside`` (3,) at the origin, (box, 6): left, right, front, back,
    bottom, top; negative is the room that is left before that face."""
    extent = reach(half, turned)
    low, high = middle - extent, middle + extent
    return np.stack([-low, high - inside], axis=-1).reshape(len(middle), 6)


def free_way(start: Array, way: Array, middle: Array, half: Array, turned: Array) -> Array:
    """How far one gets from a point (3,) along a way (3,) of length 1 before each box, (box,); inf past it, 0 inside it."""
    origin = np.einsum("bi,bij->bj", start[None] - middle, turned)
    along = np.einsum("i,bij->bj", way, turned)
    with np.errstate(divide="ignore", invalid="ignore"):
        one, two = (-half - origin) / along, (half - origin) / along
    still = np.abs(along) < _PARALLEL
    within = np.abs(origin) <= half
    enters = np.where(still, np.where(within, -np.inf, np.inf), np.minimum(one, two)).max(axis=1)
    leaves = np.where(still, np.where(within, np.inf, -np.inf), np.maximum(one, two)).min(axis=1)
    return np.where((leaves >= enters) & (leaves > 0.0), np.maximum(enters, 0.0), np.inf)
