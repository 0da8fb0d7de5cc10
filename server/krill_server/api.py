"""The API: routers of the apps and the one table of errors."""

from typing import Any

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from accounts.router import router as accounts
from builds.predict_router import router as predictions
from builds.questions_router import router as questions
from builds.router import router as builds
from krill import CORE_VERSION
from krill.errors import DocumentRefused, KrillError
from krill_server.http import ApiFault
from runs.router import router as runs
from shelf.router import router as shelf
from studies.router import router as studies

api = NinjaAPI(title="Krill", version=CORE_VERSION, auth=django_auth, docs_url=None)
api.add_router("", accounts)
api.add_router("", builds)
api.add_router("", predictions)
api.add_router("", questions)
api.add_router("", runs)
api.add_router("", shelf)
api.add_router("", studies)


def _answer(request: HttpRequest, status: int, faults: list[dict[str, str]]) -> HttpResponse:
    return api.create_response(request, {"errors": faults}, status=status)


@api.exception_handler(ApiFault)
def _fault(request: HttpRequest, error: ApiFault) -> HttpResponse:
    return _answer(request, error.status, [error.fault.dict()])


@api.exception_handler(DocumentRefused)
def _refused(request: HttpRequest, error: DocumentRefused) -> HttpResponse:
    faults = [{"where": p.where, "what": p.what, "allowed": p.allowed} for p in error.problems]
    return _answer(request, 422, faults)


@api.exception_handler(KrillError)
def _core(request: HttpRequest, error: KrillError) -> HttpResponse:
    return _answer(request, 422, [{"where": "build", "what": str(error), "allowed": ""}])


@api.exception_handler(ValidationError)
def _validation(request: HttpRequest, error: ValidationError) -> HttpResponse:
    def fault(item: dict[str, Any]) -> dict[str, str]:
        return {"where": "/".join(str(step) for step in item["loc"][1:]), "what": item["msg"], "allowed": ""}

    return _answer(request, 422, [fault(item) for item in error.errors])


@api.exception_handler(AuthenticationError)
def _signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
    return _answer(request, 401, [{"where": "session", "what": "not signed in", "allowed": "sign in first"}])


@api.exception_handler(Http404)
def _missing(request: HttpRequest, error: Http404) -> HttpResponse:
    return _answer(request, 404, [{"where": "address", "what": "there is no such thing", "allowed": ""}])


@api.exception_handler(HttpError)
def _http(request: HttpRequest, error: HttpError) -> HttpResponse:
    return _answer(request, error.status_code, [{"where": "request", "what": str(error), "allowed": ""}])
