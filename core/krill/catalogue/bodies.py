"""Outlines by class: how long, wide and high the parts of a class are, how heavy, and what room they need beside them."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from krill.catalogue.table import table

#: S: fixed by a published mechanical standard, value from memory; M: value from memory; P: common practice
BodyOrigin = Literal["S", "M", "P"]
#: a length and the half width of 90 % of the parts of its class, mm
Length = tuple[float, float]


@dataclass(frozen=True, slots=True)
class RoomNeeded:
    """Room that must stay free on one side of a body: for its plugs, fittings, a hand, its inlet."""

    what: str
    side: str
    mm: float
    half_mm: float


@dataclass(frozen=True, slots=True)
class Body:
    """Own axes: x length, y width, z thickness or height over what it stands on; millimetres and grams."""

    id: str
    name: str
    size: tuple[Length, Length, Length]
    origin: BodyOrigin
    mass_g: Length | None
    room: tuple[RoomNeeded, ...]
    classes: tuple[str, ...]
    #: of a fan: blades behind the face of its frame, distance of its holes, their size, its cut-out
    blades: Length | None
    holes_mm: float | None
    hole_mm: float | None
    cut_mm: float | None
    #: of a board: holes from its port edge and from its edge along the card slot, and how wide they are
    mount_mm: tuple[tuple[float, float], ...]
    mount_hole_mm: float | None


@dataclass(frozen=True, slots=True)
class RadiatorBody:
    """What the outline of a radiator adds to its sections, and how deep its tubes lie behind its flange, mm."""

    tanks: dict[float, tuple[Length, Length]]
    rim: Length
    thickness_half: float
    section_mass_g: dict[float, float]
    to_tube: Length


def _pair(values: list[float] | None) -> Length | None:
    return None if values is None else (float(values[0]), float(values[1]))


@lru_cache(maxsize=1)
def bodies() -> dict[str, Body]:
    """Every outline by its id."""
    return {key: _body(key, row) for key, row in table("bodies")["bodies"].items()}


def _body(key: str, row: dict[str, Any]) -> Body:
    x, y, z = ((float(value), float(half)) for value, half in row["mm"])
    return Body(
        key,
        row["name"],
        (x, y, z),
        row["from"],
        _pair(row.get("mass_g")),
        tuple(RoomNeeded(what, side, float(mm), float(half)) for what, side, mm, half in row.get("room", ())),
        tuple(row.get("classes", ())),
        _pair(row.get("blades_mm")),
        row.get("holes_mm"),
        row.get("hole_mm"),
        row.get("cut_mm"),
        tuple((float(x), float(y)) for x, y in row.get("mount_mm", ())),
        row.get("mount_hole_mm"),
    )


@lru_cache(maxsize=1)
def _by_class() -> dict[str, Body]:
    return {class_id: body for body in bodies().values() for class_id in body.classes}


def body_of_class(class_id: str | None) -> Body | None:
    """The outline of parts of a thermal class; None where the class is no body of one size."""
    return _by_class().get(class_id or "")


@lru_cache(maxsize=1)
def radiator_body() -> RadiatorBody:
    """What radiators have in common."""
    row = table("bodies")["radiators"]
    tanks = {float(key): ((p[0], p[1]), (f[0], f[1])) for key, (p, f) in row["tanks_mm"].items()}
    masses = {float(key): float(mass) for key, mass in row["section_mass_g"].items()}
    rim, tube = row["rim_mm"], row["to_tube_mm"]
    return RadiatorBody(tanks, (rim[0], rim[1]), float(row["thickness_half_mm"]), masses, (tube[0], tube[1]))


@lru_cache(maxsize=1)
def common_layers() -> dict[str, tuple[str, Length]]:
    """(name, thickness) of what lies in stacks and is no part: pads, screw heads, gaskets, sheets."""
    return {
        key: (row["name"], (float(row["thickness_mm"][0]), float(row["thickness_mm"][1])))
        for key, row in table("bodies")["layers"].items()
    }
