"""What parts are fed by: plugs of the board, leads of the supply, splitters and hubs between, sockets in the wall."""

from typing import Annotated, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Day, Slug, Stock
from krill.document.quantities import Described, Quantity

FeedKind = Literal["header", "supply", "mains", "splitter", "hub", "slot", "plug", "adapter", "brick", "other"]
#: classes that the catalogue knows the ratings of
FeedClass = Literal[
    "fan_plug",
    "fan_plug_strong",
    "fan_plug_5v",
    "pump_plug",
    "port_5v",
    "port_5v_fast",
    "slot_full",
    "slot_low",
    "slot_x4",
    "slot_x1",
    "stick_slot",
    "riser_passive",
    "riser_drive",
    "processor_4",
    "processor_8",
    "graphics_6",
    "graphics_8",
    "graphics_split",
    "graphics_16",
    "main_24",
    "drive_flat",
    "drive_old",
    "adapter_6",
    "splitter_fan",
    "hub_drive",
    "brick_round",
    "brick_square",
    "brick_4",
]
Gauge = Literal[16, 18, 20, 22, 24, 26, 28]


class Feed(Strict):
    """A plug, slot, splitter, brick or socket that parts hang on.

    It hangs itself on the feed or supply of ``fed_by``. Its ratings are its own, else those of its class. What is bought
    for it (a splitter, a hub) has a price and a day like any part.
    """

    id: Slug
    name: str = ""
    kind: FeedKind = "other"
    class_: Annotated[FeedClass | None, Described("kind of plug", buys=False)] = Field(default=None, alias="class")
    fed_by: Slug | None = None
    limit_w: Annotated[Figure | None, Quantity("limit", group="drive", unit="W")] = None
    limit_a: Annotated[Figure | None, Quantity("limit", group="drive", unit="A")] = None
    gauge_awg: Annotated[Gauge | None, Described("wire, AWG", buys=False)] = None
    length_m: Annotated[Annotated[Number, Field(gt=0, le=20)] | None, Described("length, m", buys=False)] = None
    wanted: Annotated[
        bool,
        Described("must not stay empty", help="the machine complains at start where nothing is plugged in", buys=False),
    ] = False
    switched_by: str | None = None
    price: Annotated[Figure | None, Quantity("price", group="cost", at_least=0, varies=False)] = None
    stock: Annotated[Stock | None, Described("in hand", buys=False)] = None
    due_on: Annotated[Day | None, Described("expected on", buys=False)] = None
