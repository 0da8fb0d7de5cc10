"""Leads and tubes from one part to another: which kind, through which points, how they end."""

from typing import Annotated, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Positive, Slug, Vector
from krill.document.quantities import Described, Quantity

#: of what a soft tube is made
TubeMaterial = Literal["soft_clear", "rubber", "polyurethane", "silicone"]
#: classes that the catalogue knows the thickness, the bend and the room of
LeadKind = Literal[
    "wire_18",
    "wire_18_silicone",
    "fan",
    "fan_sleeved",
    "main_round",
    "main_flat",
    "main_silicone",
    "feed_8",
    "feed_8_flat",
    "feed_16",
    "drive_feed",
    "data_flat",
    "data_round",
    "front_port",
    "front_port_small",
    "riser",
    "mains",
]
PlugKind = Literal[
    "main_24",
    "processor_8",
    "graphics_8",
    "graphics_16",
    "fan",
    "data",
    "drive",
    "front_port",
    "front_port_small",
    "riser",
]
FittingKind = Literal[
    "stop_plug",
    "barb",
    "compression_8_11",
    "compression_10_13",
    "compression_10_16",
    "compression_12_19",
    "collar_12",
    "collar_14",
    "collar_16",
    "rotary_45",
    "rotary_90",
    "fixed_90",
    "coupling_small",
    "coupling_large",
]


class LeadEnd(Strict):
    """How a lead or tube ends: a plug or fitting by its class, through a sheet of a thickness where it goes through one."""

    plug: Annotated[PlugKind | None, Described("plug", buys=False)] = None
    fitting: Annotated[FittingKind | None, Described("fitting", buys=False)] = None
    sheet_mm: Annotated[Positive | None, Described("through a sheet of, mm", buys=False)] = None


class Lead(Strict):
    """A lead or tube from one part to another.

    ``class`` is that of a lead; ``tube`` the tube of a loop that it is, whose bore it has, ``outside_mm`` how thick that is
    outside. ``points_mm`` are the corners of its middle line in the housing, its two ends the first and the last; corners
    are laid with ``bend_mm``, else as tightly as its class bends. ``also_ends_at_mm`` are places where its far end has to
    be while it is put in: it must be long enough for the farthest. ``tied`` within 40 mm of blades it cannot reach them.
    """

    id: Slug
    name: str = ""
    from_part: Slug
    to_part: Slug
    class_: Annotated[LeadKind | None, Described("kind of lead", buys=False)] = Field(default=None, alias="class")
    tube: Slug | None = None
    outside_mm: Annotated[Positive | None, Described("outside, mm", buys=False)] = None
    material: Annotated[TubeMaterial, Described("tube of", buys=False)] = "soft_clear"
    points_mm: Annotated[list[Vector], Field(max_length=60)] = []
    bend_mm: Positive | None = None
    also_ends_at_mm: Annotated[list[Vector], Field(max_length=20)] = []
    begins: LeadEnd = LeadEnd()
    ends: LeadEnd = LeadEnd()
    plugged_inside: Annotated[bool, Described("plugged with two hands inside", buys=False)] = False
    tied: Annotated[bool, Described("tied within 40 mm of blades", buys=False)] = False
    socket: str | None = None
    length_mm: Annotated[Figure | None, Quantity("length", unit="mm", varies=False, tolerance="5%")] = None


class Insulator(Strict):
    """A sheet between two parts, or a part and a face of the housing: a step of the work, before first power."""

    id: Slug
    first: Slug
    second: Slug
    sheet_mm: Number = 0.5
