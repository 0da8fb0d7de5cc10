"""Bare metal and solder close to metal: what wants a sheet between before first power.

Solder stands 2 mm out of a board's underside: 3 mm of air to any metal, 1 with an insulating sheet; an open supply with
mains on it keeps 8, or a sheet (common practice; local codes decide).
"""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.fit.boxes import corners, sticks_out
from krill.fit.placed_boxes import PlacedBoxes, on_board
from krill.fit.plan import FACES

Array = NDArray[np.float64]
ShortSays = Literal["insulated", "insulate", "too near"]

#: air between solder and metal; with a sheet of at least SHEET_MM between; from mains to metal
APART_MM: Final = 3.0
WITH_SHEET_MM: Final = 1.0
SHEET_MM: Final = 0.3
MAINS_MM: Final = 8.0
#: the outline whose live parts look out all round; boards have their solder beneath
_OPEN_SUPPLY: Final = "supply_open"
#: kinds that are metal; panels and sinks by what they are of
_METAL: Final = ("radiator", "sink", "plate", "cooler", "spreader", "panel", "heat_pipe", "supply")
_METAL_WORDS: Final = ("steel", "alumin", "copper", "brass", "metal", "iron", "titan", "zinc", "nickel")


@dataclass(frozen=True, slots=True)
class Short:
    """Solder or live parts near metal: how far, how far it should be, and whether a sheet lies between."""

    live: str
    live_name: str
    metal: str
    metal_name: str
    apart_mm: float
    wants_mm: float
    says: ShortSays


def shorts_of(build: Build, boxes: PlacedBoxes) -> list[Short]:
    """Every board's underside and open supply against metal parts and walls, those that are far enough left out."""
    sheets = {frozenset((one.first, one.second)): float(one.sheet_mm) for one in build.insulators}
    points = corners(boxes.middle, boxes.half, boxes.turned)
    found = []
    for at, part in enumerate(boxes.parts):
        mains = _is_open_supply(boxes, at)
        if not mains and not on_board(boxes.extents[at]):
            continue
        wants = MAINS_MM if mains else APART_MM
        for other, name, apart in [
            *_metal_parts(boxes, at, points, mains),
            *_metal_walls(build, boxes, at, mains),
        ]:
            if apart < wants:
                sheet = sheets.get(frozenset((part.id, other)), 0.0) >= SHEET_MM
                says: ShortSays = ("insulated" if apart >= WITH_SHEET_MM else "too near") if sheet else "insulate"
                found.append(Short(part.id, part.name or part.id, other, name, apart, wants, says))
    return found


def is_metal(words: str | None) -> bool:
    """Whether a material in words is metal.

    >>> is_metal("aluminium sheet"), is_metal("plywood"), is_metal(None)
    (True, False, False)
    """
    return any(word in (words or "").lower() for word in _METAL_WORDS)


def _is_open_supply(boxes: PlacedBoxes, at: int) -> bool:
    body = boxes.extents[at].body
    return body is not None and body.id == _OPEN_SUPPLY


def _metal_parts(boxes: PlacedBoxes, at: int, points: Array, mains: bool) -> list[tuple[str, str, float]]:
    """(id, name, mm) of metal parts beneath a board, or all round a live supply."""
    found = []
    for other, part in enumerate(boxes.parts):
        material = getattr(part, "material", None)
        if other == at or part.kind not in _METAL or (part.kind in ("panel", "sink") and not is_metal(material)):
            continue
        local = (points[other] - boxes.middle[at]) @ boxes.turned[at]
        low, high = local.min(axis=0), local.max(axis=0)
        half = boxes.half[at]
        apart = np.maximum(low - half, -half - high)  # along each axis of its own, negative where they overlap
        if mains:
            found.append((part.id, part.name or part.id, float(np.linalg.norm(np.maximum(apart, 0.0)))))
        elif (apart[:2] < 0.0).all() and high[2] <= -half[2] + 0.5:
            found.append((part.id, part.name or part.id, max(float(apart[2]), 0.0)))
    return found


def _metal_walls(build: Build, boxes: PlacedBoxes, at: int, mains: bool) -> list[tuple[str, str, float]]:
    """(face, name, mm) of walls of a metal housing before a board's underside, or all round a live supply."""
    size = build.housing.inner_size_mm
    if size is None or not is_metal(build.housing.material):
        return []
    inside = np.array([float(side) for side in size])
    one = slice(at, at + 1)
    out = sticks_out(boxes.middle[one], boxes.half[one], boxes.turned[one], inside)[0]
    return [
        (face, f"the {face}", 0.0 - float(mm))
        for face, mm in zip(FACES, out, strict=True)
        if mm <= 0.0 and (mains or boxes.stands_on(at, face))
    ]
