"""The API: routers of the apps and the one table of errors."""

from typing import Any, Final

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from accounts.people_router import router as people
from accounts.router import router as accounts
from ask.fit_router import router as fit
from ask.router import router as questions
from ask.tables_router import router as tables
from builds.actions import StaleSave
from builds.answers import conflict
from builds.router import router as builds
from krill import CORE_VERSION
from krill.errors import KrillError
from krill.solver import MOST_S, TookTooLong
from krill_server.failures import failed
from live.router import router as live
from runs.router import router as runs
from sheets.router import router as sheets
from shelf.router import router as shelf
from studies.router import router as studies
from wire.bodies import StorableJson
from wire.faults import CONTENT_TYPE, ApiFault, Fault, faults_of, problem
from wire.people import user_of
from wire.turns import Overtaken, SolverEnded

#: what answers with a file, and of which type
FILES: Final = {
    "export_archive": "application/zip",
    "get_original": "application/octet-stream",
    "get_picture": "image/*",
    "get_step_picture": "image/*",
    "practice_log": "text/csv",
    "prediction_csv": "text/csv",
    "run_csv": "text/csv",
    "run_table_csv": "text/csv",
    "candidates_csv": "text/csv",
    "sheet_csv": "text/csv",
    "calendar": "text/calendar",
    "cut_template": "application/pdf",
    "adapter_file": "model/stl",
}


class KrillApi(NinjaAPI):
    """The API, whose schema tells of files and of errors by their own types of content."""

    def get_openapi_schema(self, **told: Any) -> OpenAPISchema:
        schema = super().get_openapi_schema(**told)
        for methods in schema["paths"].values():
            for operation in methods.values():
                file = FILES.get(operation["operationId"], "application/json")
                for status, answer in operation["responses"].items():
                    if "content" in answer:
                        kind = CONTENT_TYPE if int(status) >= 400 else file
                        answer["content"] = {kind: answer["content"]["application/json"]}
        return schema


api = KrillApi(title="Krill", version=CORE_VERSION, auth=django_auth, docs_url=None, parser=StorableJson())
api.add_router("", accounts)
api.add_router("", people)
api.add_router("", builds)
api.add_router("", questions)
api.add_router("", tables)
api.add_router("", fit)
api.add_router("", runs)
api.add_router("", live)
api.add_router("", shelf)
api.add_router("", sheets)
api.add_router("", studies)


@api.exception_handler(ApiFault)
def _fault(request: HttpRequest, error: ApiFault) -> HttpResponse:
    return problem(error.status, [error.fault])


@api.exception_handler(StaleSave)
def _stale(request: HttpRequest, error: StaleSave) -> HttpResponse:
    return conflict(user_of(request), error)


@api.exception_handler(KrillError)
def _refused(request: HttpRequest, error: KrillError) -> HttpResponse:
    return problem(422, faults_of(error))


@api.exception_handler(Overtaken)
def _overtaken(request: HttpRequest, error: Overtaken) -> HttpResponse:
    return problem(422, [Fault(where="question", what="this page has asked again", allowed="the newer answer")])


@api.exception_handler(TookTooLong)
def _too_long(request: HttpRequest, error: TookTooLong) -> HttpResponse:
    what = f"more than {MOST_S:.0f} s of work"
    return problem(422, [Fault(where="question", what=what, allowed="fewer draws, workloads or figures; or a study")])


@api.exception_handler(SolverEnded)
def _solver_ended(request: HttpRequest, error: SolverEnded) -> HttpResponse:
    what = "the process that worked on it ended"
    return problem(422, [Fault(where="question", what=what, allowed="ask again; if that ends the same way, for less")])


@api.exception_handler(ValidationError)
def _validation(request: HttpRequest, error: ValidationError) -> HttpResponse:
    def fault(item: dict[str, Any]) -> Fault:
        return Fault(where="/".join(str(step) for step in item["loc"][1:]), what=item["msg"])

    return problem(422, [fault(item) for item in error.errors])


@api.exception_handler(AuthenticationError)
def _signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return problem(401, [Fault(where="session", what="not signed in", allowed="sign in first")])


@api.exception_handler(Http404)
def _missing(request: HttpRequest, error: Http404) -> HttpResponse:
    return problem(404, [Fault(where="address", what="there is no such thing")])


@api.exception_handler(HttpError)
def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, KrillError):  # of what reads the body
        return problem(422, faults_of(error.__cause__))
    return problem(error.status_code, [Fault(where="request", what=str(error))])


@api.exception_handler(Exception)
def _failed(request: HttpRequest, error: Exception) -> HttpResponse:
    return failed(request, error)
