"""Where parts stand: centres in housing axes, and heights along gravity."""

import math
from typing import Literal

from krill.document.build import Build, leaves
from krill.document.part_base import Face, Part
from krill.document.parts import Gap, Opening, Radiator
from krill.document.solids import HeatPipe, Lie, Panel, Sink, Stand

Point = tuple[float, float, float]

#: axis and end of each face: left-right is x, front-back is y, bottom-top is z
_FACES: dict[Face, tuple[int, int]] = {
    "left": (0, 0),
    "right": (0, 1),
    "front": (1, 0),
    "back": (1, 1),
    "bottom": (2, 0),
    "top": (2, 1),
}


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
    up = up_of(build)
    size = build.housing.inner_size_mm or (0, 0, 0)
    middle = [float(v) / 2 for v in size]
    heights = {}
    for part in build.parts:
        centre = centre_of(build, part)
        if centre is not None:
            heights[part.id] = sum(u * (c - m) for u, c, m in zip(up, centre, middle, strict=True)) / 1000
    return heights


_UP_OF: dict[Face, Point] = {
    "left": (-1, 0, 0),
    "right": (1, 0, 0),
    "front": (0, -1, 0),
    "back": (0, 1, 0),
    "bottom": (0, 0, -1),
    "top": (0, 0, 1),
}
#: the axis that a part's height runs along on each face: z on a wall, y on top and bottom
_HEIGHT_AXIS: dict[Face, int] = {"left": 2, "right": 2, "front": 2, "back": 2, "bottom": 1, "top": 1}
_WIDTH_AXIS: dict[Face, int] = {"left": 1, "right": 1, "front": 0, "back": 0, "bottom": 0, "top": 0}
_LIE_OF_STAND: dict[Stand, Lie] = {"lying_fins_up": "facing_up", "lying_fins_down": "facing_down"}
#: from this cosine on a face counts as looking up or down
LOOKS = 0.7


def up_of(build: Build) -> Point:
    """Unit vector against gravity in housing axes."""
    g = [float(v) for v in build.housing.gravity]
    length = math.sqrt(sum(v * v for v in g)) or 1.0
    return -g[0] / length, -g[1] / length, -g[2] / length


def lie_of(build: Build, panel: Panel | Sink) -> Lie:
    """How a body's outer side looks: by its face and gravity, else as it says."""
    if panel.face is None:
        if isinstance(panel, Panel):
            return panel.lies
        return _LIE_OF_STAND.get(panel.stands, "vertical")
    looks = sum(u * n for u, n in zip(up_of(build), _UP_OF[panel.face], strict=True))
    return "facing_up" if looks > LOOKS else "facing_down" if looks < -LOOKS else "vertical"


def stand_of(build: Build, sink: Sink) -> Stand:
    """How a sink stands: by its face, the way of its fins and gravity, else as it says."""
    if sink.face is None:
        return sink.stands
    lie = lie_of(build, sink)
    if lie != "vertical":
        return "lying_fins_up" if lie == "facing_up" else "lying_fins_down"
    axis = (_HEIGHT_AXIS if sink.fins_along == "height" else _WIDTH_AXIS)[sink.face]
    return "upright" if abs(up_of(build)[axis]) > LOOKS else "on_edge"


def upright_extent(build: Build, panel: Panel) -> Literal["width", "height"]:
    """Which of a vertical panel's two extents runs upwards."""
    if panel.face is None:
        return "height"
    up = up_of(build)
    return "height" if abs(up[_HEIGHT_AXIS[panel.face]]) >= abs(up[_WIDTH_AXIS[panel.face]]) else "width"


def lift_of(build: Build, pipe: HeatPipe) -> float | None:
    """Evaporator above condenser, metres, from the run of the pipes and gravity; None where the run is not given."""
    if pipe.run_mm is None:
        return None
    return -sum(u * float(r) for u, r in zip(up_of(build), pipe.run_mm, strict=True)) / 1000


#: a face this far from the next thing or less pays for it, mm (common practice)
CLOSE_MM = 30.0


def close_to(build: Build) -> dict[str, tuple[str, Face, float]]:
    """Openings and radiators on a face that something stands close to: (path, face, mm) by part.

    The outermost of each path, where no gap in the path says how close.
    """
    near = {face: float(mm) for face, mm in build.housing.nearby_mm.items()}
    if build.housing.feet_mm is not None:
        near.setdefault("bottom", float(build.housing.feet_mm))
    if not near:
        return {}
    outside = {zone.id for zone in build.zones if zone.kind == "outside"}
    found: dict[str, tuple[str, Face, float]] = {}
    for path in build.air_paths:
        parts: list[Part] = [build.part(item) for item in leaves(path.elements)]
        if any(isinstance(part, Gap) or part.class_ == "opening_feet_20" for part in parts):
            continue
        for end, order in ((path.start, parts), (path.end, parts[::-1])):
            mouths = [part for part in order if isinstance(part, Opening | Radiator)]
            outer = mouths[0] if end in outside and mouths else None
            if outer is not None and outer.face is not None and near.get(outer.face, math.inf) <= CLOSE_MM:
                found[outer.id] = (path.id, outer.face, near[outer.face])
    return found
