"""The parts that have a place, as boxes side by side in arrays."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.part_base import Face, Part
from krill.document.parts import AnyPart
from krill.fit.boxes import rotation
from krill.fit.extents import Extent, extent_of

Array = NDArray[np.float64]

#: axis and side of a face
SIDES: Final[dict[Face, tuple[int, int]]] = {
    "left": (0, -1),
    "right": (0, 1),
    "front": (1, -1),
    "back": (1, 1),
    "bottom": (2, -1),
    "top": (2, 1),
}
#: a board stands on a face where its underside looks at it: cosine of how far it may lean
UNDERSIDE: Final = 0.9


@dataclass(frozen=True)
class PlacedBoxes:
    """Middles and half sizes (box, 3), mm, rotations (box, 3, 3), and how far each side may be off (box,), mm."""

    parts: list[AnyPart]
    extents: list[Extent]
    middle: Array
    half: Array
    turned: Array
    doubt: Array

    def local(self, points: Array, at: list[int] | None = None) -> Array:
        """Points (point, 3) of the housing in the own axes of each box, or of those ``at``, from its middle, (box, point, 3)."""
        which = slice(None) if at is None else at
        return np.asarray((points[None] - self.middle[which][:, None]) @ self.turned[which])

    def stands_on(self, at: int, face: Face) -> bool:
        """Whether the underside of a box looks at a face of the housing."""
        axis, side = SIDES[face]
        return float(-self.turned[at][axis, 2]) * side > UNDERSIDE

    def is_board(self) -> NDArray[np.bool_]:
        """Which are boards or cards: their boxes hold the air between their tallest parts as well."""
        return np.array([on_board(extent) for extent in self.extents], dtype=bool)


def on_board(extent: Extent) -> bool:
    """Whether an outline is that of a board or a card."""
    return extent.body is not None and extent.body.id.startswith(("board_", "card_"))


def boxes_of(build: Build) -> PlacedBoxes:
    """Every part that has both a place and a size."""
    found = [
        (part, extent)
        for part in build.parts
        if part.outline is not None and part.outline.position_mm is not None and (extent := extent_of(part)) is not None
    ]
    parts, extents = [part for part, _ in found], [extent for _, extent in found]
    middle = np.array([_position(part) for part in parts], dtype=np.float64).reshape(-1, 3)
    half = np.array([[side.mm / 2 for side in extent.measures] for extent in extents], dtype=np.float64).reshape(-1, 3)
    turned = rotation(np.array([_turns(part) for part in parts], dtype=np.float64).reshape(-1, 3))
    doubt = np.array([max(side.half_mm for side in extent.measures) / 2 for extent in extents], dtype=np.float64)
    return PlacedBoxes(parts, extents, middle, half, turned, doubt)


def _position(part: Part) -> tuple[float, ...]:
    assert part.outline is not None
    assert part.outline.position_mm is not None
    return tuple(float(v) for v in part.outline.position_mm)


def _turns(part: Part) -> tuple[float, ...]:
    assert part.outline is not None
    return tuple(float(v) for v in part.outline.rotation_deg or (0.0, 0.0, 0.0))
