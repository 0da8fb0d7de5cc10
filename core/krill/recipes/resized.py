"""A start in a housing of another inner size: its panels and what covers a whole face go along."""

from typing import Any

from krill.document.build import Build
from krill.document.reading import read_object, write_object
from krill.recipes.cases import Size
from krill.recipes.pieces import Json

#: which of width, depth and height lie across and up each face
_SPANS = {"left": (1, 2), "right": (1, 2), "front": (0, 2), "back": (0, 2), "top": (0, 1), "bottom": (0, 1)}
#: what lies across and up a face; fins stand upright
_SIDES = {"panel": ("width_mm", "height_mm"), "sink": ("width_mm", "length_mm")}
#: a part whose sides are a face's within this share covers it
_COVERS = 0.02


def resized(build: Build, size_mm: Size) -> Build:
    """The build in a housing of another inner width, depth and height, mm; openings and fans stay as they are.

    What the walls of a box carry goes with the surface. DocumentRefused where a size is none, or the build has none.
    """
    old = build.housing.inner_size_mm
    raw = write_object(build)
    raw["housing"] = raw["housing"] | {"inner_size_mm": list(size_mm)}
    if old is not None:
        sides = (float(old[0]), float(old[1]), float(old[2]))
        grown = _surface(size_mm) / _surface(sides)
        raw["parts"] = [_covering(part, sides, size_mm) for part in raw["parts"]]
        raw["zones"] = [_walls_scaled(zone, grown) for zone in raw["zones"]]
    return read_object(raw)


def _surface(size_mm: Size) -> float:
    width, depth, height = size_mm
    return 2 * (width * depth + width * height + depth * height)


def _covering(part: Json, old: Size, new: Size) -> Json:
    """A part over a whole face, on the new face; any other as it is."""
    spans = _SPANS.get(part.get("face") or "")
    sides = _SIDES.get(part["kind"], ())
    if spans is None or not sides or not all(part.get(side) is not None for side in sides):
        return part
    covers = all(abs(_value(part[side]) / old[span] - 1) < _COVERS for side, span in zip(sides, spans, strict=True))
    return (
        part | {side: _put(part[side], new[span]) for side, span in zip(sides, spans, strict=True)} if covers else part
    )


def _walls_scaled(zone: Json, grown: float) -> Json:
    wall = zone.get("wall_w_k")
    return zone if wall is None else zone | {"wall_w_k": _put(wall, _value(wall) * grown)}


def _value(figure: Any) -> float:
    return float(figure["value"] if isinstance(figure, dict) else figure)


def _put(figure: Any, value: float) -> Any:
    return figure | {"value": value} if isinstance(figure, dict) else value
