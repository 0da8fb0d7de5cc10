"""What must still be reached once the housing is closed: whether a finger, a hand or a tool gets there from the face it is
to be reached from."""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.part_base import Face, ReachedBy
from krill.fit.boxes import reach
from krill.fit.placed_boxes import SIDES, PlacedBoxes

Array = NDArray[np.float64]
ReachSays = Literal["reached", "in the way", "closed"]

#: room across that passes a fingertip, finger and thumb, a hand either way round, a screwdriver; mm (common practice)
PASSES_MM: Final[dict[ReachedBy, tuple[tuple[float, float], ...]]] = {
    "finger": ((15.0, 15.0),),
    "fingers": ((20.0, 20.0),),
    "hand": ((80.0, 60.0), (60.0, 80.0)),
    "screwdriver": ((10.0, 10.0),),
}
#: places that are tried along each side of a part
_TRIED: Final = 13


@dataclass(frozen=True, slots=True)
class Reached:
    """A part that must be reached through a face, by what, and what stands in the way wherever it is tried."""

    part: str
    name: str
    face: Face
    by: ReachedBy
    wants_mm: float
    says: ReachSays
    in_the_way: list[str]


def reached_parts(build: Build, boxes: PlacedBoxes) -> list[Reached]:
    """Every part with a place that somebody must reach."""
    size = reach(boxes.half, boxes.turned)
    low, high = boxes.middle - size, boxes.middle + size
    solid = ~boxes.is_board()
    found = []
    for at, part in enumerate(boxes.parts):
        outline = part.outline
        if outline is None or outline.reached_from is None:
            continue
        face, by = outline.reached_from, outline.reached_by
        in_the_way = [_blocking(low, high, at, face, across, solid) for across in PASSES_MM[by]]
        least = min(in_the_way, key=len)
        closed = face in build.housing.closed_faces
        says: ReachSays = "in the way" if least else "closed" if closed else "reached"
        names = [boxes.parts[i].name or boxes.parts[i].id for i in least]
        found.append(Reached(part.id, part.name or part.id, face, by, max(PASSES_MM[by][0]), says, names))
    return found


def _blocking(
    low: Array, high: Array, at: int, face: Face, across: tuple[float, float], solid: NDArray[np.bool_]
) -> list[int]:
    """Boxes in the way at the freest of the places tried over a part; none where one of them is free."""
    axis, side = SIDES[face]
    flat = [k for k in range(3) if k != axis]
    between = low[:, axis] >= high[at, axis] - 0.1 if side > 0 else high[:, axis] <= low[at, axis] + 0.1
    between = between & solid
    between[at] = False
    tries = [np.linspace(low[at, k], high[at, k], _TRIED) for k in flat]
    grid = np.stack(np.meshgrid(*tries, indexing="ij"), axis=-1).reshape(-1, 2)
    half = np.array(across) / 2
    hits = np.ones((len(grid), len(low)), dtype=bool) & between
    for column, k in enumerate(flat):
        hits &= grid[:, column, None] + half[column] > low[None, :, k]
        hits &= grid[:, column, None] - half[column] < high[None, :, k]
    freest = hits[int(np.argmin(hits.sum(axis=1)))]
    return [int(i) for i in np.flatnonzero(freest)]
