"""A duct adapter between two openings as closed meshes: round or square to round or square, straight or set off, with a wall,
and a flange with screw holes where it meets a fan; in several pieces where it is longer than the bed of a printer is high.

Rings of as many corners run through both openings, outside and inside, and are joined: each piece is one closed body.
"""

from dataclasses import dataclass
from itertools import pairwise
from math import ceil, hypot
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.bodies import Body, bodies
from krill.catalogue.materials import softening
from krill.document.part_base import Plastic
from krill.errors import DocumentRefused, Problem
from krill.making.closed_body import ClosedBody

Array = NDArray[np.float64]
Triangles = NDArray[np.int64]
Shape = Literal["round", "square"]
Mesh = Literal["stl", "3mf"]

#: corners of a ring: a circle of 120 mm is off by 0.04 mm at most
CORNERS: Final = 128
#: corners of a screw hole
HOLE_CORNERS: Final = 32
#: rings along the way
RINGS: Final = 24
SIZES_MM: Final = (10.0, 400.0)
LENGTHS_MM: Final = (5.0, 600.0)
WALLS_MM: Final = (0.8, 10.0)
#: thickness of a flange, what it leaves round an opening and round a hole (common practice); printed holes come out small
FLANGE_MM: Final = 3.0
RIM_MM: Final = 2.0
WEB_MM: Final = 0.8
PRINT_UNDER_MM: Final = 0.3
#: steeper than this from the way of the print it needs supports, degrees (common practice)
OVERHANG_DEG: Final = 45.0
#: density of printed plastic, g/cm3
PLASTIC_G_CM3: Final = 1.26
#: beds of printers, mm, and what stays free at every side of one; pieces are as high as 250 (common practice)
BEDS_MM: Final = (180.0, 220.0, 235.0, 256.0, 300.0, 350.0, 420.0)
BED_EDGE_MM: Final = 5.0
HIGHEST_MM: Final = 240.0
#: sizes that differ by less are alike
_ALIKE_MM: Final = 1e-6


@dataclass(frozen=True, slots=True)
class Adapter:
    """From one opening to another: inner sizes, how far their middles are set off, length and wall, mm.

    An opening is as high as it is wide where its height is 0. ``first_fan_mm`` and ``second_fan_mm`` are the sizes of fans
    that it is screwed to at either end; 0 is no flange.
    """

    first: Shape
    first_mm: float
    second: Shape
    second_mm: float
    length_mm: float
    off_x_mm: float = 0.0
    off_y_mm: float = 0.0
    wall_mm: float = 2.0
    first_fan_mm: float = 0.0
    second_fan_mm: float = 0.0
    first_high_mm: float = 0.0
    second_high_mm: float = 0.0
    plastic: Plastic = "petg"

    @property
    def ends(self) -> tuple["End", "End"]:
        """Both openings."""
        return (
            End("first", self.first, self.first_mm, self.first_high_mm or self.first_mm, self.first_fan_mm),
            End("second", self.second, self.second_mm, self.second_high_mm or self.second_mm, self.second_fan_mm),
        )


@dataclass(frozen=True, slots=True)
class End:
    """An opening: its shape, how wide and high it is inside, and the fan that it is screwed to; mm."""

    name: Literal["first", "second"]
    shape: Shape
    wide: float
    high: float
    fan: float

    @property
    def most(self) -> float:
        return max(self.wide, self.high)


@dataclass(frozen=True, slots=True)
class AdapterSays:
    """What a print of it takes: plastic, size, the least bed and how many pieces, whether it stands without supports, and how
    warm it may get. ``bed_mm`` is None where no usual bed is as large."""

    plastic_cm3: float
    mass_g: float
    size_mm: tuple[float, float, float]
    steepest_deg: float
    supports: bool
    stands_on: str
    pieces: int
    bed_mm: float | None
    softens_c: float
    at_most_c: float


@dataclass(frozen=True)
class _Flange:
    """A square plate at one end: half its side, its holes as (x, y) from the middle of that end, their radius."""

    half: float
    holes: list[tuple[float, float]]
    radius: float


def must_be_made(adapter: Adapter) -> None:
    """DocumentRefused names every figure that is out of what can be made."""
    ranges = {
        "first_mm": SIZES_MM,
        "second_mm": SIZES_MM,
        "first_high_mm": (0.0, SIZES_MM[1]),
        "second_high_mm": (0.0, SIZES_MM[1]),
        "length_mm": LENGTHS_MM,
        "wall_mm": WALLS_MM,
        "off_x_mm": (-SIZES_MM[1], SIZES_MM[1]),
        "off_y_mm": (-SIZES_MM[1], SIZES_MM[1]),
    }
    found = [
        Problem(f"adapter/{name}", f"{getattr(adapter, name):g}", f"{low:g} to {high:g} mm")
        for name, (low, high) in ranges.items()
        if not low <= getattr(adapter, name) <= high
    ]
    if not found:
        found = _flange_problems(adapter)
    if found:
        raise DocumentRefused(found)


def _flange_problems(adapter: Adapter) -> list[Problem]:
    """Fans that nobody sells, holes that would lie in the wall, a duct too short for its flanges."""
    found = []
    for end in adapter.ends:
        body = _fan_of(end.fan)
        if 0.0 < end.high < SIZES_MM[0]:
            found.append(Problem(f"adapter/{end.name}_high_mm", f"{end.high:g}", f"from {SIZES_MM[0]:g} mm, or 0"))
        if end.fan and body is None:
            known = ", ".join(f"{size:g}" for size in _fan_sizes())
            found.append(Problem(f"adapter/{end.name}_fan_mm", f"{end.fan:g}", f"0 for no flange, or {known}"))
        elif body is not None:
            most = _widest(end.shape, body, adapter.wall_mm)
            if end.most > most:
                what = f"an opening of {end.most:g} mm runs through the screw holes of a fan of {end.fan:g}"
                found.append(Problem(f"adapter/{end.name}_mm", what, f"up to {most:.1f} mm, or no flange"))
    flanges = FLANGE_MM * sum(end.fan > 0 for end in adapter.ends)
    if adapter.length_mm < flanges + 1.0:
        found.append(
            Problem("adapter/length_mm", f"{adapter.length_mm:g}", f"from {flanges + 1:g} mm with its flanges")
        )
    return found


def _fan_sizes() -> list[float]:
    return sorted({body.size[0][0] for body in bodies().values() if body.holes_mm is not None})


def _fan_of(size_mm: float) -> Body | None:
    return next((body for body in bodies().values() if body.holes_mm and body.size[0][0] == size_mm), None)


def _widest(shape: Shape, fan: Body, wall: float) -> float:
    """The widest opening whose wall leaves the screw holes of a fan alone, mm."""
    assert fan.holes_mm is not None
    assert fan.hole_mm is not None
    keeps = (fan.hole_mm + PRINT_UNDER_MM) / 2 + WEB_MM + wall
    return 2 * (fan.holes_mm / 2 * (2**0.5 if shape == "round" else 1.0) - keeps)


def meshes_of(adapter: Adapter) -> list[tuple[Array, Triangles]]:
    """The pieces of an adapter, each a closed body: corners (corner, 3), mm, and triangles (triangle, 3) that look outwards.

    The first opening lies in z = 0. DocumentRefused names what cannot be made.
    """
    must_be_made(adapter)
    count = _pieces(adapter)
    ends = np.linspace(0.0, 1.0, count + 1)
    return [_piece(adapter, float(a), float(b)) for a, b in pairwise(ends)]


def written(adapter: Adapter, form: Mesh) -> bytes:
    """The pieces side by side, each standing on the bed, as a file for a printer."""
    import trimesh  # a third of a second, and only adapters need it

    standing: list[Array] = []
    skins: list[Triangles] = []
    across, count = 0.0, 0
    for corners, triangles in meshes_of(adapter):
        low, high = corners.min(axis=0), corners.max(axis=0)
        standing.append(corners - low + np.array([across, 0.0, 0.0]))
        skins.append(triangles + count)
        across, count = across + float(high[0] - low[0]) + 2 * BED_EDGE_MM, count + len(corners)
    content = trimesh.Trimesh(np.concatenate(standing), np.concatenate(skins), process=False).export(file_type=form)
    return content if isinstance(content, bytes) else str(content).encode()


def says_of(adapter: Adapter) -> AdapterSays:
    """What a print of the adapter takes; it stands on the wider of its ends."""
    meshes = meshes_of(adapter)
    volume = sum(_volume(corners, triangles) for corners, triangles in meshes) / 1000.0
    every = np.concatenate([corners for corners, _ in meshes])
    size = every.max(axis=0) - every.min(axis=0)
    first, second = adapter.ends
    growth = max(abs(first.wide - second.wide), abs(first.high - second.high)) / 2
    growth += hypot(adapter.off_x_mm, adapter.off_y_mm)
    steepest = float(np.rad2deg(np.arctan2(growth, adapter.length_mm)))
    softens, away = softening(adapter.plastic)
    return AdapterSays(
        plastic_cm3=volume,
        mass_g=volume * PLASTIC_G_CM3,
        size_mm=(float(size[0]), float(size[1]), float(size[2])),
        steepest_deg=steepest,
        supports=steepest > OVERHANG_DEG or bool(adapter.first_fan_mm and adapter.second_fan_mm),
        stands_on="its first opening"
        if max(first.most, first.fan) >= max(second.most, second.fan)
        else "its second opening",
        pieces=len(meshes),
        bed_mm=_bed(float(max(size[0], size[1]))),
        softens_c=softens,
        at_most_c=softens - away,
    )


def _pieces(adapter: Adapter) -> int:
    return ceil(adapter.length_mm / HIGHEST_MM)


def _bed(widest: float) -> float | None:
    """The smallest bed that takes what is so wide; None where none does."""
    return next((bed for bed in BEDS_MM if widest <= bed - 2 * BED_EDGE_MM + _ALIKE_MM), None)


def _volume(corners: Array, triangles: Triangles) -> float:
    a, b, c = (corners[triangles[:, i]] for i in range(3))
    return float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6.0)


def _piece(adapter: Adapter, start: float, end: float) -> tuple[Array, Triangles]:
    """The part of an adapter between two shares of its way, with the flanges at its own ends."""
    thick = FLANGE_MM / adapter.length_mm
    first, second = adapter.ends
    below = _flange(first, adapter.wall_mm) if start == 0.0 else None
    above = _flange(second, adapter.wall_mm) if end == 1.0 else None
    body = ClosedBody()
    inner = [body.ring(_ring(adapter, float(t), 0.0)) for t in np.linspace(start, end, RINGS)]
    low, high = start + (thick if below else 0.0), end - (thick if above else 0.0)
    outer = [body.ring(_ring(adapter, float(t), adapter.wall_mm)) for t in np.linspace(low, high, RINGS)]
    body.skin(outer, out=True)
    body.skin(inner, out=False)
    if below is None:
        body.plate(outer[0], [inner[0]], up=False)
    else:
        _add_flange(body, adapter, below, (0.0, low), outside=inner[0], inside=outer[0])
    if above is None:
        body.plate(outer[-1], [inner[-1]], up=True)
    else:
        _add_flange(body, adapter, above, (1.0, high), outside=inner[-1], inside=outer[-1])
    return body.mesh()


def _flange(end: End, wall: float) -> _Flange | None:
    fan = _fan_of(end.fan)
    if fan is None:
        return None
    assert fan.holes_mm is not None
    assert fan.hole_mm is not None
    half = fan.holes_mm / 2
    side = max(end.fan / 2, end.most / 2 + wall + RIM_MM)
    return _Flange(side, [(x * half, y * half) for x in (-1, 1) for y in (-1, 1)], (fan.hole_mm + PRINT_UNDER_MM) / 2)


def _add_flange(
    body: ClosedBody, adapter: Adapter, flange: _Flange, at: tuple[float, float], *, outside: range, inside: range
) -> None:
    """A plate between two shares of the way: ``outside`` is the ring of the opening in its outer face, ``inside`` that of the
    duct's outside where it leaves the plate."""
    (outer_t, inner_t), low = at, at[0] < at[1]
    middle = np.array([adapter.off_x_mm, adapter.off_y_mm])
    angles = np.deg2rad([-135.0, -45.0, 45.0, 135.0])
    square = flange.half * 2**0.5 * np.column_stack([np.cos(angles), np.sin(angles)])
    round_hole = 2 * np.pi * np.arange(HOLE_CORNERS) / HOLE_CORNERS
    circle = flange.radius * np.column_stack([np.cos(round_hole), np.sin(round_hole)])

    # a flange is square to the way: both its faces lie as its own end does
    shift = middle if not low else np.zeros(2)

    def rings(t: float) -> list[range]:
        z = t * adapter.length_mm
        outlines = [square, *(circle + np.array(hole) for hole in flange.holes)]
        return [body.ring(np.column_stack([flat + shift, np.full(len(flat), z)])) for flat in outlines]

    outer_face, inner_face = rings(outer_t), rings(inner_t)
    lower, upper = (outer_face, inner_face) if low else (inner_face, outer_face)
    body.skin([lower[0], upper[0]], out=True)
    for hole in range(1, len(lower)):
        body.skin([lower[hole], upper[hole]], out=False)
    body.plate(outer_face[0], [outside, *outer_face[1:]], up=not low)
    body.plate(inner_face[0], [inside, *inner_face[1:]], up=low)


def _ring(adapter: Adapter, t: float, wall: float) -> Array:
    """The ring at a share of the way, (CORNERS, 3): both outlines mixed corner by corner."""
    angles = 2 * np.pi * np.arange(CORNERS) / CORNERS
    first, second = (_outline(end, wall, angles) for end in adapter.ends)
    flat = (1 - t) * first + t * (second + np.array([adapter.off_x_mm, adapter.off_y_mm]))
    return np.column_stack([flat, np.full(CORNERS, t * adapter.length_mm)])


def _outline(end: End, wall: float, angles: Array) -> Array:
    """Points of an opening's outline at angles from its middle, a wall outside it, (angle, 2)."""
    way = np.column_stack([np.cos(angles), np.sin(angles)])
    if end.shape == "square":
        way = way / np.abs(way).max(axis=1, keepdims=True)
    return np.asarray(way * (np.array([end.wide, end.high]) / 2 + wall))
