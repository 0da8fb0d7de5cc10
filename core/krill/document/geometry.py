"""Where parts stand: centres in housing axes, and heights along gravity."""

import math

from krill.document.build import Build
from krill.document.parts import Face, Part

Point = tuple[float, float, float]

#: axis and end of each face: left-right is x, front-back is y, bottom-top is z
_FACES: dict[Face, tuple[int, int]] = {
    "left": (0, 0), "right": (0, 1), "front": (1, 0), "back": (1, 1), "bottom": (2, 0), "top": (2, 1),
}  # fmt: skip


def centre_of(build: Build, part: Part) -> Point | None:
    """Centre in millimetres: the outline's position, else the middle of the part's face; None where neither is given."""
    if part.outline is not None and part.outline.position_mm is not None:
        x, y, z = (float(v) for v in part.outline.position_mm)
        return x, y, z
    size = build.housing.inner_size_mm
    if part.face is None or size is None:
        return None
    axis, end = _FACES[part.face]
    centre = [float(v) / 2 for v in size]
    centre[axis] = end * float(size[axis])
    return centre[0], centre[1], centre[2]


def heights_of(build: Build) -> dict[str, float]:
    """Height of every part whose place is known, metres above the middle of the housing, against gravity."""
    g = [float(v) for v in build.housing.gravity]
    length = math.sqrt(sum(v * v for v in g)) or 1.0
    size = build.housing.inner_size_mm or (0, 0, 0)
    middle = [float(v) / 2 for v in size]
    heights = {}
    for part in build.parts:
        centre = centre_of(build, part)
        if centre is not None:
            heights[part.id] = -sum(gi * (c - m) for gi, c, m in zip(g, centre, middle, strict=True)) / length / 1000
    return heights
