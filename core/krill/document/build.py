"""The build document, version 1: the object that is computed on, stored, edited and written by hand."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Annotated, Any, Literal, Self

from pydantic import Field

from krill.document.assembly import Blocker, Due, StepTold
from krill.document.calibration import Calibration
from krill.document.feeds import Feed
from krill.document.figures import Figure, Number, Strict
from krill.document.fit import PlateContact, Slot
from krill.document.holding import Holding, NearHeat
from krill.document.leads import Insulator, Lead
from krill.document.part_base import Face, Positive, Slug, Vector
from krill.document.parts import AnyPart, Place, Source, Supply
from krill.document.quantities import MAX_WATTS, Described, Quantity

FORMAT = "krill-build"
VERSION = 1


#: rooms and places that anything is computed for
ROOM_C, ALTITUDE_M = (-40, 70), (-500, 6000)


class Room(Strict):
    id: Slug
    name: str = ""
    air_c: Annotated[
        Figure,
        Quantity(
            "air temperature",
            group="heat",
            unit="°C",
            above=None,
            at_least=ROOM_C[0],
            at_most=ROOM_C[1],
            because="the laws of air and coolant are made for rooms between them",
        ),
    ]
    altitude_m: Annotated[
        Number, Field(ge=ALTITUDE_M[0], le=ALTITUDE_M[1]), Quantity("altitude", unit="m", above=None)
    ] = 0
    humidity_share: Annotated[
        Figure | None,
        Quantity(
            "relative humidity",
            help="what is colder than the dew point of its air gets wet",
            group="heat",
            at_most=1,
            tolerance=0.15,
            varies=False,
        ),
    ] = None


class Brief(Strict):
    purpose: str = ""
    margin_wanted_k: Number = 3
    listener_m: Positive = 1
    coolest_room: Slug | None = None
    hottest_room: Slug | None = None
    worst_workloads: list[Slug] = []
    energy_price: Number | None = None
    hours_per_day: Number | None = None
    work_hours: Annotated[Number, Field(ge=0)] | None = None


#: what the floor of a housing is of
Floor = Literal["steel", "aluminium", "printed", "acrylic", "plywood"]


class Housing(Strict):
    """Inner size is width x depth x height: x to the right, y to the back, z up from the inner corner left, front, bottom.

    ``nearby_mm`` is how far a wall or table stands from a face.
    """

    inner_size_mm: Vector | None = None
    gravity: Annotated[Vector, Described("which way is down", buys=False)] = (0, 0, -1)
    material: str | None = None
    closed_faces: list[Face] = []
    feet_mm: Number | None = None
    floor: Annotated[Floor | None, Described("floor of", buys=False)] = None
    floor_mm: Annotated[Annotated[Number, Field(ge=0.1, le=100)] | None, Described("floor, mm", buys=False)] = None
    nearby_mm: dict[Face, Positive] = {}


class Machine(Strict):
    id: Slug
    name: str = ""


class Zone(Strict):
    """A body of air: an outside one refers to a room (or carries its own temperature), a box or chamber is solved.

    A box gives heat through its walls to the zone ``beyond`` (the first outside one where none is named).
    """

    id: Slug
    name: str = ""
    kind: Literal["outside", "box"]
    room: Slug | None = None
    air_c: Annotated[
        Figure | None, Quantity("air temperature", group="heat", unit="°C", above=None, at_least=-100, at_most=300)
    ] = None
    wall_w_k: Annotated[
        Figure | None, Quantity("heat through the walls", group="heat", unit="W/K", at_least=0, tolerance="15%")
    ] = None
    beyond: Slug | None = None
    cross_section_cm2: Annotated[Figure | None, Quantity("cross section", unit="cm²")] = None
    heat_capacity_j_k: Annotated[Figure | None, Quantity("heat capacity", group="heat", unit="J/K")] = None


class Parallel(Strict):
    """Branches that a flow splits into; each is a series of its own."""

    parallel: Annotated[list[list[Element]], Field(min_length=2)]


Element = Slug | Parallel


class CoolantMixture(Strict):
    fluid: Literal["water", "ethylene_glycol", "propylene_glycol"] = "water"
    mass_share: Annotated[Number, Field(ge=0, le=0.6)] = 0


class Loop(Strict):
    """A closed circuit as a series/parallel tree in flow order; ``fill`` and ``drain`` are the elements that it is filled
    and emptied by. One that is ``sealed`` was bought filled, as one piece: nobody fills, bleeds or tops it up."""

    id: Slug
    name: str = ""
    sealed: Annotated[bool, Described("bought filled and sealed", buys=False)] = False
    fill: Annotated[Slug | None, Described("filled at", buys=False)] = None
    drain: Annotated[Slug | None, Described("emptied at", buys=False)] = None
    coolant: CoolantMixture = CoolantMixture()
    volume_l: Annotated[Figure | None, Quantity("volume", group="flow", unit="l", tolerance="15%")] = None
    elements: Annotated[list[Element], Field(min_length=1), Described("elements", buys=False)]


class AirPath(Strict):
    """A way of air from one zone to another through ordered elements."""

    id: Slug
    name: str = ""
    start: Annotated[Slug, Described("from", buys=False)] = Field(alias="from_zone")
    end: Annotated[Slug, Described("to", buys=False)] = Field(alias="to_zone")
    elements: Annotated[list[Element], Field(min_length=1), Described("elements", buys=False)]


#: how the mouths of an exhaust and an intake lie: on one face (or round a corner before a near wall), with nothing near
#: them, on opposite faces, or both beneath a housing that stands on feet
Mouths = Literal["one_face", "free", "opposite_faces", "over_feet"]


class Recirculation(Strict):
    """The share of an intake path's air that comes from the end of an exhaust path.

    Stated, or by ``apart_mm``: from edge to edge of the two mouths, over feet the height of the feet.
    """

    id: Slug
    exhaust: Slug = Field(alias="from_path")
    intake: Slug = Field(alias="to_path")
    mouths: Annotated[Mouths, Described("how the two mouths lie", group="flow", buys=False)] = "free"
    apart_mm: Annotated[
        Figure | None,
        Quantity(
            "from edge to edge",
            help="between exhaust and intake; over feet the height of the feet",
            group="flow",
            buys=False,
            unit="mm",
            at_least=0,
            tolerance="20%",
        ),
    ] = None
    recirculated_share: Annotated[
        Figure | None,
        Quantity(
            "recirculation",
            help="share of the exhaust that the intake draws back in",
            group="flow",
            buys=False,
            at_least=0,
            at_most=1,
            tolerance="40%",
        ),
    ] = None


class Hop(Strict):
    """One step of a route.

    On the way: through an interface, a spreader (block), or heat ``pipes`` (``parts``: groups of like pipes side by side).
    At its end: a plate, the air stream of a part, a zone's air, or a body (sink, panel) at ``at_mm`` from a corner of it.
    """

    id: Slug
    name: str = ""
    kind: Literal["interface", "spreader", "pipes", "plate", "stream", "air", "body"]
    part: Slug | None = None
    parts: list[Slug] = []
    at_mm: tuple[Number, Number] | None = None
    zone: Slug | None = None
    resistance_k_w: Annotated[Figure | None, Quantity("resistance", group="heat", unit="K/W", tolerance="20%")] = None


class Route(Strict):
    """A way of a place's heat, ordered from the place outwards; the first of a place is the named one.

    Further ones start at the place itself, past its package: a board, a backplate. Their watts are side flows.
    """

    id: Slug
    place: Slug
    hops: Annotated[list[Hop], Field(min_length=1)]


class Bond(Strict):
    """Metal that joins two bodies along a seam: a stated conductance, or the seam's length and what lies in it.

    From a seam the heat has a third of each sheet's extent to go on average (uniform loss, closed form).
    """

    id: Slug
    first: Slug
    second: Slug
    conductance_w_k: Annotated[Figure | None, Quantity("conductance", group="heat", unit="W/K", tolerance="15%")] = None
    seam_mm: Annotated[Figure | None, Quantity("length of the seam", unit="mm")] = None
    overlap_mm: Annotated[Figure | None, Quantity("overlap", unit="mm")] = None
    joint_mm2k_w: Annotated[
        Figure | None, Quantity("joint in the seam", group="heat", unit="mm²·K/W", tolerance="33%")
    ] = None


class FanCurve(Strict):
    """Duty by what a sensor says, rising: degrees C of a place or loop, or per cent of load of a supply.

    It falls only once the sensor has cooled by ``hysteresis_k``. ``up_s`` and ``down_s`` are how slowly the speed follows:
    after so many seconds a third of the way is left (common practice: up 1 to 5, down 5 to 30).
    """

    sensor: Slug
    points: Annotated[list[tuple[Number, Annotated[Number, Field(ge=0, le=1)]]], Field(min_length=2)]
    hysteresis_k: Annotated[Number, Field(ge=0, le=50)] = 2
    up_s: Annotated[Number, Field(ge=0, le=600)] = 3
    down_s: Annotated[Number, Field(ge=0, le=600)] = 15


class Command(Strict):
    """What a mover is told in a workload: one of the four."""

    duty: Annotated[Number, Field(ge=0, le=1)] | None = None
    speed_rpm: Annotated[Number, Field(ge=0)] | None = None
    curve: FanCurve | None = None
    off: Literal[True] | None = None


class Burst(Strict):
    """Watts that a source draws at first; then it falls to those of the load, at once or over ``falls_over_s``.

    ``until`` time they last ``hold_s``; until mean they last until the running mean of its watts (exponential, of
    ``hold_s``) has come up to those of the load, as processors with a timed limit do (common practice).
    """

    power_w: Annotated[Number, Field(ge=0)]
    hold_s: Annotated[Number, Field(gt=0)]
    until: Literal["time", "mean"] = "time"
    falls_over_s: Annotated[Number, Field(ge=0)] | None = None


#: which cores work: all of them hard, a few (a game), or all of them alike
CoresAtWork = Literal["all", "few", "even"]


class Workload(Strict):
    """A state of the machine: watts of each source and a command for each mover."""

    id: Slug
    name: str = ""
    watts: Annotated[
        dict[Slug, Figure],
        Quantity(
            "watts",
            group="heat",
            buys=False,
            unit="W",
            at_least=0,
            at_most=MAX_WATTS,
            tolerance="5%",
            because="more is a slip of the unit",
        ),
    ]
    burst: dict[Slug, Burst] = {}
    movers: Annotated[dict[Slug, Command], Described("what fans and pumps are told", buys=False)] = {}
    cores: Annotated[
        CoresAtWork,
        Described(
            "kind of load",
            help="all: every core driven hard (torture); few: a game; even: every core alike, without a hot spot",
            group="heat",
            buys=False,
        ),
    ] = "all"
    duration_min: Positive | None = None
    sound_ceiling_dba: Number | None = None


class ReadyMade(Strict):
    """Something to buy instead: figures as stated by whoever sells or measured it, places over the room in K."""

    id: Slug
    name: Annotated[str, Field(min_length=1, max_length=120)]
    price: Annotated[Number, Field(ge=0)] | None = None
    height_mm: Positive | None = None
    mass_g: Positive | None = None
    level_dba: Number | None = None
    power_w: Annotated[Number, Field(ge=0)] | None = None
    work_hours: Annotated[Number, Field(ge=0)] | None = None
    over_room_k: dict[Slug, Number] = {}
    note: str = ""


class Build(Strict):
    """A whole build.

    ``prices`` is what options would cost by ``address=value``: the user's own figures for what the build has not got.
    ``locked`` names parts and figures (by address) that sizing leaves alone, ``cautions_read`` the cautions that were
    acknowledged for this build. ``calibration`` is what runs have taught about its figures.
    """

    format: Literal["krill-build"]
    version: Literal[1]
    written_by: str | None = None
    name: Annotated[str, Field(min_length=1, max_length=120)]
    notes: str = ""
    brief: Brief = Brief()
    rooms: Annotated[list[Room], Field(min_length=1)]
    machines: list[Machine] = []
    housing: Housing = Housing()
    parts: list[AnyPart] = []
    zones: list[Zone] = []
    air_paths: list[AirPath] = []
    recirculations: list[Recirculation] = []
    loops: list[Loop] = []
    routes: list[Route] = []
    bonds: list[Bond] = []
    workloads: list[Workload] = []
    feeds: list[Feed] = []
    leads: Annotated[list[Lead], Field(max_length=500)] = []
    insulators: Annotated[list[Insulator], Field(max_length=200)] = []
    holdings: Annotated[list[Holding], Field(max_length=200)] = []
    near_heat: Annotated[list[NearHeat], Field(max_length=200)] = []
    slots: Annotated[list[Slot], Field(max_length=200)] = []
    contacts: Annotated[list[PlateContact], Field(max_length=200)] = []
    assembly: Annotated[list[Blocker], Field(max_length=1000)] = []
    steps: Annotated[list[StepTold], Field(max_length=300)] = []
    dues: Annotated[list[Due], Field(max_length=200)] = []
    ready_made: list[ReadyMade] = []
    prices: dict[str, Annotated[Number, Field(ge=0)]] = {}
    locked: list[Annotated[str, Field(min_length=1, max_length=200)]] = []
    cautions_read: list[Slug] = []
    calibration: Calibration | None = None

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy with other fields; what was worked out from the old ones is not taken along."""
        copied = super().model_copy(update=update, deep=deep)
        for name in copied.__dict__.keys() - type(self).model_fields.keys():
            del copied.__dict__[name]
        return copied

    def part(self, part_id: str) -> Any:
        """The part of an id; KeyError where there is none (a read document has no dangling ids)."""
        return self._by_id[part_id]

    @cached_property
    def _by_id(self) -> dict[str, Any]:
        return {part.id: part for part in self.parts}

    def owner(self, item: str) -> Strict | None:
        """What an id belongs to, a part, place, hop, zone or whatever else has one; None where nothing has it."""
        return self._owners.get(item)

    @cached_property
    def _owners(self) -> dict[str, Strict]:
        lists = [value for _, value in self if isinstance(value, list)]
        found: dict[str, Strict] = {item.id: item for items in lists for item in items if hasattr(item, "id")}
        found |= {place: owned for place, (owned, _) in self.place_owners().items()}
        found |= {joint.id: joint for contact in self.contacts for joint in contact.joints}
        return found | {hop.id: hop for route in self.routes for hop in route.hops}

    def feeds_above(self, feed: str | None) -> list[str]:
        """What hangs on which feed, from one upwards, the nearest first: feeds, and the supply that they end at."""
        hangs_on = {one.id: one.fed_by for one in self.feeds}
        found = []
        while feed is not None:
            found.append(feed)
            feed = hangs_on.get(feed)
        return found

    def heat_sources(self) -> list[Source | Supply]:
        return [part for part in self.parts if isinstance(part, Source | Supply)]

    def place_owners(self) -> dict[str, tuple[Place, Source | Supply]]:
        """Place id -> (place, the source it belongs to)."""
        return {place.id: (place, part) for part in self.heat_sources() for place in part.places}


def leaves(elements: list[Element]) -> list[str]:
    """Ids in a series/parallel tree, in flow order."""
    ids: list[str] = []
    for element in elements:
        if isinstance(element, Parallel):
            for branch in element.parallel:
                ids += leaves(branch)
        else:
            ids.append(element)
    return ids


def in_one_piece(loops: list[Loop]) -> list[frozenset[str]]:
    """Of each loop that was bought filled and sealed its elements: they go in together."""
    return [frozenset(leaves(loop.elements)) for loop in loops if loop.sealed]


Parallel.model_rebuild()
Loop.model_rebuild()
AirPath.model_rebuild()
Build.model_rebuild()
