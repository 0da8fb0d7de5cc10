"""What the document says of the work: what goes in before what, steps and gates of the designer's own, what is due."""

from typing import Annotated, Final, Literal

from pydantic import Field

from krill.document.figures import Number, Strict
from krill.document.part_base import Day, Face, Slug
from krill.document.quantities import Described

#: what must be seen to work before it is hidden
GateKind = Literal[
    "gate-bench-start",
    "gate-memory-found",
    "gate-fans-turn",
    "gate-loop-closed",
    "gate-pump-moves",
    "gate-leak-watch",
    "gate-image",
    "gate-earth",
    "gate-insulated",
    "gate-last-start",
]
#: steps that belong to no part, sheet, lead or loop
FirmwareStep = Literal["firmware", "close-panels"]
#: beginnings of the ids of steps that prepare a part, cut a face, or plug in a supply's leads
PREPARE: Final = "prepare-"
CUT: Final = "cut-"
LEADS_OF: Final = "leads-of-"

Why = Annotated[str, Field(max_length=300)]


class Blocker(Strict):
    """``first`` must be in before ``then``, because ``why``: parts, leads, sheets, loops (their fill) or steps.

    One that does not ``hold`` drops an order that Krill proposes.
    """

    first: Slug
    then: Slug
    why: Why = ""
    holds: Annotated[bool, Described("holds", buys=False)] = True


class StepTold(Strict):
    """What the designer says of a step: of the one of ``at``, or a step (or gate) of its own.

    ``at`` is a part, lead, sheet, loop, or the id of a step that Krill proposes; what is left out stays as proposed. A gate
    ``sees`` things that must still be in reach when it is looked at. A step that is ``left_out`` is not done.
    """

    id: Slug
    at: Slug | None = None
    name: Annotated[str, Field(max_length=120)] = ""
    gate: Annotated[bool, Described("a gate", buys=False)] = False
    sees: Annotated[list[Slug], Field(max_length=50)] = []
    tool: Annotated[str | None, Field(max_length=60)] = None
    side: Annotated[Face | None, Described("from", buys=False)] = None
    minutes: Annotated[Annotated[Number, Field(ge=0, le=100_000)] | None, Described("minutes", buys=False)] = None
    note: Annotated[str, Field(max_length=1000)] = ""
    left_out: Annotated[bool, Described("left out", buys=False)] = False


class Due(Strict):
    """Something to look after again: every so many days or hours run, next on a day."""

    id: Slug
    part: Slug | None = None
    what: Annotated[str, Field(min_length=1, max_length=200)]
    every_days: Annotated[Annotated[Number, Field(gt=0, le=36_500)] | None, Described("every, days", buys=False)] = None
    every_hours: Annotated[
        Annotated[Number, Field(gt=0, le=1_000_000)] | None, Described("every, hours run", buys=False)
    ] = None
    next_on: Day | None = None
