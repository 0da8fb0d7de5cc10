"""Leads and tubes in space: how long they are, where they kink, what they run through, what blades they come near.

The length to order is the way, the bends of the plugs at both ends and slack, up to the next ten (common practice); of a
tube, whose ends are pushed over their fittings, it is the way and a little to cut square.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import ceil
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.leads import LeadClass, lead_classes, plug_classes
from krill.document.build import Build
from krill.document.figures import detail
from krill.document.leads import Lead
from krill.document.parts import Fan, Tube
from krill.fit.extents import body_of
from krill.fit.lead_ends import EndRoom, end_rooms, leaves_straight, points_of
from krill.fit.placed_boxes import PlacedBoxes
from krill.fit.polyline import corners_in, length_of, passes, sampled
from krill.fit.tube_bends import SoftTube, tube_bend

Array = NDArray[np.float64]
LeadSays = Literal["unknown", "to order", "long enough", "taut", "does not reach"]
BendSays = Literal["lies", "measure", "kinks"]

#: slack of a lead: at least so much, or that share of its way; of one that two hands plug inside the box, more
SLACK_MM: Final = 25.0
SLACK_SHARE: Final = 0.08
TWO_HANDS_MM: Final = 60.0
#: to cut a tube square, and a share of its way that it lies longer than drawn (estimate)
TUBE_SLACK_MM: Final = 10.0
TUBE_SLACK_SHARE: Final = 0.03
#: a lead shorter than this share of its way does not reach
REACHES: Final = 0.95
#: leads and ties keep so far from blades, or are tied
FROM_BLADES_MM: Final = 10.0
#: what a bend of a class may be tighter or wider (common practice)
BEND_SHARE: Final = 0.25
#: blades reach to this share of a fan's half size where its class tells no opening (estimate)
BLADES_SHARE: Final = 0.96
#: a tube of no stated outside is its bore and two walls of so much, mm (estimate)
WALL_MM: Final = 3.0
#: what blocks more belongs out of the path
MOST_BLOCKED: Final = 0.95
#: leads lie in a part's outline by so much before they are said to run through it
_THROUGH_MM: Final = 2.0
_STEP_MM: Final = 2.0
#: pieces are longer than what the loop was told beyond this share of it, and so many mm (estimate)
LONGER_SHARE: Final = 0.1
LONGER_MM: Final = 20.0
#: parts that tubes and leads end in or pass through by their make
_PASSED: Final = ("tube", "fitting", "coupling", "duct", "gap", "obstacle", "opening", "interface", "filter")


@dataclass(frozen=True, slots=True)
class LeadBend:
    """One turn of a lead: the radius that there is room for, and what its kind takes, mm."""

    at_mm: tuple[float, float, float]
    turn_deg: float
    radius_mm: float
    least_mm: float
    half_mm: float
    says: BendSays


@dataclass(frozen=True, slots=True)
class NearBlades:
    fan: str
    name: str
    mm: float


@dataclass(frozen=True, slots=True)
class LeadFit:
    """A lead or tube as it is laid; lengths are None where it has no points. ``longest_mm`` is its way to the farthest of the
    places that its end must reach, ``order_mm`` what is ordered or cut for that."""

    lead: str
    name: str
    is_tube: bool
    outside_mm: float
    path_mm: float | None
    longest_mm: float | None
    order_mm: float | None
    stated_mm: float | None
    says: LeadSays
    bends: list[LeadBend]
    near: list[NearBlades]
    through: list[str]
    ends: list[EndRoom]


@dataclass(frozen=True, slots=True)
class TubeLength:
    """A tube of a loop against the pieces of it that are laid so far, mm, and whether those are longer already."""

    tube: str
    name: str
    stated_mm: float
    laid_mm: float
    longer: bool


def lead_fits(build: Build, boxes: PlacedBoxes) -> list[LeadFit]:
    """Every lead and tube of a build among the parts that have a place."""
    ends = end_rooms(build, boxes)
    return [_fit(build, boxes, lead, [end for end in ends if end.lead == lead.id]) for lead in build.leads]


def tube_lengths(build: Build, leads: list[LeadFit]) -> list[TubeLength]:
    """Tubes of loops of which pieces are laid: what is drawn against what the network was told."""
    found = []
    laid = {fit.lead: fit.path_mm for fit in leads if fit.path_mm is not None}
    for part in build.parts:
        pieces = [laid[lead.id] for lead in build.leads if lead.tube == part.id and lead.id in laid]
        if not isinstance(part, Tube) or not pieces:
            continue
        stated, total = 1000 * float(detail(part.length_m).value), sum(pieces)
        longer = total > stated + max(LONGER_SHARE * stated, LONGER_MM)
        found.append(TubeLength(part.id, part.name or part.id, stated, total, longer))
    return found


def outside_of(build: Build, lead: Lead) -> float:
    """How thick a lead or tube is outside (the width of a flat one), mm."""
    if lead.outside_mm is not None:
        return float(lead.outside_mm)
    kind = class_of_lead(lead)
    if kind is not None:
        return kind.outside_mm[0]
    return (_bore(build, lead) or 4.0) + 2 * WALL_MM if lead.tube else 4.0


def blocked_share(build: Build, leads: list[str], section_mm2: float) -> float:
    """What leads and tubes block of a section that they cross, each on the shortest way: 0 to MOST_BLOCKED."""
    across = section_mm2**0.5
    crossing = [outside_of(build, lead) for lead in build.leads if lead.id in leads]
    return float(min(sum(crossing) * across / section_mm2, MOST_BLOCKED))


def class_of_lead(lead: Lead) -> LeadClass | None:
    """The class of a lead; None where it names none."""
    return lead_classes().get(lead.class_ or "")


def _bore(build: Build, lead: Lead) -> float | None:
    return None if lead.tube is None else float(detail(build.part(lead.tube).bore_mm).value)


def _fit(build: Build, boxes: PlacedBoxes, lead: Lead, ends: list[EndRoom]) -> LeadFit:
    points = points_of(lead)
    outside, is_tube = outside_of(build, lead), lead.tube is not None
    stated = None if lead.length_mm is None else float(detail(lead.length_mm).value)
    if len(points) < 2:
        return LeadFit(
            lead.id, _name(build, lead), is_tube, outside, None, None, None, stated, "unknown", [], [], [], ends
        )
    least, half = _least_bend(build, lead, outside)
    bends = _bends(lead, points, least, half)
    path = _way(lead, points, least)
    longest = max([path, *(_way(lead, _ending(points, end), least) for end in lead.also_ends_at_mm)])
    order = _order(lead, longest, is_tube=is_tube)
    return LeadFit(
        lead=lead.id,
        name=_name(build, lead),
        is_tube=is_tube,
        outside_mm=outside,
        path_mm=path,
        longest_mm=longest,
        order_mm=order,
        stated_mm=stated,
        says=_says(stated, longest, order),
        bends=bends,
        near=[] if lead.tied else _near_blades(boxes, points, outside),
        through=_through(boxes, lead, points, outside),
        ends=ends,
    )


def _name(build: Build, lead: Lead) -> str:
    if lead.name:
        return lead.name
    first, last = (build.part(end).name or end for end in (lead.from_part, lead.to_part))
    return f"{'tube' if lead.tube else 'lead'} {first} to {last}"


def _least_bend(build: Build, lead: Lead, outside: float) -> tuple[float, float]:
    """The tightest radius of a middle line, and its half width."""
    bore = _bore(build, lead)
    if bore is not None and outside >= bore + 0.4:
        bend = tube_bend(SoftTube(bore, outside, lead.material))
        return bend.radius_mm, bend.half_mm
    kind = class_of_lead(lead)
    radius = 3.0 * outside if kind is None else kind.bend_mm
    return radius, BEND_SHARE * radius


def _bends(lead: Lead, points: Array, least: float, half: float) -> list[LeadBend]:
    found = corners_in(points, leaves_straight(lead))
    laid = np.inf if lead.bend_mm is None else float(lead.bend_mm)
    bends = []
    for at, turn, room in zip(found.at, found.turn, found.room, strict=True):
        radius = min(float(room), laid)
        says: BendSays = "lies" if radius >= least + half else "measure" if radius >= least - half else "kinks"
        where = (float(at[0]), float(at[1]), float(at[2]))
        bends.append(LeadBend(where, float(np.rad2deg(turn)), min(radius, 1e4), least, half, says))
    return bends


def _way(lead: Lead, points: Array, least: float) -> float:
    """Length of the middle line: its turns as they are told, else as tightly as its kind bends, where there is room."""
    room = corners_in(points, leaves_straight(lead)).room
    return length_of(points, np.minimum(room, least if lead.bend_mm is None else float(lead.bend_mm)))


def _ending(points: Array, end: tuple[float, float, float]) -> Array:
    return np.vstack([points[:-1], np.array([[float(v) for v in end]])])


def _order(lead: Lead, longest: float, *, is_tube: bool) -> float:
    if is_tube:
        return float(ceil(longest + max(TUBE_SLACK_MM, TUBE_SLACK_SHARE * longest)))
    plugs = [plug_classes().get(end.plug or "") for end in (lead.begins, lead.ends)]
    bends = sum(plug.bend_mm for plug in plugs if plug is not None)
    slack = max(SLACK_MM, SLACK_SHARE * longest) + (TWO_HANDS_MM if lead.plugged_inside else 0.0)
    return 10.0 * ceil((longest + bends + slack) / 10.0)


def _says(stated: float | None, longest: float, order: float) -> LeadSays:
    if stated is None:
        return "to order"
    if stated < REACHES * longest:
        return "does not reach"
    return "long enough" if stated >= order else "taut"


def _near_blades(boxes: PlacedBoxes, points: Array, outside: float) -> list[NearBlades]:
    """Fans whose blades a line comes nearer than it should, before or behind their frames or through them."""
    fans = [at for at, part in enumerate(boxes.parts) if isinstance(part, Fan)]
    lines: Iterable[Array] = boxes.local(sampled(points, _STEP_MM), fans) if fans else []
    found = []
    for at, line in zip(fans, lines, strict=True):
        part = boxes.parts[at]
        body = body_of(part)
        blades = BLADES_SHARE * float(boxes.half[at, 0])
        if body is not None and body.cut_mm is not None:
            blades = body.cut_mm / 2
        beside = np.maximum(np.hypot(line[:, 0], line[:, 1]) - blades, 0.0)
        before = np.maximum(np.abs(line[:, 2]) - boxes.half[at, 2], 0.0)
        # beside the frame, between its faces, the frame itself keeps leads from the blades
        apart = np.where((before == 0.0) & (beside > 0.0), np.inf, np.hypot(beside, before)) - outside / 2
        least = float(apart.min())
        if least < FROM_BLADES_MM:
            found.append(NearBlades(part.id, part.name or part.id, max(least, 0.0)))
    return found


def _through(boxes: PlacedBoxes, lead: Lead, points: Array, outside: float) -> list[str]:
    """Parts whose outlines a line runs through; over boards and cards leads lie between their tallest parts."""
    inside = passes(boxes.local(points), boxes.half - _THROUGH_MM + outside / 2) & ~boxes.is_board()
    own = (lead.from_part, lead.to_part, lead.tube)
    return [
        part.name or part.id
        for part, hit in zip(boxes.parts, inside, strict=True)
        if hit and part.id not in own and part.kind not in _PASSED
    ]
