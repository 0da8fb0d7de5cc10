"""Shapes of live runs on the wire."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Field, Schema

from krill.watching.kinds import FailureKind
from wire.text import Text


class LiveIn(Schema):
    """A test that is about to begin; of the newest revision unless one is named."""

    workload: Annotated[Text, Field(max_length=64)]
    revision: int | None = None
    name: Annotated[Text, Field(max_length=120)] = ""
    room_c: Annotated[float | None, Field(ge=-20, le=60)] = None
    minutes: Annotated[float, Field(ge=5, le=600)] = 60


class PracticeIn(LiveIn):
    """A live run from the simulated bench: with a fault that is told, with one that is to be found, or with none.

    ``speed`` times as fast as the clock. A fault comes ``at_min`` minutes after the load, or at a time of the bench's own.
    """

    fault: FailureKind | Literal["none", "hidden"] = "none"
    at_min: Annotated[float | None, Field(ge=1, le=300)] = None
    speed: Annotated[float, Field(ge=1, le=600)] = 60
    seed: Annotated[int | None, Field(ge=0, le=10_000)] = None


class GuessIn(Schema):
    kind: FailureKind | Literal["none"]


class FaultChoice(Schema):
    kind: str
    title: str


class Judged(Schema):
    """How a guess compares with what was hidden; minutes count from when the load came on."""

    right: bool
    hidden: str
    hidden_title: str
    on: str
    at_min: float | None
    guessed_at_min: float | None
    says: str


class PracticeOut(Schema):
    """What a practice run is; what is hidden is told once somebody has guessed or the run has ended."""

    speed: float
    hidden: bool
    fault: str | None
    title: str
    guess: str | None
    judged: Judged | None


class LiveOut(Schema):
    id: UUID
    name: str
    workload: str
    revision: int
    minutes: float
    room_c: float | None
    created: datetime
    ended: datetime | None
    run: UUID | None
    rows: int
    last_arrived: datetime | None
    practice: PracticeOut | None


class LiveBegun(LiveOut):
    """``token`` is shown this once; ``address`` is where a logger sends to."""

    token: str
    address: str


class Stored(Schema):
    """A batch that is kept; ``again`` where it had been before."""

    stored: int
    again: bool


class LiveChannel(Schema):
    name: str
    unit: str
    role: str
    label: str


class LiveRows(Schema):
    """Rows since the cursor: seconds of the run's clock, then one figure a channel. ``batch`` tells rows that were sent before."""

    batch: int
    rows: list[list[float | None]]


class LivePage(Schema):
    cursor: int
    ended: bool
    run: UUID | None
    channels: list[LiveChannel]
    batches: list[LiveRows]


class PageQuery(Schema):
    after: Annotated[int, Field(ge=0)] = 0
