"""Questions to a document that is asked about, not stored: compare, off or stopped, fans, sound, pasted curves."""

from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Field, Router, Schema

from builds.predict_router import checked_document
from krill.document.curve_text import read_curve
from krill.prediction.comparison import compare
from krill.prediction.fan_operation import fan_operation
from krill.prediction.result import Comparison, FanOperation, PipeChart, SinkCurve, Stopped
from krill.prediction.sink_curve import pipe_chart, sink_curve
from krill.prediction.stopped import stopped
from krill.sizing.fan_curve import fan_curve
from krill.sizing.holds import watts_it_holds
from krill.sizing.map_of import map_of
from krill.sizing.measure_first import measure_first
from krill.sizing.next_changes import next_changes
from krill.sizing.question import read_question
from krill.sizing.quieter import speed_for_level
from krill.sizing.result import (
    DesignMap,
    FanCurveResult,
    Holds,
    MeasureFirst,
    NextChanges,
    SideBySide,
    SolvedFor,
    SpeedForLevel,
)
from krill.sizing.side_by_side import MOST_OPTIONS, side_by_side
from krill.sizing.solve_for import solve_for
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


class NextIn(PlaceIn):
    """``quick`` answers figures and duties alone, at once."""

    quick: bool = False


class PartIn(QuestionIn):
    part: str


class HoldsIn(Schema):
    document: dict[str, Any]
    rooms_c: Annotated[list[Annotated[float, Field(ge=-30, le=60)]], Field(max_length=6)] | None = None
    workloads: Annotated[list[str], Field(max_length=12)] | None = None


class SolveIn(QuestionIn):
    address: str
    goal: Literal["margin", "temperature", "flow", "level", "watts"]
    of: str = ""
    wanted: float
    reach: tuple[float, float] | None = None


class MapIn(Schema):
    document: dict[str, Any]
    question: dict[str, Any]


class CurveForIn(QuestionIn):
    sensor: str
    group: str = "fans"
    margin_k: float | None = Field(None, ge=-50, le=200)


class OptionIn(Schema):
    label: Annotated[Text, Field(max_length=120)]
    document: dict[str, Any]


class SideBySideIn(Schema):
    options: Annotated[list[OptionIn], Field(min_length=1, max_length=MOST_OPTIONS)]
    workload: str
    room_c: float | None = Field(None, ge=-30, le=60)


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
def ranked_changes(request: HttpRequest, data: NextIn) -> NextChanges:
    """Sensible single steps on a build, ranked by the kelvins that they win on a place."""
    return next_changes(checked_document(data.document), data.workload, data.place, data.room_c, quick=data.quick)


@router.post("/solve-for", response={200: SolvedFor, ERRORS: Errors}, operation_id="solve_for")
def figure_for_a_goal(request: HttpRequest, data: SolveIn) -> SolvedFor:
    """The value of one figure or duty at which a wanted margin, temperature, flow, level or watts is met."""
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


@router.post("/map", response={200: DesignMap, ERRORS: Errors}, operation_id="design_map")
def map_over_two_figures(request: HttpRequest, data: MapIn) -> DesignMap:
    """Least margin and level at every crossing of two figures, and where the document stands."""
    return map_of(checked_document(data.document), read_question(data.question))


@router.post("/fan-curve", response={200: FanCurveResult, ERRORS: Errors}, operation_id="fan_curve")
def curve_for_a_firmware(request: HttpRequest, data: CurveForIn) -> FanCurveResult:
    """Points that hold the margin with least sound, followed and checked at every load."""
    document = checked_document(data.document)
    return fan_curve(document, data.workload, data.sensor, data.group, data.margin_k, data.room_c)


@router.post("/measure-first", response={200: MeasureFirst, ERRORS: Errors}, operation_id="measure_first")
def causes_of_a_band(request: HttpRequest, data: PlaceIn) -> MeasureFirst:
    """What each uncertain figure adds to the band of a place, the largest first."""
    return measure_first(checked_document(data.document), data.workload, data.place, data.room_c)


@router.post("/side-by-side", response={200: SideBySide, ERRORS: Errors}, operation_id="side_by_side")
def options_side_by_side(request: HttpRequest, data: SideBySideIn) -> SideBySide:
    """Up to five documents in one workload and room: parts, measures, what differs from the first."""
    return side_by_side(
        [(item.label, checked_document(item.document)) for item in data.options], data.workload, data.room_c
    )


@router.post("/curve", response={200: CurveOut, ERRORS: Errors}, operation_id="read_curve")
def pasted_curve(request: HttpRequest, data: CurveIn) -> dict[str, Any]:
    """Two columns of text as the curve of a fan or pump, in any of the usual units."""
    found = read_curve(data.text, data.kind, data.flow_unit, data.pressure_unit)
    return {"points": found.points, "flow_unit": found.flow_unit, "pressure_unit": found.pressure_unit,
            "skipped": found.skipped}  # fmt: skip
