"""Runs over HTTP: logs, typed readings, series, verdicts, practice logs."""

from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

from builds.answers import build_out
from builds.models import Build
from builds.queries import build_for
from builds.schemas import BuildOut
from krill.document.reading import read_text
from krill.errors import ClockUnknown, LogRefused
from krill.logs.limits import MAX_BYTES
from krill.runs.compare import Equal
from krill.runs.pasted import Pasted, read_pasted
from krill.runs.run_document import read_run, write_run
from krill.simulated_bench.bench import BenchPlan, run_bench
from runs import actions
from runs.archive import archive_of, read_archive
from runs.models import Run
from runs.queries import (
    bytes_held,
    cards_of,
    compare_runs,
    file_of,
    last_run_json,
    learn,
    measured_changes,
    original_of,
    picture_of,
    repeated,
    run_for,
    run_json,
    runs_held,
    series_of,
    stored_json,
    table_of,
    table_of_runs,
    verdict_of,
    whole_file_of,
)
from runs.schemas import (
    CaptionIn,
    CompareOut,
    LastRun,
    LearnIn,
    LearnOut,
    MeasuredChange,
    PastedIn,
    PastedOut,
    ReadingsIn,
    RepeatedOut,
    RunCard,
    RunChange,
    RunIn,
    RunOut,
    RunTableOut,
    SeriesOut,
    Usage,
    VerdictOut,
)
from wire.downloads import csv_download, download, picture_response, table_download
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import user_of
from wire.pictures import must_not_be_larger
from wire.text import Text

router = Router(tags=["runs"], by_alias=True)


TABLE_ALLOWED = "text with a header and rows of figures"


def _must_be_small(file: UploadedFile | None) -> None:
    if file is not None and (file.size or 0) > MAX_BYTES:
        raise ApiFault(413, "file", f"{(file.size or 0) / 2**20:.0f} MB", f"up to {MAX_BYTES // 2**20} MB")


class PracticeQuery(Schema):
    workload: Text
    room_c: float = Field(24, ge=0, le=45)
    seed: int = Field(1, ge=0, le=10_000)
    minutes: float = Field(60, ge=5, le=180)
    exact: bool = False  # as the document says, without hidden deviations, in a room that stays as it is


class SeriesQuery(Schema):
    points: int = Field(800, ge=50, le=5000)


@router.get("/builds/{build_id}/runs", response={200: list[RunCard], ERRORS: Errors}, operation_id="list_runs")
def list_runs(request: HttpRequest, build_id: UUID) -> list[dict[str, Any]]:
    build = build_for(user_of(request), build_id)
    return cards_of(build)


@router.get("/builds/{build_id}/last-run", response={200: LastRun | None, ERRORS: Errors}, operation_id="last_run")
def last_run(request: HttpRequest, build_id: UUID) -> dict[str, Any] | None:
    """The newest run of a build with its verdict in one sentence."""
    run = build_for(user_of(request), build_id).runs.select_related("revision").last()
    return None if run is None else last_run_json(run)


@router.get("/usage", response={200: Usage, ERRORS: Errors}, operation_id="usage")
def usage(request: HttpRequest) -> dict[str, Any]:
    """How much of what one may have one has."""
    user = user_of(request)
    return {
        "builds": user.builds.count(),
        "most_builds": settings.MOST_BUILDS,
        "runs": runs_held(user),
        "most_runs": settings.MOST_RUNS,
        "mb": round(bytes_held(user) / 2**20, 1),
        "most_mb": settings.MOST_MB,
    }


@router.post("/builds/{build_id}/runs/log", response={201: RunOut, ERRORS: Errors}, operation_id="add_log")
def add_log(request: HttpRequest, build_id: UUID, data: Form[RunIn], file: File[UploadedFile]) -> Status[Any]:
    """A log file of any logger; refused with the reason where it holds no table, over 50 MB with the limit."""
    _must_be_small(file)
    try:
        run = actions.add_log(user_of(request), build_id, data, file.name or "log", file.read())
    except ClockUnknown as unknown:
        raise ApiFault(422, "interval_s", str(unknown), "more than 0, up to 3600 s") from None
    except LogRefused as refused:
        raise ApiFault(422, "file", str(refused), TABLE_ALLOWED) from None
    return Status(201, stored_json(run))


@router.post("/builds/{build_id}/runs/readings", response={201: RunOut, ERRORS: Errors}, operation_id="add_readings")
def add_readings(request: HttpRequest, build_id: UUID, data: ReadingsIn) -> Status[Any]:
    return Status(201, run_json(actions.add_readings(user_of(request), build_id, data)))


@router.get("/runs/{run_id}", response={200: RunOut, ERRORS: Errors}, operation_id="get_run")
def get_run(request: HttpRequest, run_id: UUID, window: Text | None = None) -> dict[str, Any]:
    return run_json(run_for(user_of(request), run_id), window)


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
def get_verdict(request: HttpRequest, run_id: UUID, window: Text | None = None) -> dict[str, Any]:
    return verdict_of(run_for(user_of(request), run_id), window)


@router.get(
    "/runs/{run_id}/compare/{other_id}", response={200: CompareOut, ERRORS: Errors}, operation_id="compare_runs"
)
def compare_with(
    request: HttpRequest,
    run_id: UUID,
    other_id: UUID,
    window: Text | None = None,
    other_window: Text | None = None,
    equal: Equal = "speeds",
) -> dict[str, Any]:
    """A load of the other run against one of this, of the same build or of another that one may read.

    At equal watts, and at equal speeds or equal sound.
    """
    user = user_of(request)
    return compare_runs(run_for(user, run_id), run_for(user, other_id), (window, other_window), equal)


@router.get("/runs/{run_id}/run.json", response={200: str, ERRORS: Errors}, operation_id="export_run")
def export_run(request: HttpRequest, run_id: UUID) -> HttpResponse:
    """The run as its open file; the log is told by its hash and lies under ``original``."""
    run = run_for(user_of(request), run_id)
    return download(write_run(whole_file_of(run)), "run.json", "application/json")


@router.post("/builds/{build_id}/runs/file", response={201: RunOut, ERRORS: Errors}, operation_id="import_run")
def import_run(
    request: HttpRequest, build_id: UUID, file: File[UploadedFile], log: File[UploadedFile | None] = None
) -> Status[Any]:
    """A run from its file, with its log where it has one."""
    for upload in (file, log):
        _must_be_small(upload)
    content = None if log is None else (log.name or "log", log.read())
    try:
        document = read_run(file.read().decode())
        run = actions.add_run_file(user_of(request), build_id, document, content)
    except UnicodeDecodeError:
        raise ApiFault(422, "file", "is no text", "a run as JSON, UTF-8") from None
    except LogRefused as refused:
        raise ApiFault(422, "log", str(refused), TABLE_ALLOWED) from None
    return Status(201, stored_json(run))


@router.get("/runs/{run_id}/original", response={200: str, ERRORS: Errors}, operation_id="get_original")
def get_original(request: HttpRequest, run_id: UUID) -> HttpResponse:
    """The file as it came, byte for byte."""
    run = run_for(user_of(request), run_id)
    return download(original_of(run), "original.log", "application/octet-stream")


@router.post("/runs/{run_id}/pictures", response={201: RunOut, ERRORS: Errors}, operation_id="add_picture")
def add_picture(request: HttpRequest, run_id: UUID, data: Form[CaptionIn], file: File[UploadedFile]) -> Status[Any]:
    """A picture of the run, drawn anew without what a camera wrote beside it; up to 8 MB."""
    must_not_be_larger(file.size)
    return Status(201, run_json(actions.add_picture(user_of(request), run_id, file.read(), data.caption)))


@router.get("/runs/{run_id}/pictures/{sha256}", response={200: str, ERRORS: Errors}, operation_id="get_picture")
def get_picture(request: HttpRequest, run_id: UUID, sha256: Text) -> HttpResponse:
    """The picture as it is kept; it never changes under its name."""
    run = run_for(user_of(request), run_id)
    told = next((picture for picture in file_of(run).pictures if picture.sha256 == sha256), None)
    content = b"" if told is None else picture_of(run, sha256)
    if told is None or not content:
        raise ApiFault(404, "picture", "there is no such picture of this run")
    return picture_response(content, told.media_type)


@router.delete(
    "/runs/{run_id}/pictures/{sha256}", response={200: RunOut, ERRORS: Errors}, operation_id="remove_picture"
)
def remove_picture(request: HttpRequest, run_id: UUID, sha256: Text) -> dict[str, Any]:
    return run_json(actions.remove_picture(user_of(request), run_id, sha256))


@router.get("/runs/{run_id}/run.csv", response={200: str, ERRORS: Errors}, operation_id="run_csv")
def run_csv(request: HttpRequest, run_id: UUID) -> HttpResponse:
    """The run as read: seconds and channels, or the typed readings."""
    run = run_for(user_of(request), run_id)
    return table_download(table_of(run), "run.csv")


@router.get("/builds/{build_id}/practice.csv", response={200: str, ERRORS: Errors}, operation_id="practice_log")
def practice_log(request: HttpRequest, build_id: UUID, q: Query[PracticeQuery]) -> HttpResponse:
    """A log of the draft on the simulated bench, with hidden deviations drawn from its tolerances unless it is ``exact``."""
    document = read_text(build_for(user_of(request), build_id).text)
    if q.workload not in {workload.id for workload in document.workloads}:
        raise ApiFault(422, "workload", f"there is no workload '{q.workload}'")
    plan = BenchPlan(q.workload, q.room_c, load_min=q.minutes, seed=q.seed, clocks=True)
    log = run_bench(document, plan.exactly() if q.exact else plan)
    return csv_download(log.csv(), f"practice-{q.workload}.csv")


@router.post("/builds/{build_id}/runs/pasted", response={200: PastedOut, ERRORS: Errors}, operation_id="read_pasted")
def pasted_readings(request: HttpRequest, build_id: UUID, data: PastedIn) -> Pasted:
    """Lines of text as readings of the draft's parts; nothing is kept."""
    return read_pasted(data.text, read_text(build_for(user_of(request), build_id).text))


@router.post("/builds/{build_id}/learn", response={200: LearnOut, ERRORS: Errors}, operation_id="learn")
def learn_from_runs(request: HttpRequest, build_id: UUID, data: LearnIn) -> dict[str, Any]:
    """What runs teach about the draft's figures; nothing is changed until the calibration is put into the document."""
    user = user_of(request)
    build = build_for(user, build_id)
    return learn(build, [(_of_build(user, build, load.run), load.window) for load in data.loads], data.free)


@router.get("/builds/{build_id}/runs/table", response={200: RunTableOut, ERRORS: Errors}, operation_id="run_table")
def table_of_all(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    """Every load: parts over the room and K/W, best and worst, drift."""
    return table_of_runs(build_for(user_of(request), build_id))


@router.get(
    "/builds/{build_id}/measured-changes",
    response={200: list[MeasuredChange], ERRORS: Errors},
    operation_id="measured_changes",
)
def changes_as_measured(request: HttpRequest, build_id: UUID) -> list[dict[str, Any]]:
    """What each revision that was run gave against the one that ran before it."""
    return measured_changes(build_for(user_of(request), build_id))


@router.get("/builds/{build_id}/runs.csv", response={200: str, ERRORS: Errors}, operation_id="run_table_csv")
def table_as_csv(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """The same table as CSV: a row a load and part."""
    found = table_of_runs(build_for(user_of(request), build_id))
    rows: list[list[Any]] = [["run", "workload", "revision", "room_c", "watts", "part", "over_room_k", "half_k", "k_w"]]
    for row in found["rows"]:
        told = [row["name"], row["workload"], row["revision"], round(row["room"]["air_c"], 2), round(row["watts"], 1)]
        for cell in row["cells"]:
            k_w = "" if cell["k_w"] is None else round(cell["k_w"], 4)
            rows.append([*told, found["names"][cell["role"]], round(cell["over_k"], 2), round(cell["half_k"], 2), k_w])
    return table_download(rows, "runs.csv")


@router.get(
    "/runs/{run_id}/repeated/{other_id}/{again_id}",
    response={200: RepeatedOut, ERRORS: Errors},
    operation_id="repeated",
)
def before_after_before(request: HttpRequest, run_id: UUID, other_id: UUID, again_id: UUID) -> dict[str, Any]:
    """A run before a change, one after it, one before it again."""
    user = user_of(request)
    return repeated([(run_for(user, one), None) for one in (run_id, other_id, again_id)])


@router.get("/builds/{build_id}/archive.zip", response={200: str, ERRORS: Errors}, operation_id="export_archive")
def export_archive(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """Draft, revisions, runs and logs as one zip of open files."""
    return download(archive_of(build_for(user_of(request), build_id)), "build.zip", "application/zip")


@router.post("/archives", response={201: BuildOut, ERRORS: Errors}, operation_id="import_archive")
def import_archive(request: HttpRequest, file: File[UploadedFile]) -> Status[Any]:
    """A new build of one's own from such a zip."""
    _must_be_small(file)
    user = user_of(request)
    return Status(201, build_out(user, read_archive(user, file.read())))


def _of_build(user: User, build: Build, run_id: UUID) -> Run:
    run = run_for(user, run_id)
    if run.build_id != build.pk:
        raise ApiFault(422, "loads", f"run {run_id} is of another build", "runs of this build")
    return run
