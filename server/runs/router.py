"""Runs over HTTP: logs, typed readings, series, verdicts, practice logs."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from builds.queries import build_for
from krill.document.reading import read_text
from krill.errors import LogRefused
from krill.runs.compare import Comparison
from krill.runs.reading import MAX_BYTES
from krill.simulated_bench.bench import BenchPlan, run_bench
from runs import actions
from runs.queries import compare_runs, last_run_json, run_for, run_json, series_of, table_of, verdict_of
from runs.schemas import CompareOut, LastRun, ReadingsIn, RunCard, RunChange, RunIn, RunOut, SeriesOut, VerdictOut
from wire.downloads import csv_download, download, table_download
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import user_of
from wire.text import Text

router = Router(tags=["runs"], by_alias=True)


class PracticeQuery(Schema):
    workload: Text
    room_c: float = Field(24, ge=0, le=45)
    seed: int = Field(1, ge=0, le=10_000)
    minutes: float = Field(60, ge=5, le=180)


class SeriesQuery(Schema):
    points: int = Field(800, ge=50, le=5000)


@router.get("/builds/{build_id}/runs", response={200: list[RunCard], ERRORS: Errors}, operation_id="list_runs")
def list_runs(request: HttpRequest, build_id: UUID) -> list[dict[str, Any]]:
    build = build_for(user_of(request), build_id)
    return [
        {
            "id": run.pk,
            "name": run.name,
            "kind": run.kind,
            "workload": run.workload,
            "revision": run.revision.number,
            "created": run.created,
            "room_start_c": run.room_start_c,
            "room_end_c": run.room_end_c,
        }
        for run in build.runs.select_related("revision")
    ]


@router.get("/builds/{build_id}/last-run", response={200: LastRun | None, ERRORS: Errors}, operation_id="last_run")
def last_run(request: HttpRequest, build_id: UUID) -> dict[str, Any] | None:
    """The newest run of a build with its verdict in one sentence."""
    run = build_for(user_of(request), build_id).runs.select_related("revision").last()
    return None if run is None else last_run_json(run)


@router.post("/builds/{build_id}/runs/log", response={201: RunOut, ERRORS: Errors}, operation_id="add_log")
def add_log(request: HttpRequest, build_id: UUID, data: Form[RunIn], file: File[UploadedFile]) -> Status[Any]:
    """A log file of any logger; refused with the reason where it holds no table, over 50 MB with the limit."""
    if (file.size or 0) > MAX_BYTES:
        raise ApiFault(413, "file", f"{(file.size or 0) / 2**20:.0f} MB", f"up to {MAX_BYTES // 2**20} MB")
    try:
        run = actions.add_log(user_of(request), build_id, data, file.name or "log", file.read())
    except LogRefused as refused:
        raise ApiFault(422, "file", str(refused), "text with a header and rows of figures") from None
    return Status(201, run_json(run))


@router.post("/builds/{build_id}/runs/readings", response={201: RunOut, ERRORS: Errors}, operation_id="add_readings")
def add_readings(request: HttpRequest, build_id: UUID, data: ReadingsIn) -> Status[Any]:
    return Status(201, run_json(actions.add_readings(user_of(request), build_id, data)))


@router.get("/runs/{run_id}", response={200: RunOut, ERRORS: Errors}, operation_id="get_run")
def get_run(request: HttpRequest, run_id: UUID) -> dict[str, Any]:
    return run_json(run_for(user_of(request), run_id))


@router.patch("/runs/{run_id}", response={200: RunOut, ERRORS: Errors}, operation_id="change_run")
def change_run(request: HttpRequest, run_id: UUID, data: RunChange) -> dict[str, Any]:
    return run_json(actions.change_run(user_of(request), run_id, data))


@router.delete("/runs/{run_id}", response={204: None, ERRORS: Errors}, operation_id="delete_run")
def delete_run(request: HttpRequest, run_id: UUID) -> Status[Any]:
    actions.delete_run(user_of(request), run_id)
    return Status(204, None)


@router.get("/runs/{run_id}/series", response={200: SeriesOut, ERRORS: Errors}, operation_id="get_series")
def get_series(request: HttpRequest, run_id: UUID, q: Query[SeriesQuery]) -> dict[str, Any]:
    """Channels thinned for drawing."""
    run = run_for(user_of(request), run_id)
    return {"channels": []} if run.kind != "log" else series_of(run, q.points)


@router.get("/runs/{run_id}/verdict", response={200: VerdictOut, ERRORS: Errors}, operation_id="get_verdict")
def get_verdict(request: HttpRequest, run_id: UUID) -> dict[str, Any]:
    return verdict_of(run_for(user_of(request), run_id))


@router.get(
    "/runs/{run_id}/compare/{other_id}", response={200: CompareOut, ERRORS: Errors}, operation_id="compare_runs"
)
def compare_with(request: HttpRequest, run_id: UUID, other_id: UUID) -> Comparison:
    """The other run against this one, of the same build or of another that one may read."""
    user = user_of(request)
    return compare_runs(run_for(user, run_id), run_for(user, other_id))


@router.get("/runs/{run_id}/original", response={200: str, ERRORS: Errors}, operation_id="get_original")
def get_original(request: HttpRequest, run_id: UUID) -> HttpResponse:
    """The file as it came, byte for byte."""
    run = run_for(user_of(request), run_id)
    content = b"".join(bytes(data) for data in run.blocks.values_list("data", flat=True))
    return download(content, "original.log", "application/octet-stream")


@router.get("/runs/{run_id}/run.csv", response={200: str, ERRORS: Errors}, operation_id="run_csv")
def run_csv(request: HttpRequest, run_id: UUID) -> HttpResponse:
    """The run as read: seconds and channels, or the typed readings."""
    run = run_for(user_of(request), run_id)
    return table_download(table_of(run), "run.csv")


@router.get("/builds/{build_id}/practice.csv", response={200: str, ERRORS: Errors}, operation_id="practice_log")
def practice_log(request: HttpRequest, build_id: UUID, q: Query[PracticeQuery]) -> HttpResponse:
    """A log of the draft on the simulated bench, with hidden deviations drawn from its tolerances."""
    document = read_text(build_for(user_of(request), build_id).text)
    if q.workload not in {workload.id for workload in document.workloads}:
        raise ApiFault(422, "workload", f"there is no workload '{q.workload}'")
    log = run_bench(document, BenchPlan(q.workload, q.room_c, load_min=q.minutes, seed=q.seed))
    return csv_download(log.csv(), f"practice-{q.workload}.csv")
