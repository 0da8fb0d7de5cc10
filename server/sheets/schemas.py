"""Shapes of marks and sheets on the wire."""

from datetime import datetime
from typing import Annotated, Literal

from ninja import Field, Schema

from wire.documents import AskedBuild
from wire.text import Text

#: done, not done any more, did not work; a timer started or stopped; read; tried; noted; happened; looked after
MarkKind = Literal["done", "undone", "failed", "timer", "stopped", "read", "tried", "remark", "incident", "cared"]
MOST_AT_ONCE = 500


class MarkIn(Schema):
    """One mark, with the key and the time of whoever made it."""

    key: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{8,40}$")]
    about: Annotated[Text, Field(min_length=1, max_length=140)]
    kind: MarkKind
    word: Annotated[Text, Field(max_length=500)] = ""
    minutes: Annotated[float | None, Field(ge=0, le=100_000)] = None
    at: datetime


class MarksIn(Schema):
    """Marks that were made, perhaps without a network; ``sent_at`` is the sender's clock now, so that a wrong one is set
    right."""

    sent_at: datetime
    marks: Annotated[list[MarkIn], Field(max_length=MOST_AT_ONCE)]


class MarkOut(Schema):
    id: int
    key: str
    about: str
    kind: MarkKind
    word: str
    minutes: float | None
    at: datetime
    who: str


class MarksOut(Schema):
    """Every mark, the oldest first, and the server's clock now: timers run on it."""

    now: datetime
    marks: list[MarkOut]


class PictureOfIn(Schema):
    """What a picture is of: a step of the sheet."""

    about: Annotated[Text, Field(min_length=1, max_length=140)]


class KeptPicture(PictureOfIn):
    """A picture of a step as an archive lists it."""

    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    at: datetime
    who: Annotated[Text, Field(max_length=150)] = ""


class StepPictureOut(Schema):
    about: str
    sha256: str
    width: int
    height: int
    at: datetime
    who: str


class SheetIn(Schema):
    """A document to make a sheet of."""

    document: AskedBuild


class FeedsIn(Schema):
    """A document and one of its workloads; ``inlet_c`` is the air that supplies breathe, °C."""

    document: AskedBuild
    workload: str
    inlet_c: dict[str, float] = {}


class SuspectsIn(Schema):
    """A document, the steps that were touched, the last first, and what was tried already."""

    document: AskedBuild
    touched: Annotated[list[Text], Field(max_length=300)] = []
    tried: dict[str, Literal["no change", "it starts", "other sign"]] = {}


class TableQuery(Schema):
    table: Literal["parts", "leads"] = "parts"
