"""What holds parts up, and what burns, chars or creeps beside hot ones."""

from typing import Annotated, Final, Literal, get_args

from pydantic import Field

from krill.document.figures import Strict
from krill.document.part_base import Positive, Slug
from krill.document.quantities import Described

#: how a weight pulls on a joint: away from it, or along it
Pull = Literal["pulls", "shears"]
#: what lies beside heat and must not get warm through
Beside = Literal["wood", "card", "cloth", "foam", "felt"]
#: classes of joints that carry by their area, and by their number
GluedKind = Literal[
    "foam_tape",
    "thermal_tape",
    "hot_glue",
    "hook_strip",
    "contact_glue",
    "silicone",
    "superglue",
    "epoxy_fast",
    "epoxy_slow",
    "thermal_glue",
]
PieceKind = Literal[
    "rivet",
    "panel_clip",
    "spring_pin",
    "tie_25",
    "tie_36",
    "tie_48",
    "insert_pla",
    "insert_petg",
    "insert_abs",
    "self_tapper",
    "thread_steel",
    "thread_aluminium",
    "nut_rivet",
    "card_slot",
    "tower_mount",
]
#: classes of joints that the catalogue knows the strength of
JointKind = Literal[GluedKind, PieceKind]
GLUED: Final[tuple[str, ...]] = get_args(GluedKind)


class Holding(Strict):
    """Parts that one joint carries: so many pieces of a class of joint, or so much area of a tape or glue.

    ``near`` is the body, place or zone whose temperature the joint has; without it the hottest of what is held.
    """

    id: Slug
    name: str = ""
    parts: Annotated[list[Slug], Field(min_length=1, max_length=50)]
    by: Annotated[JointKind, Described("held by", buys=False)]
    count: Annotated[int, Field(ge=1, le=200), Described("pieces")] = 1
    area_cm2: Annotated[Positive | None, Described("area, cm²", buys=False)] = None
    pull: Annotated[Pull, Described("the weight", buys=False)] = "pulls"
    near: Annotated[Slug | None, Described("temperature of", buys=False)] = None
    travels: Annotated[bool, Described("travels upright", buys=False)] = False


class NearHeat(Strict):
    """Wood, card, cloth, foam or felt beside something hot: ``apart_mm`` away, or behind a metal sheet with air between."""

    id: Slug
    name: str = ""
    what: Beside
    near: Annotated[Slug, Described("temperature of", buys=False)]
    apart_mm: Annotated[float, Field(ge=0, le=1000), Described("apart, mm", buys=False)] = 0
    behind_sheet: Annotated[bool, Described("behind a metal sheet with 10 mm of air", buys=False)] = False
