"""A closed body of triangles, put together from rings of corners: skins between rings, plates with holes across them."""

from itertools import pairwise

import mapbox_earcut
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Triangles = NDArray[np.int64]

#: straight runs of a ring are bent by this share of its radius while it is cut: cutting leaves out corners between which it
#: is straight, and the skins that meet there have them
_BENT = 1e-4


class ClosedBody:
    """Rings run counter-clockwise seen from above; corners that two surfaces share are shared, so that it closes."""

    def __init__(self) -> None:
        self._rings: list[Array] = []
        self._count = 0
        self._triangles: list[Triangles] = []

    def ring(self, points: Array) -> range:
        """Corners (corner, 3) more; the numbers they got."""
        first, self._count = self._count, self._count + len(points)
        self._rings.append(points)
        return range(first, self._count)

    def skin(self, rings: list[range], *, out: bool) -> None:
        """Walls between rings of as many corners, from the lowest up, that look away from their middle, or towards it."""
        for low, high in pairwise(rings):
            i = np.arange(len(low), dtype=np.int64)
            j = (i + 1) % len(low)
            a, b = low.start, high.start
            sides = np.concatenate([np.column_stack([a + i, a + j, b + i]), np.column_stack([a + j, b + j, b + i])])
            self._triangles.append(sides if out else sides[:, ::-1])

    def plate(self, outline: range, holes: list[range], *, up: bool) -> None:
        """A flat face inside an outline with holes in it, all in one height, that looks up or down."""
        numbers = np.concatenate([np.array(ring, dtype=np.int64) for ring in (outline, *holes)])
        corners = np.concatenate(self._rings)
        flat = np.concatenate([_bulged(corners[list(ring), :2]) for ring in (outline, *holes)])
        ends = np.cumsum([len(ring) for ring in (outline, *holes)]).astype(np.uint32)
        cut = mapbox_earcut.triangulate_float64(flat, ends).astype(np.int64).reshape(-1, 3)
        a, b, c = (flat[cut[:, i]] for i in range(3))
        area = (b[:, 0] - a[:, 0]) * (c[:, 1] - a[:, 1]) - (b[:, 1] - a[:, 1]) * (c[:, 0] - a[:, 0])
        turned = np.where((area > 0.0)[:, None] == up, cut, cut[:, ::-1])
        self._triangles.append(numbers[turned])

    def mesh(self) -> tuple[Array, Triangles]:
        """Corners (corner, 3) and triangles (triangle, 3)."""
        return np.concatenate(self._rings), np.concatenate(self._triangles)


def _bulged(ring: Array) -> Array:
    """A ring (corner, 2) with every straight run bent outwards a little."""
    arm = ring - ring.mean(axis=0)
    length = np.linalg.norm(arm, axis=1, keepdims=True)
    return np.asarray(ring + _BENT * length.mean() * arm / length)
