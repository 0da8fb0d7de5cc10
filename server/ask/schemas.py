"""Questions about a document, as they are sent: the document is read by the core before anything is asked of it."""

from typing import Annotated, Any, Literal, cast, get_args

from ninja import Field, Schema

from krill.in_time.aims import MINUTES, Aim, AimKind
from krill.in_time.run import IDLE, Cycle
from krill.sizing.search import Goal
from krill.sizing.side_by_side import MAX_OPTIONS
from wire.documents import AskedBuild, AskedRoom, RoomC
from wire.text import Text

#: two days: what moves more slowly is no test
MOST_MINUTES = 60 * 48


class PredictIn(Schema):
    document: AskedBuild
    workloads: Annotated[list[Text], Field(min_length=1, max_length=64)] | None = None
    room_c: AskedRoom = None
    samples: int = Field(0, ge=0, le=2000)
    seed: int = Field(1, ge=0, le=2**31)


class QuestionIn(Schema):
    document: AskedBuild
    workload: Text
    room_c: AskedRoom = None


class InTimeIn(QuestionIn):
    """A load for minutes over what had settled before it: idle, cold, or another workload. ``drift_k_h`` is the room's own;
    in a ``closed_room`` the machine warms it. With ``on_min`` and ``off_min`` the load comes and goes."""

    minutes: float = Field(90.0, ge=0.1, le=MOST_MINUTES)
    before: Text = IDLE
    samples: int = Field(0, ge=0, le=400)
    drift_k_h: float = Field(0.0, ge=-20, le=20)
    closed_room: bool = False
    on_min: float | None = Field(None, ge=0.1, le=MOST_MINUTES)
    off_min: float | None = Field(None, ge=0, le=MOST_MINUTES)

    def cycle(self) -> Cycle | None:
        """How the load comes and goes; None where it stays."""
        return None if self.on_min is None or self.off_min is None else Cycle(self.on_min, self.off_min)


class TestIn(Schema):
    """A build to test, in the room that it will stand in."""

    document: AskedBuild
    room_c: AskedRoom = None


class CompareIn(Schema):
    first: AskedBuild
    second: AskedBuild
    workload: Text
    room_c: AskedRoom = None
    samples: int = Field(100, ge=0, le=1000)


class FanIn(QuestionIn):
    fan: Text


class LoopIn(QuestionIn):
    loop: Text


class PlaceIn(QuestionIn):
    place: Text | None = None


class AimIn(Schema):
    """A figure of the load in time: ``burst`` (s that a burst of a source holds on the soaked machine), ``after`` (C of a
    place after so many minutes) or ``held_back`` (% of them in which a source gives up watts)."""

    kind: AimKind
    of: Text
    minutes: float = Field(30.0, ge=MINUTES[0], le=MINUTES[1])
    before: Text = IDLE

    def read(self) -> Aim:
        return Aim(kind=self.kind, of=self.of, minutes=self.minutes, before=self.before)


class NextIn(PlaceIn):
    """``quick`` answers figures and duties alone, at once; with an ``aim`` steps are ranked by it, not by kelvins."""

    quick: bool = False
    aim: AimIn | None = None


class PartIn(QuestionIn):
    part: Text


class OffersIn(Schema):
    document: AskedBuild
    workload: Text
    place: Text | None = None


class EditIn(Schema):
    """One edit as the core states it: a field (or field/key) of what an id belongs to; of ``parts`` +, = or -."""

    target: Text
    field: Text
    value: Any


class EditedIn(Schema):
    document: AskedBuild
    edits: Annotated[list[EditIn], Field(min_length=1, max_length=500)]


class HoldsIn(Schema):
    document: AskedBuild
    rooms_c: Annotated[list[RoomC], Field(max_length=6)] | None = None
    workloads: Annotated[list[str], Field(max_length=12)] | None = None


class SolveIn(QuestionIn):
    """``minutes`` and ``before`` are those of the load that a goal in time (burst, after, held_back) is of."""

    address: Text
    goal: Goal
    of: Text = ""
    wanted: float
    reach: tuple[float, float] | None = None
    minutes: float = Field(30.0, ge=MINUTES[0], le=MINUTES[1])
    before: Text = IDLE

    def aim(self) -> Aim | None:
        """What a goal in time is aimed at; None of any other goal."""
        if self.goal not in get_args(AimKind):
            return None
        return Aim(kind=cast(AimKind, self.goal), of=self.of, minutes=self.minutes, before=self.before)


class MapIn(Schema):
    document: AskedBuild
    question: dict[str, Any]


class CurveForIn(QuestionIn):
    sensor: Text
    group: Text = "fans"
    margin_k: float | None = Field(None, ge=-50, le=200)


class PointIn(Schema):
    at_c: float = Field(ge=-100, le=300)
    duty: float = Field(ge=0, le=1)


class CurveInTimeIn(QuestionIn):
    """Points as an answer to ``/fan-curve`` tells them, to be followed in time."""

    sensor: Text
    group: Text = "fans"
    points: Annotated[list[PointIn], Field(min_length=2, max_length=20)]


class OptionIn(Schema):
    label: Annotated[Text, Field(max_length=120)]
    document: AskedBuild


class SideBySideIn(Schema):
    options: Annotated[list[OptionIn], Field(min_length=1, max_length=MAX_OPTIONS)]
    workload: Text
    room_c: AskedRoom = None


class LevelIn(QuestionIn):
    wanted_dba: float = Field(ge=0, le=120)
    fans: list[str] | None = None


class CurveIn(Schema):
    text: Annotated[Text, Field(max_length=20_000)]
    kind: Literal["fan", "pump"]
    flow_unit: Text | None = None
    pressure_unit: Text | None = None


class CurveOut(Schema):
    """Points in the document's units: m3/h and Pa of a fan, l/min and kPa of a pump."""

    points: list[tuple[float, float]]
    flow_unit: Text
    pressure_unit: Text
    skipped: list[str]
