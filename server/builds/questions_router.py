"""Questions to a document that is asked about, not stored: compare, off or stopped, fans, sound, pasted curves."""

from typing import Annotated, Any, Literal

from django.http import HttpRequest
from ninja import Field, Router, Schema

from builds.predict_router import checked_document
from krill.document.curve_text import read_curve
from krill.prediction.comparison import compare
from krill.prediction.fan_operation import fan_operation
from krill.prediction.quieter import speed_for_level
from krill.prediction.result import Comparison, FanOperation, SpeedForLevel, Stopped
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


@router.post("/curve", response={200: CurveOut, ERRORS: Errors}, operation_id="read_curve")
def pasted_curve(request: HttpRequest, data: CurveIn) -> dict[str, Any]:
    """Two columns of text as the curve of a fan or pump, in any of the usual units."""
    found = read_curve(data.text, data.kind, data.flow_unit, data.pressure_unit)
    return {"points": found.points, "flow_unit": found.flow_unit, "pressure_unit": found.pressure_unit,
            "skipped": found.skipped}  # fmt: skip
