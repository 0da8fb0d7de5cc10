"""Live runs over HTTP: begun on Bench, fed by a logger with a token, watched by short polls, ended as a run."""

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Schema, Status
from ninja.security import HttpBearer

from builds.queries import build_for
from krill.document.reading import read_text
from krill.in_time.result import InTime
from krill.logs.live import read_csv, read_json_lines
from krill.simulated_bench.faults import faults_of
from krill.watching.result import Watched
from live import actions
from live.answers import NONE, TITLES, live_begun, live_out
from live.practising import begin_bench, must_have_a_bench_left, planned
from live.queries import forecast_of, live_for, lives_of, page_of, watched_of
from live.schemas import (
    FaultChoice,
    GuessIn,
    LiveBegun,
    LiveIn,
    LiveOut,
    LivePage,
    PageQuery,
    PracticeIn,
    Stored,
)
from runs.actions import revision_for
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import user_of
from wire.text import Text
from wire.turns import worked_out

router = Router(tags=["live"], by_alias=True)


class WithToken(HttpBearer):
    """A logger: its token is looked at together with the run that it sends to."""

    def authenticate(self, request: HttpRequest, token: str) -> str:
        return token


class SentBeside(Schema):
    """What a batch as CSV says beside its rows."""

    session: Text = ""
    sequence: int = -1
    clock: float | None = None
    steady: float | None = None
    interval_s: float | None = None


@router.get("/builds/{build_id}/live", response={200: list[LiveOut], ERRORS: Errors}, operation_id="list_live")
def list_live(request: HttpRequest, build_id: UUID) -> list[dict[str, Any]]:
    """Live runs that have not been ended."""
    return [live_out(live) for live in lives_of(build_for(user_of(request), build_id))]


@router.post("/builds/{build_id}/live", response={201: LiveBegun, ERRORS: Errors}, operation_id="begin_live")
def begin_live(request: HttpRequest, build_id: UUID, data: LiveIn) -> Status[Any]:
    """A live run, with the address and the token for its logger; the token is told this once."""
    live, token = actions.begin(user_of(request), build_id, data)
    return Status(201, live_begun(request, live, token))


@router.get(
    "/builds/{build_id}/live/faults", response={200: list[FaultChoice], ERRORS: Errors}, operation_id="live_faults"
)
def live_faults(request: HttpRequest, build_id: UUID, workload: Text) -> list[dict[str, str]]:
    """What may go wrong with a build on the simulated bench."""
    build = read_text(build_for(user_of(request), build_id).text)
    if workload not in {item.id for item in build.workloads}:
        raise ApiFault(422, "workload", f"there is no workload '{workload}'")
    possible = worked_out(faults_of, build, workload)
    return [{"kind": kind, "title": TITLES[kind]} for kind in (NONE, *possible)]


@router.post("/builds/{build_id}/live/practice", response={201: LiveOut, ERRORS: Errors}, operation_id="practise_live")
def practise_live(request: HttpRequest, build_id: UUID, data: PracticeIn) -> Status[Any]:
    """A live run from the simulated bench: a process of its own that sends as a logger does."""
    user = user_of(request)
    build = build_for(user, build_id, "editor")
    must_have_a_bench_left(user)
    document = read_text(revision_for(build, data.revision, data.workload).text)
    live, token = actions.begin(user, build_id, data, planned(document, data))
    begin_bench(live, token, request.META["SERVER_PORT"])
    return Status(201, live_out(live))


@router.get("/live/{live_id}", response={200: LiveOut, ERRORS: Errors}, operation_id="get_live")
def get_live(request: HttpRequest, live_id: UUID) -> dict[str, Any]:
    return live_out(live_for(user_of(request), live_id))


@router.get("/live/{live_id}/rows", response={200: LivePage, ERRORS: Errors}, operation_id="live_rows")
def live_rows(request: HttpRequest, live_id: UUID, q: Query[PageQuery]) -> dict[str, Any]:
    """Rows since a cursor, one every other second at most; asked again every half second while the test goes on."""
    return page_of(live_for(user_of(request), live_id), q.after)


@router.get("/live/{live_id}/watch", response={200: Watched | None, ERRORS: Errors}, operation_id="watch_live")
def watch_live(request: HttpRequest, live_id: UUID) -> Watched | None:
    """What the samples so far say: where it settles, what is off, what nears a limit, what failed; null before the first."""
    return watched_of(live_for(user_of(request), live_id))


@router.get("/live/{live_id}/expected", response={200: InTime, ERRORS: Errors}, operation_id="expected_live")
def expected_live(request: HttpRequest, live_id: UUID) -> InTime:
    """The forecast in time that the run is held against, with bands, in its own room."""
    return forecast_of(live_for(user_of(request), live_id))


@router.post("/live/{live_id}/token", response={200: LiveBegun, ERRORS: Errors}, operation_id="new_live_token")
def new_live_token(request: HttpRequest, live_id: UUID) -> dict[str, Any]:
    """Another token; the one before lets nobody in any more."""
    live, token = actions.new_token(user_of(request), live_id)
    return live_begun(request, live, token)


@router.post("/live/{live_id}/guess", response={200: LiveOut, ERRORS: Errors}, operation_id="guess_fault")
def guess_fault(request: HttpRequest, live_id: UUID, data: GuessIn) -> dict[str, Any]:
    """What somebody thinks is wrong on a bench that hides it; the first guess is judged."""
    watched = watched_of(live_for(user_of(request), live_id, "editor"))
    return live_out(actions.guess(user_of(request), live_id, data.kind, None if watched is None else watched.minutes))


@router.post("/live/{live_id}/end", response={200: LiveOut, ERRORS: Errors}, operation_id="end_live")
def end_live(request: HttpRequest, live_id: UUID) -> dict[str, Any]:
    """The live run becomes a run with a log, which is judged like any other."""
    actions.end(user_of(request), live_id)
    return live_out(live_for(user_of(request), live_id))


@router.delete("/live/{live_id}", response={204: None, ERRORS: Errors}, operation_id="discard_live")
def discard_live(request: HttpRequest, live_id: UUID) -> Status[None]:
    """A live run and its rows are gone; a run that was made of it stays."""
    actions.discard(user_of(request), live_id)
    return Status(204, None)


@router.post(
    "/live/{live_id}/batches",
    response={200: Stored, 410: Errors, ERRORS: Errors},
    operation_id="send_batch",
    auth=WithToken(),
)
def send_batch(request: HttpRequest, live_id: UUID, q: Query[SentBeside]) -> dict[str, Any]:
    """Rows of a logger, as JSON lines or CSV (docs/live-protocol.md); answered once they are stored, resent ones harmless."""
    token = str(request.auth)  # type: ignore[attr-defined]
    actions.must_be_let_in(live_id, token)
    try:
        text = request.body.decode()
    except UnicodeDecodeError:
        raise ApiFault(422, "batch", "is no text", "JSON lines or CSV, UTF-8") from None
    as_csv = (request.content_type or "").startswith("text/csv")
    batch = read_csv(text, q.dict()) if as_csv else read_json_lines(text)
    stored = actions.take_batch(live_id, token, batch)
    return {"stored": batch.sequence, "again": not stored}
