"""Questions to a document that is asked about, not stored: predict, compare, off or stopped, fans, sound, sizing."""

from dataclasses import replace
from typing import Any

from django.http import HttpRequest
from ninja import Router

from ask import schemas
from krill.document.curve_text import read_curve
from krill.document.reading import write_object
from krill.in_time.forecast import forecast_in_time
from krill.in_time.result import InTime, StoppedInTime
from krill.in_time.room import CLOSED_ROOM, STEADY_ROOM
from krill.in_time.run import Asked
from krill.in_time.stopping import stopped_in_time
from krill.prediction.answer.result import (
    Comparison,
    FanOperation,
    LoopCurves,
    PipeChart,
    Prediction,
    SinkCurve,
    Stopped,
)
from krill.prediction.cost import must_be_affordable
from krill.prediction.predict import predict
from krill.prediction.questions.comparison import compare
from krill.prediction.questions.fan_operation import fan_operation
from krill.prediction.questions.loop_curves import loop_curves
from krill.prediction.questions.sink_curve import pipe_chart, sink_curve
from krill.prediction.questions.stopped import stopped
from krill.sizing.curve_in_time import curve_in_time
from krill.sizing.fan_curve import fan_curve
from krill.sizing.holds import watts_it_holds
from krill.sizing.map_of import map_of
from krill.sizing.measure_first import measure_first
from krill.sizing.next_changes import next_changes
from krill.sizing.offers import offers_of
from krill.sizing.question import read_question
from krill.sizing.quieter import speed_for_level
from krill.sizing.result import (
    CurveInTime,
    CurvePoint,
    DesignMap,
    Edit,
    FanCurveResult,
    Holds,
    MeasureFirst,
    NextChanges,
    Offers,
    SideBySide,
    SolvedFor,
    SpeedForLevel,
)
from krill.sizing.side_by_side import side_by_side
from krill.sizing.solve_for import solve_for
from krill.sizing.steps.step import edited
from krill.watching.plan import TestPlan, plan_test
from wire.documents import BuildJson
from wire.faults import ERRORS, Errors
from wire.turns import worked_out

router = Router(tags=["questions"], by_alias=True)


@router.post("/predict", response={200: Prediction, ERRORS: Errors}, operation_id="predict", tags=["predictions"])
def predict_document(request: HttpRequest, data: schemas.PredictIn) -> Prediction:
    """Temperatures, margins, bands, flows and notices of a document; nothing is stored."""
    must_be_affordable(data.document, len(data.workloads or data.document.workloads), data.samples)
    asked = (data.document, data.workloads, data.room_c, data.samples, data.seed)
    return worked_out(predict, *asked) if data.samples else predict(*asked)


@router.post("/compare", response={200: Comparison, ERRORS: Errors}, operation_id="compare")
def compare_documents(request: HttpRequest, data: schemas.CompareIn) -> Comparison:
    """Two documents beside each other for every part, with the band of each difference."""
    for document in (data.first, data.second):
        must_be_affordable(document, 1, data.samples)
    return worked_out(compare, data.first, data.second, data.workload, data.room_c, data.samples)


@router.post("/stopped", response={200: Stopped, ERRORS: Errors}, operation_id="stopped")
def off_or_stopped(request: HttpRequest, data: schemas.QuestionIn) -> Stopped:
    """Each fan, pump and feed off in turn: settled temperatures and the limits that are passed."""
    return worked_out(stopped, data.document, data.workload, data.room_c)


@router.post("/stopped-in-time", response={200: StoppedInTime, ERRORS: Errors}, operation_id="stopped_in_time")
def off_or_stopped_in_time(request: HttpRequest, data: schemas.QuestionIn) -> StoppedInTime:
    """Each fan, pump and feed off in turn, with the minutes to every limit that is met within an hour."""
    return worked_out(stopped_in_time, data.document, data.workload, data.room_c)


@router.post("/forecast-in-time", response={200: InTime, ERRORS: Errors}, operation_id="forecast_in_time")
def load_in_time(request: HttpRequest, data: schemas.InTimeIn) -> InTime:
    """A load in time: curves with bands, when limits are met, how long a test must last, how long bursts hold."""
    must_be_affordable(data.document, 4, data.samples)
    room = replace(CLOSED_ROOM if data.closed_room else STEADY_ROOM, drift_k_h=data.drift_k_h)
    asked = Asked(data.workload, data.minutes, data.before, data.room_c, data.samples, room=room, cycle=data.cycle())
    return worked_out(forecast_in_time, data.document, asked)


@router.post("/test-plan", response={200: TestPlan, ERRORS: Errors}, operation_id="plan_test")
def plan_of_a_test(request: HttpRequest, data: schemas.TestIn) -> TestPlan:
    """Which loads in which order, how long each, what is locked, seen and noted, and when to stop."""
    must_be_affordable(data.document, 4 * len(data.document.workloads), 0)
    return worked_out(plan_test, data.document, data.room_c)


@router.post("/fan-operation", response={200: FanOperation, ERRORS: Errors}, operation_id="fan_operation")
def operation_of_a_fan(request: HttpRequest, data: schemas.FanIn) -> FanOperation:
    """A fan's curve, what the rest of the air asks of it, and where the two meet."""
    return fan_operation(data.document, data.fan, data.workload, data.room_c)


@router.post("/loop-curves", response={200: LoopCurves, ERRORS: Errors}, operation_id="loop_curves")
def curves_of_a_loop(request: HttpRequest, data: schemas.LoopIn) -> LoopCurves:
    """Curves of a loop's pumps, and the pressure that the loop asks at other flows."""
    return loop_curves(data.document, data.loop, data.workload, data.room_c)


@router.post("/speed-for-level", response={200: SpeedForLevel, ERRORS: Errors}, operation_id="speed_for_level")
def speed_for_a_level(request: HttpRequest, data: schemas.LevelIn) -> SpeedForLevel:
    """Fan speeds that make a wanted total sound level."""
    return worked_out(speed_for_level, data.document, data.workload, data.wanted_dba, data.fans, data.room_c)


@router.post("/offers", response={200: Offers, ERRORS: Errors}, operation_id="offers")
def what_may_be_asked(request: HttpRequest, data: schemas.OffersIn) -> Offers:
    """What of a document may vary, be mapped over and be solved for, and the questions asked most."""
    return offers_of(data.document, data.workload, data.place)


@router.post("/edited", response={200: BuildJson, ERRORS: Errors}, operation_id="edited")
def document_with_edits(request: HttpRequest, data: schemas.EditedIn) -> dict[str, Any]:
    """A document with edits made, as a step, a solution or a candidate states them; nothing is stored."""
    made = tuple(Edit(target=edit.target, field=edit.field, value=edit.value) for edit in data.edits)
    return write_object(edited(data.document, made))


@router.post("/next-changes", response={200: NextChanges, ERRORS: Errors}, operation_id="next_changes")
def ranked_changes(request: HttpRequest, data: schemas.NextIn) -> NextChanges:
    """Sensible single steps on a build, ranked by the kelvins that they win on a place, or by a figure of the load in time."""
    must_be_affordable(data.document, 4 if data.aim else 1, 0)
    aim = data.aim.read() if data.aim else None
    return worked_out(next_changes, data.document, data.workload, data.place, data.room_c, quick=data.quick, aim=aim)


@router.post("/solve-for", response={200: SolvedFor, ERRORS: Errors}, operation_id="solve_for")
def figure_for_a_goal(request: HttpRequest, data: schemas.SolveIn) -> SolvedFor:
    """The value of one figure or duty at which a wanted margin, temperature, flow, level, watts or figure in time is met."""
    goal = (data.goal, data.of, data.wanted)
    return worked_out(solve_for, data.document, data.address, *goal, data.workload, data.room_c, data.reach, data.aim())


@router.post("/watts-it-holds", response={200: Holds, ERRORS: Errors}, operation_id="watts_it_holds")
def power_limits(request: HttpRequest, data: schemas.HoldsIn) -> Holds:
    """Watts of each source, workload and room at which the first limit, less the margin wanted, is met."""
    return worked_out(watts_it_holds, data.document, data.rooms_c, data.workloads)


@router.post("/sink-curve", response={200: SinkCurve, ERRORS: Errors}, operation_id="sink_curve")
def curve_of_a_sink(request: HttpRequest, data: schemas.PartIn) -> SinkCurve:
    """Watts over kelvins of a sink or panel, standing and lying, with its working point and its best fin pitch."""
    return sink_curve(data.document, data.part, data.workload, data.room_c)


@router.post("/pipe-chart", response={200: PipeChart, ERRORS: Errors}, operation_id="pipe_chart")
def limits_of_pipes(request: HttpRequest, data: schemas.PartIn) -> PipeChart:
    """Limits of one pipe of a group over its vapour temperature, and where it works."""
    return pipe_chart(data.document, data.part, data.workload, data.room_c)


@router.post("/map", response={200: DesignMap, ERRORS: Errors}, operation_id="design_map")
def map_over_two_figures(request: HttpRequest, data: schemas.MapIn) -> DesignMap:
    """Least margin and level at every crossing of two figures, and where the document stands."""
    return worked_out(map_of, data.document, read_question(data.question))


@router.post("/fan-curve", response={200: FanCurveResult, ERRORS: Errors}, operation_id="fan_curve")
def curve_for_a_firmware(request: HttpRequest, data: schemas.CurveForIn) -> FanCurveResult:
    """Points that hold the margin with least sound, followed and checked at every load."""
    return worked_out(fan_curve, data.document, data.workload, data.sensor, data.group, data.margin_k, data.room_c)


@router.post("/fan-curve-in-time", response={200: CurveInTime, ERRORS: Errors}, operation_id="curve_in_time")
def curve_followed_in_time(request: HttpRequest, data: schemas.CurveInTimeIn) -> CurveInTime:
    """Points followed in time at several loads: with which hysteresis and ramps they hold still, from which slope they hunt."""
    must_be_affordable(data.document, 16, 0)
    points = [CurvePoint(at_c=point.at_c, duty=point.duty) for point in data.points]
    return worked_out(curve_in_time, data.document, data.workload, data.sensor, points, data.group, data.room_c)


@router.post("/measure-first", response={200: MeasureFirst, ERRORS: Errors}, operation_id="measure_first")
def causes_of_a_band(request: HttpRequest, data: schemas.PlaceIn) -> MeasureFirst:
    """What each uncertain figure adds to the band of a place, the largest first."""
    return worked_out(measure_first, data.document, data.workload, data.place, data.room_c)


@router.post("/side-by-side", response={200: SideBySide, ERRORS: Errors}, operation_id="side_by_side")
def options_side_by_side(request: HttpRequest, data: schemas.SideBySideIn) -> SideBySide:
    """Up to five documents in one workload and room: parts, measures, what differs from the first."""
    return worked_out(side_by_side, [(item.label, item.document) for item in data.options], data.workload, data.room_c)


@router.post("/curve", response={200: schemas.CurveOut, ERRORS: Errors}, operation_id="read_curve")
def pasted_curve(request: HttpRequest, data: schemas.CurveIn) -> dict[str, Any]:
    """Two columns of text as the curve of a fan or pump, in any of the usual units."""
    found = read_curve(data.text, data.kind, data.flow_unit, data.pressure_unit)
    return {
        "points": found.points,
        "flow_unit": found.flow_unit,
        "pressure_unit": found.pressure_unit,
        "skipped": found.skipped,
    }
