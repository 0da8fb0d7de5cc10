"""Shapes of runs on the wire."""

from datetime import datetime
from typing import Annotated, Literal, Self
from uuid import UUID

from ninja import Field, Schema
from pydantic import model_validator

from krill.prediction.answer.result import WorkloadResult
from krill.runs.analysis import LogAnalysis
from krill.runs.compare import Change, PartDifference
from krill.runs.reading import ReadReport
from krill.runs.suspects import HopSuspect
from krill.runs.typed import allowed_of
from krill.runs.verdict import PlaceVerdict
from wire.text import Text

Role = Annotated[Text, Field(max_length=160)]


class RunIn(Schema):
    workload: Annotated[Text, Field(max_length=64)]
    revision: int | None = None
    name: Annotated[Text, Field(max_length=120)] = ""
    room_start_c: float | None = None
    room_end_c: float | None = None
    note: Annotated[Text, Field(max_length=2000)] = ""


class ReadingIn(Schema):
    minute: float = Field(ge=0, le=100_000)
    role: Role
    kind: Literal["now", "highest", "mean"] = "now"
    value: float
    load_on: bool = True

    @model_validator(mode="after")
    def _in_range(self) -> Self:
        unit, least, most = allowed_of(self.role)
        if not least <= self.value <= most:
            raise ValueError(f"{self.value:g} {unit} is outside {least:g} to {most:g} {unit}")
        return self


class ReadingsIn(RunIn):
    readings: Annotated[list[ReadingIn], Field(min_length=1, max_length=500)]


class RunChange(Schema):
    room_start_c: float | None = None
    room_end_c: float | None = None
    note: Annotated[Text, Field(max_length=2000)] | None = None
    roles: dict[int, Role] | None = None
    window: tuple[int, int] | None = None


class RunCard(Schema):
    id: UUID
    name: str
    kind: str
    workload: str
    revision: int
    created: datetime
    room_start_c: float | None
    room_end_c: float | None


class LastRun(Schema):
    """The newest run of a build and what it said; ``agrees`` is None where it cannot be judged."""

    id: UUID
    name: str
    kind: str
    created: datetime
    sentence: str
    agrees: bool | None


class ChannelOut(Schema):
    index: int
    name: str
    unit: str
    role: str
    sure: bool


class RunOut(RunCard):
    note: str
    file_name: str
    lines: ReadReport | None
    channels: list[ChannelOut]
    analysis: LogAnalysis | None
    readings: list[ReadingIn]


class SeriesChannel(Schema):
    name: str
    unit: str
    role: str
    minutes: list[float]
    values: list[float | None]


class SeriesOut(Schema):
    channels: list[SeriesChannel]


class VerdictOut(Schema):
    """``room_half_k`` is the half width of the 90 % interval of a room that nobody wrote down twice; 0 of one that is."""

    room_c: float
    room_half_k: float
    sentence: str
    excluded: list[str]
    places: list[PlaceVerdict]
    suspects: list[HopSuspect]
    predicted: WorkloadResult


class CompareOut(Schema):
    sentence: str
    parts: list[PartDifference]
    changes: list[Change]
    confounded: bool
