"""Room for plugs and fittings at the ends of leads and tubes: straight before them, beside them for a hand, to the next."""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.leads import FittingClass, fitting_classes, plug_classes
from krill.document.build import Build
from krill.document.leads import Lead, LeadEnd
from krill.fit.boxes import free_way
from krill.fit.placed_boxes import PlacedBoxes

Array = NDArray[np.float64]
EndSays = Literal["free", "tight", "too thick"]

#: a tube leaves its fitting straight for so many mm
TUBE_STRAIGHT_MM: Final = 10.0
#: a fitting's thread goes through sheets up to this, thicker ones want an extension
THROUGH_SHEET_MM: Final = 2.0
#: what a port's way out begins before, so that the part it sits on is not in its way
_OUTSIDE_MM: Final = 0.5


@dataclass(frozen=True, slots=True)
class EndRoom:
    """What one end of a lead wants and has, mm: straight ahead, at its side, to the next port, or of thread."""

    lead: str
    end: Literal["begins", "ends"]
    what: str
    wants_mm: float
    has_mm: float
    says: EndSays


def leaves_straight(lead: Lead) -> tuple[float, float]:
    """How far a line stays straight at its two ends, mm."""
    return _straight(lead, lead.begins), _straight(lead, lead.ends)


def points_of(lead: Lead) -> Array:
    """Corners of a lead's middle line, (point, 3), mm."""
    return np.array([[float(v) for v in point] for point in lead.points_mm]).reshape(-1, 3)


def _straight(lead: Lead, end: LeadEnd) -> float:
    plug = plug_classes().get(end.plug or "")
    return TUBE_STRAIGHT_MM if lead.tube else 0.0 if plug is None else plug.straight_mm


def end_rooms(build: Build, boxes: PlacedBoxes) -> list[EndRoom]:
    """Room at every end that names a plug or a fitting, and between every two ports."""
    found: list[EndRoom] = []
    ports: list[tuple[Lead, Literal["begins", "ends"], FittingClass, Array]] = []
    for lead in build.leads:
        points = points_of(lead)
        if len(points) < 2:
            continue
        sides: tuple[tuple[Literal["begins", "ends"], LeadEnd, str, Array, Array], ...] = (
            ("begins", lead.begins, lead.from_part, points[0], points[1] - points[0]),
            ("ends", lead.ends, lead.to_part, points[-1], points[-2] - points[-1]),
        )
        for side, end, part, at, way in sides:
            length = float(np.linalg.norm(way))
            if length == 0.0:
                continue
            room = _Room(build, boxes, part, at, way / length)
            plug, fitting = plug_classes().get(end.plug or ""), fitting_classes().get(end.fitting or "")
            if plug is not None:
                found.append(_end(lead, side, f"room for its {plug.name}", plug.plan_mm, room.ahead()))
            if fitting is not None:
                found += _of_fitting(lead, side, end, fitting, room)
                ports.append((lead, side, fitting, at))
    return found + _ports_apart(ports)


def _end(lead: Lead, side: Literal["begins", "ends"], what: str, wants: float, has: float) -> EndRoom:
    return EndRoom(lead.id, side, what, wants, min(has, 1e4), "free" if has >= wants else "tight")


def _of_fitting(
    lead: Lead, side: Literal["begins", "ends"], end: LeadEnd, fitting: FittingClass, room: "_Room"
) -> list[EndRoom]:
    """Ahead of a fitting, at its sides for the hand that turns it, and in the sheet that it goes through."""
    found = [_end(lead, side, f"room ahead of its {fitting.name}", fitting.straight_mm, room.ahead())]
    if fitting.turn_mm:
        beside = sorted(room.beside(fitting))
        found.append(_end(lead, side, f"room to turn its {fitting.name}", fitting.turn_mm, beside[-1]))
        found.append(_end(lead, side, f"room all round its {fitting.name}", fitting.beside_mm, beside[0]))
    if end.sheet_mm is not None:
        sheet = float(end.sheet_mm)
        says: EndSays = "free" if sheet <= THROUGH_SHEET_MM else "too thick"
        found.append(
            EndRoom(lead.id, side, f"sheet that its {fitting.name} goes through", THROUGH_SHEET_MM, sheet, says)
        )
    return found


def _ports_apart(ports: list[tuple[Lead, Literal["begins", "ends"], FittingClass, Array]]) -> list[EndRoom]:
    found = []
    for i, (lead, side, fitting, at) in enumerate(ports):
        for other, other_side, other_fitting, there in ports[:i]:
            wants, has = max(fitting.apart_mm, other_fitting.apart_mm), float(np.linalg.norm(at - there))
            if has < wants and (other.id, other_side) != (lead.id, side):
                found.append(_end(lead, side, f"ports apart from {other.name or other.id}", wants, has))
    return found


@dataclass(frozen=True)
class _Room:
    """Free ways from a port: the part that it sits on is not in its way, and what leaves it is its own."""

    build: Build
    boxes: PlacedBoxes
    part: str
    at: Array
    way: Array

    def ahead(self) -> float:
        """How far the way out is free, mm."""
        return self._free(self.at + _OUTSIDE_MM * self.way, self.way) + _OUTSIDE_MM

    def beside(self, fitting: FittingClass) -> list[float]:
        """Free ways at four sides of a fitting, half way up it, beyond its own outside, mm."""
        start = self.at + fitting.height_mm[0] / 2 * self.way
        first = np.cross(self.way, np.eye(3)[int(np.argmin(np.abs(self.way)))])
        first /= np.linalg.norm(first)
        second = np.cross(self.way, first)
        return [
            max(self._free(start, side) - fitting.outside_mm[0] / 2, 0.0) for side in (first, -first, second, -second)
        ]

    def _free(self, start: Array, way: Array) -> float:
        boxes = self.boxes
        others = np.array([part.id != self.part for part in boxes.parts], dtype=bool) & ~boxes.is_board()
        found = free_way(start, way, boxes.middle[others], boxes.half[others], boxes.turned[others])
        return min(float(found.min(initial=np.inf)), self._to_wall(start, way))

    def _to_wall(self, start: Array, way: Array) -> float:
        size = self.build.housing.inner_size_mm
        if size is None:
            return float("inf")
        inside = np.array([float(side) for side in size])
        if (start < 0.0).any() or (start > inside).any():
            return float("inf")  # outside the housing: what stands there nobody told
        with np.errstate(divide="ignore", invalid="ignore"):
            to = np.where(way > 0, (inside - start) / way, np.where(way < 0, -start / way, np.inf))
        return float(to.min())
