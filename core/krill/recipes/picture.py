"""What a small picture of a build shows: its housing, where air enters and leaves, what cools its parts, a loop, a duct."""

from dataclasses import dataclass
from typing import Literal

from krill.document.build import AirPath, Build, Route, leaves
from krill.document.parts import Cooler, Duct, Fan, Opening, Radiator
from krill.document.solids import Sink

Way = Literal["in", "out", "either"]
Cooled = Literal["tower", "low", "card", "stick_on", "duct_sink", "plate", "sink"]
_COOLERS: dict[str, Cooled] = {
    "cooler_tower": "tower",
    "cooler_low": "low",
    "cooler_graphics": "card",
    "cooler_stick_on": "stick_on",
    "cooler_duct": "duct_sink",
}
_MOST = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Mouth:
    """Where a path passes the housing: on which face, which way, whether a fan or a radiator (sections) stands there."""

    face: str
    way: Way
    fan: bool
    sections: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Picture:
    """Side view of a build, front to the left; ``cooled`` in the order of its routes, ``station`` a radiator outside."""

    depth_mm: float
    height_mm: float
    wood: bool
    mouths: list[Mouth]
    cooled: list[Cooled]
    loop: bool
    duct: bool
    station: int
    sink_faces: list[str]


def picture_of(build: Build) -> Picture:
    """Everything is read from the document; a housing without a size is drawn 300 deep and 200 high."""
    _, depth, height = build.housing.inner_size_mm or (300.0, 300.0, 200.0)
    outside = {zone.id for zone in build.zones if zone.kind == "outside"}
    ends = [found for route in build.routes if (found := _cooled(build, route)) is not None]
    stations = [path for path in build.air_paths if path.start == path.end and path.start in outside]
    return Picture(
        depth_mm=float(depth),
        height_mm=float(height),
        wood="wood" in (build.housing.material or ""),
        mouths=[mouth for path in build.air_paths for mouth in _mouths(build, path, outside)],
        cooled=[kind for _, kind in dict(ends).items()][:_MOST],
        loop=bool(build.loops),
        duct=any(isinstance(part, Duct) for part in build.parts),
        station=sum(_sections(build, path) for path in stations),
        sink_faces=[part.face for part in build.parts if isinstance(part, Sink) and part.face],
    )


def _sections(build: Build, path: AirPath) -> int:
    parts = (build.part(item) for item in leaves(path.elements))
    return sum(part.sections for part in parts if isinstance(part, Radiator))


def _mouths(build: Build, path: AirPath, outside: set[str]) -> list[Mouth]:
    """Faces that a path passes: one where an end of it lies outside, two where it leads from the room through to it."""
    ends = (path.start in outside, path.end in outside)
    parts = [build.part(item) for item in leaves(path.elements)]
    faces = [part.face for part in parts if part.face is not None]
    if not any(ends) or not faces:
        return []
    fan = any(isinstance(part, Fan) for part in parts)
    sections = _sections(build, path)
    if all(ends):
        outlets = dict.fromkeys(part.face for part in parts if isinstance(part, Opening) and part.face)
        first, *rest = outlets
        inlet = Mouth(face=str(first), way="in", fan=fan, sections=sections)
        return [inlet, *(Mouth(face=str(face), way="out", fan=False, sections=0) for face in rest)]
    way: Way = "either" if not fan else "in" if ends[0] else "out"
    return [Mouth(face=faces[0], way=way, fan=fan, sections=sections)]


def _cooled(build: Build, route: Route) -> tuple[str, Cooled] | None:
    """The part that a route ends in, and what it is drawn as."""
    part_id = route.hops[-1].part if route.hops else None
    if part_id is None:
        return None
    part = build.part(part_id)
    if isinstance(part, Cooler):
        kinds = (kind for prefix, kind in _COOLERS.items() if (part.class_ or "").startswith(prefix))
        return part_id, next(kinds, "tower")
    kind = part.kind
    return (part_id, "plate") if kind == "plate" else (part_id, "sink") if kind == "sink" else None
