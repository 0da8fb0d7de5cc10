"""Predictions of a document, and the classes that its parts may be of. Stateless."""

import csv
import io
from typing import Any, Literal
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router, Schema, Status

from builds.queries import build_for
from krill.catalogue.classes import classes
from krill.catalogue.materials import finish_names, finish_pair, material_names, material_pair
from krill.document.build import Build as Document
from krill.document.reading import read_object, read_text
from krill.prediction.predict import predict
from krill.prediction.result import Prediction
from krill_server.http import ERRORS, ApiFault, Errors, user_of

router = Router(tags=["predictions"])

MOST_NODES = 300


class PredictIn(Schema):
    document: dict[str, Any]
    workloads: list[str] | None = None
    room_c: float | None = Field(None, ge=-30, le=60)
    samples: int = Field(0, ge=0, le=2000)
    seed: int = Field(1, ge=0, le=2**31)


class ClassOut(Schema):
    id: str
    kind: str
    name: str
    limit_c: float | None
    figures: dict[str, list[float]]
    curve: list[tuple[float, float]] | None
    life_years: tuple[float, float] | None
    cautions: list[str]


class MaterialOut(Schema):
    """A material or a finish with what it gives to a part that states no figure; [value, half width]."""

    id: str
    name: str
    sort: Literal["material", "finish"]
    conductivity_w_mk: tuple[float, float] | None
    emissivity: tuple[float, float] | None


def checked_document(raw: dict[str, Any]) -> Document:
    """A document that may be solved while somebody waits; refused where it is none or too large."""
    build = read_object(raw)
    if len(build.parts) > MOST_NODES:
        raise ApiFault(422, "parts", f"{len(build.parts)} parts", f"up to {MOST_NODES}")
    return build


@router.post("/predict", response={200: Prediction, ERRORS: Errors}, operation_id="predict")
def predict_document(request: HttpRequest, data: PredictIn) -> Status[Any]:
    """Temperatures, margins, bands, flows and notices of a document; nothing is stored."""
    build = checked_document(data.document)
    return Status(200, predict(build, data.workloads, data.room_c, data.samples, data.seed))


@router.get("/classes", response={200: list[ClassOut], ERRORS: Errors}, operation_id="list_classes")
def list_classes(request: HttpRequest) -> list[dict[str, Any]]:
    """Class-typical parts with their figures and half widths (value from memory)."""
    return [
        {
            "id": c.id,
            "kind": c.kind,
            "name": c.name,
            "limit_c": c.limit_c,
            "figures": {k: list(v) for k, v in c.figures.items()},
            "curve": c.curve,
            "life_years": c.life_years,
            "cautions": list(c.cautions),
        }
        for c in classes().values()
    ]


@router.get("/materials", response={200: list[MaterialOut], ERRORS: Errors}, operation_id="list_materials")
def list_materials(request: HttpRequest) -> list[dict[str, Any]]:
    """Materials and finishes of sinks, panels and blocks (value from memory)."""
    return [
        {
            "id": key,
            "name": name,
            "sort": sort,
            **{field: given(key, field) for field in ("conductivity_w_mk", "emissivity")},
        }
        for sort, names, given in (
            ("material", material_names(), material_pair),
            ("finish", finish_names(), finish_pair),
        )
        for key, name in names.items()
    ]


@router.get("/builds/{build_id}/prediction.csv", response={200: str, ERRORS: Errors}, operation_id="prediction_csv")
def prediction_csv(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """The forecast of the draft as a table, one row a place and workload."""
    prediction = predict(read_text(build_for(user_of(request), build_id).text))
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["workload", "room_c", "address", "name", "temperature_c", "low_c", "high_c", "limit_c", "margin_k",
                     "status", "certifies"])  # fmt: skip
    for workload in prediction["workloads"]:
        for place in workload["places"]:
            band = place["band_c"] or {"low": None, "high": None}
            writer.writerow([workload["workload"], workload["room_c"], place["address"], place["name"],
                             round(place["temperature_c"], 2), band["low"], band["high"], place["limit_c"],
                             place["margin_k"], place["status"], prediction["certifies"]])  # fmt: skip
    response = HttpResponse(out.getvalue(), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="prediction.csv"'
    return response
