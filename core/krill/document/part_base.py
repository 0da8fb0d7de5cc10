"""What every part may say of itself, and the words that kinds of parts share."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.quantities import Described, Quantity

Slug = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_-]{0,63}$")]
#: a day as year-month-day
Day = Annotated[str, Field(pattern=r"^(19|20)\d\d-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$")]
#: whether a part is on the table, on its way, or still to be bought
Stock = Literal["in_hand", "ordered", "to_buy"]
Positive = Annotated[Number, Field(gt=0)]
Vector = tuple[Number, Number, Number]
Face = Literal["top", "bottom", "left", "right", "front", "back"]
Metal = Literal["copper", "brass", "nickel", "aluminium", "stainless"]
Plastic = Literal["pla", "petg", "abs", "asa", "pc", "pmma"]
Share = Annotated[Number, Field(ge=0, le=1)]
#: what has to get at a part once the housing is closed: a fingertip, finger and thumb, a hand, a screwdriver
ReachedBy = Literal["finger", "fingers", "hand", "screwdriver"]


class ShelfOrigin(Strict):
    item: str
    version: int


class Outline(Strict):
    """Outer size in the part's own axes, with where its middle sits and how it is turned in housing axes.

    The size is the part's own, else that of the ``body`` class that is named, else of the class of the part. Own axes: x
    length, y width, z thickness or height over what it stands on; turned about x, then y, then z.
    """

    size_mm: tuple[Positive, Positive, Positive] | None = None
    plus_minus_mm: Annotated[Number, Field(ge=0)] | None = None
    body: Slug | None = None
    position_mm: Vector | None = None
    rotation_deg: Vector | None = None
    reached_from: Annotated[Face | None, Described("reached from", buys=False)] = None
    reached_by: Annotated[ReachedBy, Described("reached by", buys=False)] = "fingers"
    goes_in_from: Annotated[Face | None, Described("goes in from", buys=False)] = None


class Part(Strict):
    """What every part may say of itself; a plastic one softens at what ``near`` it gets hot (a body, place or zone).

    It is fed by its ``feed`` and by those of ``also_fed`` (a card by its slot and its plugs), each by its share of their
    ratings. ``due_on`` is when what is ordered should come.

    What is true of every part of a kind stands as class variables: whether it may stand in a loop or in an air path,
    whether the edge that it makes there takes up or gives off heat, whether a route may end in the air that passes it,
    whether it lets air through a face, whether anybody weighs it, whether it lies on a shelf.
    """

    in_loop: ClassVar[bool] = False
    in_air: ClassVar[bool] = False
    exchanges_heat: ClassVar[bool] = False
    takes_routes: ClassVar[bool] = False
    has_mouth: ClassVar[bool] = False
    is_weighed: ClassVar[bool] = True
    on_shelf: ClassVar[bool] = True

    id: Slug
    name: str = ""
    class_: str | None = Field(default=None, alias="class")
    machine: Slug | None = None
    feed: Slug | None = None
    also_fed: Annotated[list[Slug], Field(max_length=8)] = []
    plug: str | None = None
    outline: Outline | None = None
    face: Annotated[Face | None, Described("on the face", buys=False)] = None
    direction: Literal["in", "out"] | None = None
    mass_g: Annotated[Figure | None, Quantity("mass", group="cost", unit="g", varies=False)] = None
    price: Annotated[Figure | None, Quantity("price", group="cost", at_least=0, varies=False)] = None
    from_shelf: ShelfOrigin | None = None
    factor: Annotated[
        Figure | None, Quantity("factor on its result", help="1 is as computed; calibration writes it", group="heat")
    ] = None
    heat_capacity_j_k: Annotated[Figure | None, Quantity("heat capacity", group="heat", unit="J/K")] = None
    plastic: Annotated[Plastic | None, Described("printed in")] = None
    near: Annotated[Slug | None, Described("temperature of", buys=False)] = None
    note: str | None = None
    stock: Annotated[Stock | None, Described("in hand", buys=False)] = None
    due_on: Annotated[Day | None, Described("expected on", buys=False)] = None
