"""Questions to a document that is asked about, not stored: compare, off or stopped, fans, sound, pasted curves."""

from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Field, Router, Schema

from builds.predict_router import checked_document
from krill.document.curve_text import read_curve
from krill.prediction.comparison import compare
from krill.prediction.fan_operation import fan_operation
from krill.prediction.holds import watts_it_holds
from krill.prediction.next_changes import next_changes
from krill.prediction.quieter import speed_for_level
from krill.prediction.result import (
    Comparison,
    FanOperation,
    Holds,
    NextChanges,
    PipeChart,
    SinkCurve,
    SolvedFor,
    SpeedForLevel,
    Stopped,
)
from krill.prediction.sink_curve import pipe_chart, sink_curve
from krill.prediction.solve_for import solve_for
from krill.prediction.stopped import stopped
from krill_server.http import ERRORS, Errors, Text

router = Router(tags=["questions"])


class QuestionIn(Schema):
    document: dict[str, Any]
    workload: str
    room_c: float | None = Field(None, ge=-30, le=60)


class CompareIn(Schema):
    first: dict[str, Any]
    second: dict[str, Any]
    workload: str
    room_c: float | None = Field(None, ge=-30, le=60)
    samples: int = Field(100, ge=0, le=1000)


class FanIn(QuestionIn):
    fan: str


class PlaceIn(QuestionIn):
    place: str | None = None


class PartIn(QuestionIn):
    part: str


class HoldsIn(Schema):
    document: dict[str, Any]
    rooms_c: Annotated[list[Annotated[float, Field(ge=-30, le=60)]], Field(max_length=6)] | None = None
    workloads: Annotated[list[str], Field(max_length=12)] | None = None


class SolveIn(QuestionIn):
    address: str
    goal: Literal["margin", "temperature", "flow", "level"]
    of: str = ""
    wanted: float
    reach: tuple[float, float] | None = None


class LevelIn(QuestionIn):
    wanted_dba: float = Field(ge=0, le=120)
    fans: list[str] | None = None


class CurveIn(Schema):
    text: Annotated[Text, Field(max_length=20_000)]
    kind: Literal["fan", "pump"]
    flow_unit: str | None = None
    pressure_unit: str | None = None


class CurveOut(Schema):
    """Points in the document's units: m3/h and Pa of a fan, l/min and kPa of a pump."""

    points: list[tuple[float, float]]
    flow_unit: str
    pressure_unit: str
    skipped: list[str]


@router.post("/compare", response={200: Comparison, ERRORS: Errors}, operation_id="compare")
def compare_documents(request: HttpRequest, data: CompareIn) -> Comparison:
    """Two documents beside each other for every part, with the band of each difference."""
    first, second = checked_document(data.first), checked_document(data.second)
    return compare(first, second, data.workload, data.room_c, data.samples)


@router.post("/stopped", response={200: Stopped, ERRORS: Errors}, operation_id="stopped")
def off_or_stopped(request: HttpRequest, data: QuestionIn) -> Stopped:
    """Each fan, pump and feed off in turn: settled temperatures and the limits that are passed."""
    return stopped(checked_document(data.document), data.workload, data.room_c)


@router.post("/fan-operation", response={200: FanOperation, ERRORS: Errors}, operation_id="fan_operation")
def operation_of_a_fan(request: HttpRequest, data: FanIn) -> FanOperation:
    """A fan's curve, what the rest of the air asks of it, and where the two meet."""
    return fan_operation(checked_document(data.document), data.fan, data.workload, data.room_c)


@router.post("/speed-for-level", response={200: SpeedForLevel, ERRORS: Errors}, operation_id="speed_for_level")
def speed_for_a_level(request: HttpRequest, data: LevelIn) -> SpeedForLevel:
    """Fan speeds that make a wanted total sound level."""
    document = checked_document(data.document)
    return speed_for_level(document, data.workload, data.wanted_dba, data.fans, data.room_c)


@router.post("/next-changes", response={200: NextChanges, ERRORS: Errors}, operation_id="next_changes")
def ranked_changes(request: HttpRequest, data: PlaceIn) -> NextChanges:
    """Sensible single steps on the solids of a build, ranked by the kelvins that they win on a place."""
    return next_changes(checked_document(data.document), data.workload, data.place, data.room_c)


@router.post("/solve-for", response={200: SolvedFor, ERRORS: Errors}, operation_id="solve_for")
def figure_for_a_goal(request: HttpRequest, data: SolveIn) -> SolvedFor:
    """The value of one figure or duty at which a wanted margin, temperature, flow or level is met."""
    document = checked_document(data.document)
    return solve_for(document, data.address, data.goal, data.of, data.wanted, data.workload, data.room_c, data.reach)


@router.post("/watts-it-holds", response={200: Holds, ERRORS: Errors}, operation_id="watts_it_holds")
def power_limits(request: HttpRequest, data: HoldsIn) -> Holds:
    """Watts of each source, workload and room at which the first limit, less the margin wanted, is met."""
    return watts_it_holds(checked_document(data.document), data.rooms_c, data.workloads)


@router.post("/sink-curve", response={200: SinkCurve, ERRORS: Errors}, operation_id="sink_curve")
def curve_of_a_sink(request: HttpRequest, data: PartIn) -> SinkCurve:
    """Watts over kelvins of a sink or panel, standing and lying, with its working point and its best fin pitch."""
    return sink_curve(checked_document(data.document), data.part, data.workload, data.room_c)


@router.post("/pipe-chart", response={200: PipeChart, ERRORS: Errors}, operation_id="pipe_chart")
def limits_of_pipes(request: HttpRequest, data: PartIn) -> PipeChart:
    """Limits of one pipe of a group over its vapour temperature, and where it works."""
    return pipe_chart(checked_document(data.document), data.part, data.workload, data.room_c)


@router.post("/curve", response={200: CurveOut, ERRORS: Errors}, operation_id="read_curve")
def pasted_curve(request: HttpRequest, data: CurveIn) -> dict[str, Any]:
    """Two columns of text as the curve of a fan or pump, in any of the usual units."""
    found = read_curve(data.text, data.kind, data.flow_unit, data.pressure_unit)
    return {"points": found.points, "flow_unit": found.flow_unit, "pressure_unit": found.pressure_unit,
            "skipped": found.skipped}  # fmt: skip
