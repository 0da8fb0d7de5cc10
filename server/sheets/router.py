"""Build sheets over HTTP: order, parts, fill and care of a document; marks and pictures beside a build; tables and a calendar."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import File, Form, Query, Router, Status
from ninja.files import UploadedFile

from builds.models import Build
from builds.queries import build_for
from krill.assembly.sheet import BuildSheet, build_sheet
from krill.assembly.suspects import StartSuspect, suspects_of
from krill.assembly.tables import leads_csv, parts_csv
from krill.assembly.work_order import work_order
from krill.document.reading import read_text
from krill.feeds.feeding import Feeding, feeding
from sheets import actions
from sheets.calendar import calendar_of
from sheets.models import StepPicture
from sheets.queries import marks_of, pictures_of
from sheets.schemas import FeedsIn, MarksIn, MarksOut, PictureOfIn, SheetIn, StepPictureOut, SuspectsIn, TableQuery
from wire.downloads import csv_download, download, picture_response
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import user_of
from wire.pictures import must_not_be_larger
from wire.text import Text

router = Router(tags=["sheets"], by_alias=True)


@router.post("/sheet", response={200: BuildSheet, ERRORS: Errors}, operation_id="build_sheet")
def sheet_of_document(request: HttpRequest, data: SheetIn) -> BuildSheet:
    """The order of the work, parts, leads, fill, care and cautions of a document; nothing is stored."""
    return build_sheet(data.document)


@router.post("/suspects", response={200: list[StartSuspect], ERRORS: Errors}, operation_id="start_suspects")
def suspects_of_document(request: HttpRequest, data: SuspectsIn) -> list[StartSuspect]:
    """It does not start: what to suspect, the likeliest first."""
    return suspects_of(work_order(data.document).steps, data.touched, data.tried)


@router.post("/feeds", response={200: Feeding, ERRORS: Errors}, operation_id="feed_loads")
def feeds_of_document(request: HttpRequest, data: FeedsIn) -> Feeding:
    """What hangs on each plug, splitter and supply in a workload, against what they bear."""
    return feeding(data.document, data.workload, data.inlet_c)


@router.get("/builds/{build_id}/marks", response={200: MarksOut, ERRORS: Errors}, operation_id="list_marks")
def list_marks(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    """What was ticked, timed, read and noted, the oldest first."""
    return _marks_out(build_for(user_of(request), build_id))


@router.post("/builds/{build_id}/marks", response={200: MarksOut, ERRORS: Errors}, operation_id="add_marks")
def add_marks(request: HttpRequest, build_id: UUID, data: MarksIn) -> dict[str, Any]:
    """Append marks; those that were sent before are there once. Two people's ticks stand beside each other."""
    marks = [actions.NewMark(**mark.dict()) for mark in data.marks]
    return _marks_out(actions.add_marks(user_of(request), build_id, data.sent_at, marks))


def _marks_out(build: Build) -> dict[str, Any]:
    return {"now": timezone.now(), "marks": marks_of(build)}


@router.get(
    "/builds/{build_id}/step-pictures",
    response={200: list[StepPictureOut], ERRORS: Errors},
    operation_id="list_step_pictures",
)
def list_step_pictures(request: HttpRequest, build_id: UUID) -> list[StepPicture]:
    """Pictures of the steps of a build, the oldest first."""
    return pictures_of(build_for(user_of(request), build_id))


@router.post(
    "/builds/{build_id}/step-pictures",
    response={201: list[StepPictureOut], ERRORS: Errors},
    operation_id="add_step_picture",
)
def add_step_picture(
    request: HttpRequest, build_id: UUID, data: Form[PictureOfIn], file: File[UploadedFile]
) -> Status[Any]:
    """A picture of a step, drawn anew without what a camera wrote beside it; up to 8 MB."""
    must_not_be_larger(file.size)
    return Status(201, pictures_of(actions.add_picture(user_of(request), build_id, data.about, file.read())))


@router.get(
    "/builds/{build_id}/step-pictures/{sha256}", response={200: str, ERRORS: Errors}, operation_id="get_step_picture"
)
def get_step_picture(request: HttpRequest, build_id: UUID, sha256: Text) -> HttpResponse:
    """The picture as it is kept; it never changes under its name."""
    kept = build_for(user_of(request), build_id).step_pictures.filter(sha256=sha256).first()
    if kept is None:
        raise ApiFault(404, "picture", "there is no such picture of a step")
    return picture_response(bytes(kept.data), kept.media_type)


@router.delete(
    "/builds/{build_id}/step-pictures/{sha256}",
    response={200: list[StepPictureOut], ERRORS: Errors},
    operation_id="remove_step_picture",
)
def remove_step_picture(request: HttpRequest, build_id: UUID, sha256: Text) -> list[StepPicture]:
    return pictures_of(actions.remove_picture(user_of(request), build_id, sha256))


@router.get("/builds/{build_id}/sheet.csv", response={200: str, ERRORS: Errors}, operation_id="sheet_csv")
def sheet_csv(request: HttpRequest, build_id: UUID, q: Query[TableQuery]) -> HttpResponse:
    """Parts or leads of the draft as a table."""
    sheet = build_sheet(read_text(build_for(user_of(request), build_id).text))
    text = parts_csv(sheet.parts) if q.table == "parts" else leads_csv(sheet.leads)
    return csv_download(text, f"{q.table}.csv")


@router.get("/builds/{build_id}/calendar.ics", response={200: str, ERRORS: Errors}, operation_id="calendar")
def calendar(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """Timers, parts expected and what is due, as iCalendar."""
    build = build_for(user_of(request), build_id)
    sheet = build_sheet(read_text(build.text))
    ics = calendar_of(build, sheet, marks_of(build), timezone.localdate())
    return download(ics, "krill.ics", "text/calendar; charset=utf-8")
