"""Parts where they stand: which run into each other or into a wall, what stands in the room that another needs, what is near."""

from dataclasses import dataclass
from math import hypot
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.bodies import RoomNeeded
from krill.document.build import Build
from krill.document.part_base import Face, Part
from krill.document.parts import AnyPart
from krill.fit.boxes import corners, overlaps, sticks_out
from krill.fit.extents import extent_of, mass_of_body
from krill.fit.placed_boxes import SIDES, PlacedBoxes, boxes_of, on_board

Array = NDArray[np.float64]

FACES: Final[tuple[Face, ...]] = tuple(SIDES)
#: between two parts that are fixed and must not touch (common practice)
APART_MM: Final = 1.5
#: room that a part needs may be short by so much
ROOM_MM: Final = 0.5
#: so near to nothing two parts were laid against one another
ON_IT_MM: Final = 0.05
#: parts that lie in or on one another by their make: nobody asks whether they touch
_TOUCHES: Final = ("interface", "opening", "filter", "gap", "obstacle", "tube", "heat_pipe", "duct")
_AXES: Final = {"x": 0, "y": 1, "z": 2}

ClashSays = Literal["collides", "measure", "close", "in its room"]


@dataclass(frozen=True, slots=True)
class Placed:
    """A part in the housing: its middle and size along the housing's axes, its corners seen from above, mm."""

    part: str
    name: str
    kind: str
    middle_mm: tuple[float, float, float]
    size_mm: tuple[float, float, float]
    half_mm: float
    low_mm: tuple[float, float, float]
    high_mm: tuple[float, float, float]
    outline_mm: list[tuple[float, float]]
    by_class: bool
    room: list["RoomBeside"]


@dataclass(frozen=True, slots=True)
class RoomBeside:
    """Room that a part needs on one side: for its plugs, fittings, a hand."""

    what: str
    low_mm: tuple[float, float, float]
    high_mm: tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Clash:
    """Two things that want one place: by how much, and how sure that is, mm; ``second`` may be a face of the housing.

    ``first_name``, ``what`` and ``second_name`` read as one clause.
    """

    first: str
    first_name: str
    second: str
    second_name: str
    mm: float
    half_mm: float
    says: ClashSays
    what: str


@dataclass(frozen=True, slots=True)
class Plan:
    """Every part that has a place, what clashes, and the parts that have none yet."""

    inside_mm: tuple[float, float, float] | None
    placed: list[Placed]
    clashes: list[Clash]
    unplaced: list[str]
    unknown_size: list[str]
    mass_g: float
    mass_half_g: float
    centre_of_mass_mm: tuple[float, float, float] | None


def plan_of(build: Build, boxes: PlacedBoxes | None = None) -> Plan:
    """All parts with a position against each other and against the walls."""
    boxes = boxes or boxes_of(build)
    size = build.housing.inner_size_mm
    inside = None if size is None else (float(size[0]), float(size[1]), float(size[2]))
    placed = _placed(boxes)
    clashes = [*_between(boxes), *_in_rooms(boxes, placed)]
    if inside is not None:
        clashes += _walls(boxes, np.array(inside))
    mass, half, centre = _mass(boxes)
    names = {part.id for part in boxes.parts}
    has_size = {
        part.id: extent_of(part) is not None
        for part in build.parts
        if part.kind not in _TOUCHES and part.kind != "spreader"
    }
    return Plan(
        inside_mm=inside,
        placed=placed,
        clashes=sorted(clashes, key=lambda clash: (_ORDER[clash.says], -clash.mm)),
        unplaced=[part for part, known in has_size.items() if known and part not in names],
        unknown_size=[part for part, known in has_size.items() if not known],
        mass_g=mass,
        mass_half_g=half,
        centre_of_mass_mm=centre,
    )


_ORDER: Final[dict[ClashSays, int]] = {"collides": 0, "in its room": 1, "measure": 2, "close": 3}


def _placed(boxes: PlacedBoxes) -> list[Placed]:
    found = []
    points = corners(boxes.middle, boxes.half, boxes.turned)
    for at, (part, extent) in enumerate(zip(boxes.parts, boxes.extents, strict=True)):
        low, high = points[at].min(axis=0), points[at].max(axis=0)
        body = extent.body
        found.append(
            Placed(
                part=part.id,
                name=part.name or part.id,
                kind=part.kind,
                middle_mm=_point(boxes.middle[at]),
                size_mm=_point(2 * boxes.half[at]),
                half_mm=float(boxes.doubt[at]),
                low_mm=_point(low),
                high_mm=_point(high),
                outline_mm=_hull(points[at][:, :2]),
                by_class=not all(side.known for side in extent.measures),
                room=[_room(boxes, at, needed) for needed in (body.room if body else ()) if needed.side[0] in "+-"],
            )
        )
    return found


def _point(values: Array) -> tuple[float, float, float]:
    return float(values[0]), float(values[1]), float(values[2])


def _hull(points: Array) -> list[tuple[float, float]]:
    """Corners of what points in a plane span, counter-clockwise (monotone chain, Andrew 1979)."""
    ordered = sorted({(round(x, 6), round(y, 6)) for x, y in points.tolist()})
    if len(ordered) < 3:
        return ordered

    def chain(run: list[tuple[float, float]]) -> list[tuple[float, float]]:
        found: list[tuple[float, float]] = []
        for point in run:
            while len(found) > 1 and _turn(found[-2], found[-1], point) <= 0:
                found.pop()
            found.append(point)
        return found[:-1]

    return chain(ordered) + chain(ordered[::-1])


def _turn(a: tuple[float, float], b: tuple[float, float], c: tuple[float, float]) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def _room(boxes: PlacedBoxes, at: int, needed: RoomNeeded) -> RoomBeside:
    """The room on a side of a box, as the box along the housing's axes that holds it."""
    axis, sign = _AXES[needed.side[1]], 1.0 if needed.side[0] == "+" else -1.0
    half = boxes.half[at].copy()
    middle = np.zeros(3)
    middle[axis] = sign * (half[axis] + needed.mm / 2)
    half[axis] = needed.mm / 2
    turned = boxes.turned[at]
    points = corners((boxes.middle[at] + turned @ middle)[None], half[None], turned[None])[0]
    return RoomBeside(needed.what, _point(points.min(axis=0)), _point(points.max(axis=0)))


def _between(boxes: PlacedBoxes) -> list[Clash]:
    """Parts that run into each other, or stand closer than they should."""
    pairs = overlaps(boxes.middle, boxes.half, boxes.turned, APART_MM)
    found = []
    for i, j, shared in zip(*(side.tolist() for side in pairs), strict=True):
        if shared <= -APART_MM:
            continue
        first, second = boxes.parts[i], boxes.parts[j]
        if first.kind in _TOUCHES or second.kind in _TOUCHES:
            continue
        mm, half = float(shared), hypot(float(boxes.doubt[i]), float(boxes.doubt[j]))
        if abs(mm) < ON_IT_MM or (mm <= 0.0 and _rests(first, second)) or _lie_on(boxes, i, j):
            continue
        says = _says(mm, half)
        found.append(_clash(first, second.id, second.name or second.id, mm, half, says, _WORDS[says]))
    return found


_WORDS: Final[dict[ClashSays, str]] = {
    "collides": "runs into",
    "measure": "may run into",
    "close": "stands close to",
    "in its room": "stands in the room of",
}


def _says(mm: float, half: float) -> ClashSays:
    if mm >= half and mm > 0.0:
        return "collides"
    return "measure" if mm > -half else "close"


def _rests(first: AnyPart, second: AnyPart) -> bool:
    """Parts that are made to lie on one another: a fan on its radiator, a plate on its board, a cooler on its source."""
    kinds = {first.kind, second.kind}
    return bool(kinds & {"fan", "plate", "cooler", "sink", "panel", "fitting", "coupling"}) or first.kind == second.kind


def _lie_on(boxes: PlacedBoxes, i: int, j: int) -> bool:
    """A plate, cooler or fitting on a board or card, whose outline holds its ports and tallest parts as well."""
    for board, other in ((i, j), (j, i)):
        if on_board(boxes.extents[board]):
            return boxes.parts[other].kind in ("plate", "cooler", "fitting", "sink")
    return False


def _clash(first: Part, second: str, name: str, mm: float, half: float, says: ClashSays, what: str) -> Clash:
    return Clash(first.id, first.name or first.id, second, name, mm, half, says, what)


def _walls(boxes: PlacedBoxes, inside: Array) -> list[Clash]:
    """Parts that stand out of the housing, or are as long as it is, give or take."""
    found = []
    out = sticks_out(boxes.middle, boxes.half, boxes.turned, inside)
    for at, part in enumerate(boxes.parts):
        if part.kind in _TOUCHES:
            continue
        half = float(boxes.doubt[at])
        for side in range(6):
            mm = float(out[at, side])
            if mm > ON_IT_MM and part.face != FACES[side]:
                says = _says(mm, half)
                what = "stands out at" if says == "collides" else "may stand out at"
                found.append(_clash(part, FACES[side], f"the {FACES[side]}", mm, half, says, what))
        for axis in range(3):
            over = float(out[at, 2 * axis] + out[at, 2 * axis + 1])  # its size less that of the housing
            if max(out[at, 2 * axis : 2 * axis + 2]) <= ON_IT_MM and -2 * half < over:
                ends = f"{FACES[2 * axis]} and {FACES[2 * axis + 1]}"
                found.append(_clash(part, FACES[2 * axis], ends, over, 2 * half, "measure", "may be too long between"))
    return found


def _in_rooms(boxes: PlacedBoxes, placed: list[Placed]) -> list[Clash]:
    """Parts that stand in the room that another needs for its plugs, fittings or a hand."""
    low = np.array([part.low_mm for part in placed]).reshape(-1, 3)
    high = np.array([part.high_mm for part in placed]).reshape(-1, 3)
    stands = np.array([part.kind not in _TOUCHES for part in placed], dtype=bool)
    found = []
    for owner in placed:
        for room in owner.room:
            shared = (np.minimum(high, room.high_mm) - np.maximum(low, room.low_mm)).min(axis=1)
            what = f"stands in the room for the {room.what} of"
            for at in np.flatnonzero(stands & (shared > boxes.doubt + ROOM_MM)).tolist():
                other, mm, half = boxes.parts[at], float(shared[at]), float(boxes.doubt[at])
                if other.id != owner.part:
                    found.append(_clash(other, owner.part, owner.name, mm, half, "in its room", what))
    return found


def _mass(boxes: PlacedBoxes) -> tuple[float, float, tuple[float, float, float] | None]:
    """Mass of the placed parts, its half width, g, and where its centre lies."""
    known = [mass_of_body(part, extent) or (0.0, 0.0) for part, extent in zip(boxes.parts, boxes.extents, strict=True)]
    masses, halves = np.array([mass for mass, _ in known]), [half for _, half in known]
    total = float(masses.sum())
    if not total:
        return 0.0, 0.0, None
    centre = (masses[:, None] * boxes.middle).sum(axis=0) / total
    return total, float(np.hypot.reduce(halves)), _point(centre)
