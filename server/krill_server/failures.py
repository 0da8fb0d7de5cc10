"""What nobody foresaw, in the one shape of every error: a reference that stands in the log, never a page or a trace."""

import logging
import sys
from collections.abc import Callable

from django.core.exceptions import RequestDataTooBig, SuspiciousOperation
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse

from krill_server.bodies import too_large
from krill_server.log_lines import reference
from wire.faults import Fault, problem
from wire.people import TOO_MANY

log = logging.getLogger("krill")


def failed(request: HttpRequest, error: Exception) -> HttpResponse:
    """An exception that no operation answers itself."""
    if isinstance(error, RequestDataTooBig):
        return too_large()
    if isinstance(error, SuspiciousOperation):
        return problem(400, [Fault(where="request", what=str(error))])
    if isinstance(error, OperationalError | InterfaceError):
        log.warning("%s %s: the database does not answer: %s", request.method, request.path, error)
        return unavailable()
    named = reference()
    log.error("%s %s failed, reference %s", request.method, request.path, named, exc_info=error)
    what = f"Krill failed at this; reference {named}"
    return problem(500, [Fault(where="request", what=what, allowed="tell whoever runs Krill the reference")])


def unavailable() -> HttpResponse:
    """The database is away: what was kept is kept, and the browser tries again."""
    answer = problem(503, [Fault(where="database", what="does not answer", allowed="try again in a moment")])
    answer["Retry-After"] = "2"
    return answer


def locked_out(request: HttpRequest, *told: object) -> HttpResponse:
    """The answer to the wrong password that was one too many."""
    return problem(429, [TOO_MANY])


def catch_all(request: HttpRequest, exception: Exception) -> HttpResponse:
    """For addresses that are nobody's, as ``handler404``: the API's answer below /api/, a page elsewhere."""
    if request.path.startswith("/api/"):
        return problem(404, [Fault(where="address", what=f"there is no {request.path[:200]}")])
    return HttpResponse("There is nothing at this address. Krill is at /", status=404, content_type="text/plain")


def broken(request: HttpRequest) -> HttpResponse:
    """What failed before or behind an operation, as ``handler500``: called while the exception is at hand."""
    error = sys.exc_info()[1]
    return failed(request, error if isinstance(error, Exception) else RuntimeError("unknown failure"))


def refuse_methods(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A middleware: a method that an address of the API does not have is refused in the one shape too."""

    def middleware(request: HttpRequest) -> HttpResponse:
        answer = get_response(request)
        if answer.status_code != 405 or not request.path.startswith("/api/"):
            return answer
        what, allowed = f"{request.method} is not for this address", answer.headers.get("Allow", "")
        shaped = problem(405, [Fault(where="method", what=what, allowed=allowed)])
        shaped["Allow"] = allowed
        return shaped

    return middleware
