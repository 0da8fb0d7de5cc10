"""Shapes of runs on the wire."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Field, Schema

from krill.document.calibration import Calibration
from krill.logs.report import ReadReport
from krill.prediction.answer.result import WorkloadResult
from krill.runs.analysis import LogAnalysis
from krill.runs.bought import Bought
from krill.runs.calibrate import Learnable
from krill.runs.compare import Change, PartDifference
from krill.runs.consistency import Inconsistency
from krill.runs.equal_sound import EqualSound
from krill.runs.held_back import By
from krill.runs.hot_day import HotDay
from krill.runs.learning import FromOthers, LearntUnknown, NotParted, Residual
from krill.runs.quantities import QuantityVerdict
from krill.runs.run_document import LoadWindow, Reading, RoomTold, RunDocument, RunPicture, Settings
from krill.runs.run_table import PartDrift, RepeatedPart, RunRow
from krill.runs.suspects import HopSuspect, ReadNext
from krill.runs.verdict import PlaceVerdict
from wire.text import Text

Role = Annotated[Text, Field(max_length=160)]


class RunIn(Schema):
    """One load of a build in one room, as a form tells it; ``evening_of`` is another run that stood in the same room.

    ``interval_s`` is the time between rows of a log that tells none.
    """

    workload: Annotated[Text, Field(max_length=64)]
    revision: int | None = None
    name: Annotated[Text, Field(max_length=120)] = ""
    room_start_c: float | None = None
    room_end_c: float | None = None
    about_c: float | None = None
    evening_of: UUID | None = None
    note: Annotated[Text, Field(max_length=2000)] = ""
    source: Annotated[Text, Field(max_length=200)] = ""
    interval_s: Annotated[float, Field(gt=0, le=3600)] | None = None


class ReadingsIn(RunIn):
    """Readings of one load, or of several that are one run: then each reading names the window that it is of."""

    kind: Literal["readings", "claim"] = "readings"
    windows: Annotated[list[LoadWindow], Field(max_length=12)] = []
    readings: Annotated[list[Reading], Field(min_length=1, max_length=500)]
    settings: Settings | None = None


class PastedIn(Schema):
    text: Annotated[Text, Field(max_length=20_000)]


class PastedOut(Schema):
    """What lines of text say; ``refused`` are lines that say nothing, with the reason."""

    readings: list[Reading]
    refused: list[str]


class RunChange(Schema):
    """What is given takes the place of what stood there; what is not stays."""

    name: Annotated[Text, Field(min_length=1, max_length=120)] = ""
    note: Annotated[Text, Field(max_length=2000)] = ""
    source: Annotated[Text, Field(max_length=200)] = ""
    room: RoomTold = RoomTold()
    settings: Settings = Settings()
    windows: Annotated[list[LoadWindow], Field(max_length=40)] = []
    readings: Annotated[list[Reading], Field(max_length=500)] = []
    pictures: Annotated[list[RunPicture], Field(max_length=60)] = []
    roles: dict[int, Role] = {}
    units: dict[int, Annotated[Text, Field(max_length=20)]] = {}


class WindowCard(Schema):
    id: str
    name: str
    workload: str


class CaptionIn(Schema):
    caption: Annotated[Text, Field(max_length=200)] = ""


class RunCard(Schema):
    id: UUID
    name: str
    kind: str
    workload: str
    revision: int
    created: datetime
    windows: list[WindowCard]
    said: str | None
    note: str
    pictures: list[RunPicture]


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
    reason: str
    asked: bool


class RoleChoice(Schema):
    role: str
    label: str


class FoundLoad(Schema):
    start_s: float
    end_s: float
    by: str


class RunOut(RunCard):
    """``document`` is the run's file; ``analysis`` what its log says of the load that was asked for.

    ``roles`` are those that a channel may have; ``more_loads`` loads of the log that no window of the run covers.
    """

    document: RunDocument
    roles: list[RoleChoice]
    more_loads: list[FoundLoad]
    lacks: list[str]
    file_name: str
    lines: ReadReport | None
    channels: list[ChannelOut]
    analysis: LogAnalysis | None


class SeriesChannel(Schema):
    name: str
    unit: str
    role: str
    minutes: list[float]
    values: list[float | None]


class SeriesOut(Schema):
    channels: list[SeriesChannel]


class HeldBackOut(Schema):
    """What held one source back in a load, with the sentence of it."""

    source: str
    name: str
    by: By
    evidence: str
    throttled_share: float
    clock_lost_share: float
    watts_lost: float
    spare_k: float | None
    says: str


class VerdictOut(Schema):
    """``room_half_k`` is the half width of the 90 % interval of a room that nobody wrote down twice; 0 of one that is."""

    room_c: float
    room_half_k: float
    sentence: str
    excluded: list[str]
    places: list[PlaceVerdict]
    quantities: list[QuantityVerdict]
    held_back: list[HeldBackOut]
    suspects: list[HopSuspect]
    read_next: ReadNext | None
    predicted: WorkloadResult


class CompareOut(Schema):
    sentence: str
    parts: list[PartDifference]
    changes: list[Change]
    confounded: bool
    inconsistent: list[Inconsistency]
    sound: EqualSound | None


class MeasuredChange(Schema):
    """What the runs of a revision show against those of an earlier one, K at equal watts and speeds, beside the model's."""

    revision: int
    before_revision: int
    workload: str
    before: UUID
    after: UUID
    sentence: str
    part: str
    measured_k: float
    half_k: float
    predicted_k: float
    conclusion: str


class LoadNamed(Schema):
    """A load of a run; the first one unless a window is named."""

    run: UUID
    window: Annotated[Text, Field(max_length=64)] | None = None


class LearnIn(Schema):
    """Loads to learn from, and addresses of what is asked for."""

    loads: Annotated[list[LoadNamed], Field(min_length=1, max_length=20)]
    free: Annotated[list[Annotated[Text, Field(max_length=200)]], Field(max_length=12)] = []


class Suspected(Schema):
    address: str
    name: str
    says: str


class LearnOut(Schema):
    """``calibration`` goes into the build's document when it is taken over."""

    sentence: str
    unknowns: list[LearntUnknown]
    residuals: list[Residual]
    from_others: list[FromOthers]
    not_parted: list[NotParted]
    rms_before_k: float
    rms_after_k: float
    calibration: Calibration
    suspected: list[Suspected]
    learnable: list[Learnable]
    hot_day: HotDay


class RunTableOut(Schema):
    rows: list[RunRow]
    roles: list[str]
    names: dict[str, str]
    best: dict[str, str]
    worst: dict[str, str]
    drifts: list[PartDrift]
    bought: list[Bought]


class RepeatedOut(Schema):
    sentence: str
    parts: list[RepeatedPart]


class Usage(Schema):
    """What one's builds hold, and how much they may."""

    builds: int
    most_builds: int
    runs: int
    most_runs: int
    mb: float
    most_mb: int
