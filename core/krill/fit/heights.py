"""What stands over what, by the way the housing lies: reservoir over pump, fill on top, drain below, air that gathers, feet."""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, Loop, leaves
from krill.document.part_base import Face
from krill.document.parts import Fan, Opening, Pump, Radiator, Reservoir
from krill.fit.boxes import free_way
from krill.fit.extents import extent_of
from krill.fit.placed_boxes import SIDES, PlacedBoxes
from krill.fit.stack import FREE_SHARE

Array = NDArray[np.float64]
HeightOf = Literal["reservoir over pump", "fill on top", "drain below", "air gathers", "room over the fill", "feet"]

#: heights that differ by less are alike, mm
ALIKE_MM: Final = 5.0
#: to fill a reservoir through its own opening (common practice); less wants a funnel with a hose
OVER_FILL_MM: Final = 120.0
#: kinds whose coolant stands in no room of its own: no air gathers there
_SMALL: Final = ("tube", "fitting", "coupling")


@dataclass(frozen=True, slots=True)
class HeightCheck:
    """One height that matters: what it is of, against what, by how many mm (negative is short), and whether it is well; of
    feet that nobody told it is not ``known``."""

    of: HeightOf
    about: str
    name: str
    against: str
    mm: float
    well: bool
    known: bool = True


def height_checks(build: Build, boxes: PlacedBoxes) -> list[HeightCheck]:
    """Every height of loops whose parts have places, and of mouths that the housing stands on."""
    gravity = np.array([float(v) for v in build.housing.gravity])
    length = float(np.linalg.norm(gravity))
    if length == 0.0:
        return []
    heights = _Heights(boxes, -gravity / length)
    found: list[HeightCheck] = []
    for loop in build.loops:
        found += _of_loop(build, loop, heights)
    return found + _feet(build, -gravity / length)


class _Heights:
    """Lowest, middle and highest points of parts over the housing's corner, mm."""

    def __init__(self, boxes: PlacedBoxes, up: Array) -> None:
        self.boxes, self.up = boxes, up
        middle = boxes.middle @ up
        size = np.abs(np.einsum("bij,i->bj", boxes.turned, up) * boxes.half).sum(axis=1)
        ids = [part.id for part in boxes.parts]
        self.middle = dict(zip(ids, middle.tolist(), strict=True))
        self.top = dict(zip(ids, (middle + size).tolist(), strict=True))
        self.foot = dict(zip(ids, (middle - size).tolist(), strict=True))

    def over(self, part: str) -> float:
        """Free way straight up from a part to the next one, mm; inf where there is none."""
        at = [one.id for one in self.boxes.parts].index(part)
        others = np.arange(len(self.boxes.parts)) != at
        start = self.boxes.middle[at] + (self.top[part] - self.middle[part] + 0.1) * self.up
        ways = free_way(start, self.up, self.boxes.middle[others], self.boxes.half[others], self.boxes.turned[others])
        return float(ways.min(initial=np.inf))


def _of_loop(build: Build, loop: Loop, heights: _Heights) -> list[HeightCheck]:
    parts = [build.part(item) for item in dict.fromkeys(leaves(loop.elements)) if item in heights.middle]
    if not parts:
        return []
    tanks = [part for part in parts if isinstance(part, Reservoir)]
    found: list[HeightCheck] = []
    if tanks:
        tank = max(tanks, key=lambda part: heights.middle[part.id])
        for pump in (part for part in parts if isinstance(part, Pump)):
            over = heights.middle[tank.id] - heights.middle[pump.id]
            found.append(_check("reservoir over pump", tank, pump.name or pump.id, over, over >= -ALIKE_MM))
        for part in parts:
            over = heights.top[part.id] - heights.top[tank.id]
            if part.kind not in _SMALL and part.id != tank.id and over > ALIKE_MM:
                found.append(_check("air gathers", part, tank.name or tank.id, over, well=False))
    if loop.fill in heights.top:
        fill = build.part(loop.fill)
        highest = max(parts, key=lambda part: heights.top[part.id])
        short = heights.top[fill.id] - heights.top[highest.id]
        found.append(_check("fill on top", fill, highest.name or highest.id, short, short >= -ALIKE_MM))
        free = heights.over(fill.id)
        if free < OVER_FILL_MM:
            found.append(_check("room over the fill", fill, "what is above it", free, well=False))
    if loop.drain in heights.foot:
        drain = build.part(loop.drain)
        lowest = min(parts, key=lambda part: heights.foot[part.id])
        short = heights.foot[lowest.id] - heights.foot[drain.id]
        found.append(_check("drain below", drain, lowest.name or lowest.id, short, short >= -ALIKE_MM))
    return found


def _check(of: HeightOf, part: object, against: str, mm: float, well: bool) -> HeightCheck:
    about, name = str(getattr(part, "id", "")), str(getattr(part, "name", ""))
    return HeightCheck(of, about, name or about, against, mm, well)


def _feet(build: Build, up: Array) -> list[HeightCheck]:
    """The widest mouth in the face that the housing stands on: its feet let it breathe, or nobody said how high they are."""
    found: list[tuple[float, HeightCheck]] = []
    for part in build.parts:
        if not isinstance(part, Fan | Opening | Radiator) or part.face is None or not _is_under(part.face, up):
            continue
        extent = extent_of(part)
        span = float(part.section_mm) if isinstance(part, Radiator) else extent.x.mm if extent else None
        if span is None:
            continue
        told = build.housing.nearby_mm.get(part.face)
        if told is None and part.face == "bottom":
            told = build.housing.feet_mm
        has, wants = 0.0 if told is None else float(told), FREE_SHARE[1][1] * span
        check = HeightCheck(
            "feet", part.id, part.name or part.id, f"{wants:.0f} mm", has, has >= wants, told is not None
        )
        found.append((wants, check))
    return [max(found, key=lambda pair: pair[0])[1]] if found else []


def _is_under(face: Face, up: Array) -> bool:
    axis, side = SIDES[face]
    return bool(side * up[axis] < -0.7)
