"""What the document says of room: slots with their stacks, and what lies under a plate."""

from typing import Annotated, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Face, Slug
from krill.document.quantities import Described, Quantity

#: what a stack begins or ends at: a sheet without holes, one with holes, a mesh or guard, nothing, or another part
Bound = Literal["closed", "perforated", "mesh", "open", "part"]
#: what lies in a joint under a plate
Filler = Literal["paste", "pad", "putty", "nothing"]
#: how hard a pad is, Shore 00: 20 to 30, 40 to 50, 55 to 65, 70 to 80
Hardness = Literal["very_soft", "soft", "middle", "firm"]


class Layer(Strict):
    """Something in a stack: a part of the build, or what is none (a gasket, a cable, screw heads), as thick as it says.

    A part that is given no thickness here is as thick as it states itself, or as its class is.
    """

    part: Slug | None = None
    name: str = ""
    thickness_mm: Annotated[
        Figure | None, Quantity("thickness", buys=False, unit="mm", at_least=0, tolerance=0.5, varies=False)
    ] = None


class Slot(Strict):
    """A gap that parts stand in one behind the other, from what it ``begins`` at to what it ``ends`` at.

    ``face`` is the face of the housing where it begins; ``screw_mm`` is the length of the screws that hold what stands
    before a radiator to it.
    """

    id: Slug
    name: str = ""
    gap_mm: Annotated[Figure, Quantity("slot", buys=False, unit="mm", tolerance=0.5, varies=False)]
    face: Face | None = None
    begins: Annotated[Bound, Described("begins at", buys=False)] = "closed"
    ends: Annotated[Bound, Described("ends at", buys=False)] = "part"
    ends_at: str = ""
    stack: Annotated[list[Slug | Layer], Field(max_length=100)] = []
    screw_mm: Annotated[Annotated[Number, Field(gt=0, le=1000)] | None, Quantity("screws", unit="mm", varies=False)] = (
        None
    )


class Joint(Strict):
    """One thing under a plate: how high it stands over the board, what the plate's face does over it, what fills the gap.

    ``step_mm`` is how far the plate's face stands back there from its face over the chip. ``interface`` is the part that
    heat goes through here: its resistance follows from what is left between the two.
    """

    id: Slug
    name: str = ""
    interface: Slug | None = None
    height_mm: Annotated[
        Figure, Quantity("height over the board", buys=False, unit="mm", at_least=0, tolerance=0.1, varies=False)
    ]
    step_mm: Annotated[
        Figure,
        Quantity("plate stands back", buys=False, unit="mm", above=None, at_least=-50, tolerance=0.05, varies=False),
    ] = 0
    area_mm2: Annotated[
        Figure | None, Quantity("area", buys=False, unit="mm²", at_least=1, tolerance="15%", varies=False)
    ] = None
    filler: Annotated[Filler, Described("filled with")] = "nothing"
    pad_mm: Annotated[Figure | None, Quantity("pad", unit="mm", tolerance="5%", varies=False)] = None
    hardness: Annotated[Hardness, Described("hardness")] = "soft"
    conductivity_w_mk: Annotated[
        Figure | None, Quantity("conductivity, as printed", group="heat", unit="W/m·K", tolerance="10%", varies=False)
    ] = None


class PlateContact(Strict):
    """A plate over a board: the first joint is the chip that it is pressed on, the rest stand beside it."""

    id: Slug
    name: str = ""
    plate: Slug | None = None
    joints: Annotated[list[Joint], Field(min_length=1, max_length=100)]
    force_n: Annotated[Figure | None, Quantity("mounting force", unit="N", tolerance="40%", varies=False)] = None
    screws: Annotated[int, Field(ge=0, le=12), Described("screws in the plate")] = 4
    screws_used: Annotated[int | None, Field(ge=0, le=12), Described("screws in use")] = None
    diagonal: Annotated[bool, Described("two screws across", buys=False)] = True


def parts_in(slot: Slot) -> list[str | None]:
    """The part of each thing in a stack, in their order; None for what is no part."""
    return [item.part if isinstance(item, Layer) else item for item in slot.stack]
