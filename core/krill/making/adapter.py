"""A duct adapter between two openings as a closed mesh: round or square to round or square, straight or set off, with a wall.

Rings of as many corners run through both openings, outside and inside, and are joined: the result is one closed body.
"""

from dataclasses import dataclass
from math import hypot
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.errors import DocumentRefused, Problem

Array = NDArray[np.float64]
Shape = Literal["round", "square"]
Mesh = Literal["stl", "3mf"]

#: corners of a ring: a circle of 120 mm is off by 0.04 mm at most
CORNERS: Final = 128
#: rings along the way
RINGS: Final = 24
SIZES_MM: Final = (10.0, 400.0)
LENGTHS_MM: Final = (5.0, 600.0)
WALLS_MM: Final = (0.8, 10.0)
#: steeper than this from the way of the print it needs supports, degrees (common practice)
OVERHANG_DEG: Final = 45.0
#: density of printed plastic, g/cm3, and the share of it that a print of walls takes
PLASTIC_G_CM3: Final = 1.26


@dataclass(frozen=True, slots=True)
class Adapter:
    """From one opening to another: inner sizes, how far their middles are set off, length and wall, mm."""

    first: Shape
    first_mm: float
    second: Shape
    second_mm: float
    length_mm: float
    off_x_mm: float = 0.0
    off_y_mm: float = 0.0
    wall_mm: float = 2.0


@dataclass(frozen=True, slots=True)
class AdapterSays:
    """What a print of it takes: plastic, size, and whether it stands without supports."""

    plastic_cm3: float
    mass_g: float
    size_mm: tuple[float, float, float]
    steepest_deg: float
    supports: bool
    stands_on: str


def must_be_made(adapter: Adapter) -> None:
    """DocumentRefused names every figure that is out of what can be made."""
    ranges = {
        "first_mm": SIZES_MM,
        "second_mm": SIZES_MM,
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
    if found:
        raise DocumentRefused(found)


def mesh_of(adapter: Adapter) -> tuple[Array, NDArray[np.int64]]:
    """Corners (corner, 3), mm, and triangles (triangle, 3) that look outwards; the first opening lies in z = 0."""
    must_be_made(adapter)
    along = np.linspace(0.0, 1.0, RINGS)
    outer = [_ring(adapter, float(t), adapter.wall_mm) for t in along]
    inner = [_ring(adapter, float(t), 0.0) for t in along]
    corners = np.concatenate([*outer, *inner])
    skin = [_joined(i * CORNERS, (i + 1) * CORNERS) for i in range(RINGS - 1)]
    start = RINGS * CORNERS
    skin += [_joined(start + (i + 1) * CORNERS, start + i * CORNERS) for i in range(RINGS - 1)]
    skin.append(_joined(start, 0))
    skin.append(_joined((RINGS - 1) * CORNERS, start + (RINGS - 1) * CORNERS))
    return corners, np.concatenate(skin)


def written(adapter: Adapter, form: Mesh) -> bytes:
    """The mesh as a file for a printer."""
    import trimesh  # a third of a second, and only adapters need it

    corners, triangles = mesh_of(adapter)
    mesh = trimesh.Trimesh(corners, triangles, process=False)
    content = mesh.export(file_type=form)
    return content if isinstance(content, bytes) else str(content).encode()


def says_of(adapter: Adapter) -> AdapterSays:
    """What a print of the adapter takes; it stands on the wider of its openings."""
    corners, triangles = mesh_of(adapter)
    a, b, c = (corners[triangles[:, i]] for i in range(3))
    volume = float(np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6.0) / 1000.0
    size = corners.max(axis=0) - corners.min(axis=0)
    growth = abs(adapter.first_mm - adapter.second_mm) / 2 + hypot(adapter.off_x_mm, adapter.off_y_mm)
    steepest = float(np.rad2deg(np.arctan2(growth, adapter.length_mm)))
    return AdapterSays(
        plastic_cm3=volume,
        mass_g=volume * PLASTIC_G_CM3,
        size_mm=(float(size[0]), float(size[1]), float(size[2])),
        steepest_deg=steepest,
        supports=steepest > OVERHANG_DEG,
        stands_on="its first opening" if adapter.first_mm >= adapter.second_mm else "its second opening",
    )


def _ring(adapter: Adapter, t: float, wall: float) -> Array:
    """The ring at a share of the way, (CORNERS, 3): both outlines mixed corner by corner."""
    angles = 2 * np.pi * np.arange(CORNERS) / CORNERS
    first = _outline(adapter.first, adapter.first_mm / 2 + wall, angles)
    second = _outline(adapter.second, adapter.second_mm / 2 + wall, angles)
    flat = (1 - t) * first + t * (second + np.array([adapter.off_x_mm, adapter.off_y_mm]))
    return np.column_stack([flat, np.full(CORNERS, t * adapter.length_mm)])


def _outline(shape: Shape, half: float, angles: Array) -> Array:
    """Points of an outline at angles from its middle, (angle, 2)."""
    way = np.column_stack([np.cos(angles), np.sin(angles)])
    if shape == "square":
        way = way / np.abs(way).max(axis=1, keepdims=True)
    return np.asarray(half * way)


def _joined(first: int, second: int) -> NDArray[np.int64]:
    """Two triangles for each corner between two rings that begin at those corners; they look to the right of the way up."""
    i = np.arange(CORNERS, dtype=np.int64)
    j = (i + 1) % CORNERS
    return np.concatenate(
        [np.column_stack([first + i, first + j, second + i]), np.column_stack([first + j, second + j, second + i])]
    )
