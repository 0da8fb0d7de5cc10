"""Studies over HTTP: ask, watch, cancel, look at candidates, take one over."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from builds.answers import build_out
from builds.queries import build_for
from builds.schemas import BuildOut, Conflict
from krill.document.reading import write_object
from krill.sizing.neighbours import candidate_detail
from krill.sizing.result import CandidateDetail, StudyResult
from studies import actions
from studies.answers import candidate_rows, study_out
from studies.queries import result_of, solver_of, study_for
from studies.schemas import StudyIn, StudyOut, TakeIn
from wire.downloads import table_download
from wire.faults import ERRORS, Errors
from wire.people import user_of

router = Router(tags=["studies"], by_alias=True)


@router.get("/builds/{build_id}/studies", response={200: list[StudyOut], ERRORS: Errors}, operation_id="list_studies")
def list_studies(request: HttpRequest, build_id: UUID) -> list[dict[str, Any]]:
    """Studies of a build, newest first."""
    build = build_for(user_of(request), build_id)
    return [study_out(study) for study in build.studies.select_related("author", "build").defer("result", "text")]


@router.post("/builds/{build_id}/studies", response={202: StudyOut, ERRORS: Errors}, operation_id="ask_study")
def ask_study(request: HttpRequest, build_id: UUID, data: StudyIn) -> Status[Any]:
    """Queue a study of the draft; a worker solves it in the background."""
    study = actions.ask(user_of(request), build_id, data.question, data.name, data.document)
    return Status(202, study_out(study))


@router.get("/studies/{study_id}", response={200: StudyOut, ERRORS: Errors}, operation_id="get_study")
def get_study(request: HttpRequest, study_id: UUID) -> dict[str, Any]:
    """How far a study is."""
    return study_out(study_for(user_of(request), study_id))


@router.delete("/studies/{study_id}", response={204: None, ERRORS: Errors}, operation_id="delete_study")
def delete_study(request: HttpRequest, study_id: UUID) -> Status[Any]:
    actions.delete(user_of(request), study_id)
    return Status(204, None)


@router.post("/studies/{study_id}/cancel", response={200: StudyOut, ERRORS: Errors}, operation_id="cancel_study")
def cancel_study(request: HttpRequest, study_id: UUID) -> dict[str, Any]:
    """Stop a study; what it has solved so far is not shown."""
    return study_out(actions.cancel(user_of(request), study_id))


@router.get("/studies/{study_id}/result", response={200: StudyResult, ERRORS: Errors}, operation_id="get_study_result")
def get_study_result(request: HttpRequest, study_id: UUID) -> Any:
    """Figures of every candidate, the undominated ones, what met which demand."""
    return result_of(study_for(user_of(request), study_id))


@router.get(
    "/studies/{study_id}/candidates/{number}",
    response={200: CandidateDetail, ERRORS: Errors},
    operation_id="get_candidate",
)
def get_candidate(request: HttpRequest, study_id: UUID, number: int) -> CandidateDetail:
    """A candidate part by part, and whether the next larger and smaller are worth it."""
    study = study_for(user_of(request), study_id)
    return candidate_detail(solver_of(study), result_of(study), number)


@router.get(
    "/studies/{study_id}/candidates/{number}/document",
    response={200: dict[str, Any], ERRORS: Errors},
    operation_id="get_candidate_document",
)
def get_candidate_document(request: HttpRequest, study_id: UUID, number: int) -> dict[str, Any]:
    """A candidate as a build document."""
    return write_object(solver_of(study_for(user_of(request), study_id)).document(number))


@router.post(
    "/studies/{study_id}/candidates/{number}/take",
    response={200: BuildOut, 409: Conflict, ERRORS: Errors},
    operation_id="take_candidate",
)
def take_candidate(request: HttpRequest, study_id: UUID, number: int, data: TakeIn) -> dict[str, Any]:
    """Make a candidate the draft and keep it as a revision."""
    return build_out(user_of(request), actions.take(user_of(request), study_id, number, data.base, data.why))


@router.get("/studies/{study_id}/candidates.csv", response={200: str, ERRORS: Errors}, operation_id="candidates_csv")
def candidates_csv(request: HttpRequest, study_id: UUID) -> HttpResponse:
    """Every candidate as a row: its options, its figures, whether it meets every demand and is undominated."""
    study = study_for(user_of(request), study_id)
    return table_download(candidate_rows(result_of(study), solver_of(study)), "candidates.csv")
