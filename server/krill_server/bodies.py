"""Bodies of requests that are refused before anything of them is read."""

from collections.abc import Callable
from typing import Final

from django.conf import settings
from django.http import HttpRequest, HttpResponse

from wire.faults import Fault, problem

#: a name and a password take less
ANONYMOUS_BYTES: Final = 16 * 1024
#: a batch of a logger, which has a token in place of a session; the token is looked at before the batch is
BATCH_BYTES: Final = 2 * 1024 * 1024


def refuse_bodies(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """A middleware behind the sign-in: no large body of anybody unknown, and none over the limit of all."""

    def middleware(request: HttpRequest) -> HttpResponse:
        size = _size(request)
        if size > settings.DATA_UPLOAD_MAX_MEMORY_SIZE:
            return too_large(size)
        if _is_batch(request):
            return get_response(request) if size <= BATCH_BYTES else too_large(size, BATCH_BYTES)
        if size > ANONYMOUS_BYTES and not request.user.is_authenticated:
            return problem(401, [Fault(where="session", what="not signed in", allowed="sign in first")])
        return get_response(request)

    return middleware


def _is_batch(request: HttpRequest) -> bool:
    is_one = request.path.startswith("/api/live/") and request.path.endswith("/batches")
    return is_one and request.headers.get("Authorization", "").startswith("Bearer ")


def too_large(size: int | None = None, most: int | None = None) -> HttpResponse:
    what = "too large" if size is None else f"{size / 2**20:.0f} MB"
    most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE if most is None else most
    allowed = f"up to {most // 2**20} MB in one request"
    return problem(413, [Fault(where="request", what=what, allowed=allowed)])


def _size(request: HttpRequest) -> int:
    try:
        return int(request.META.get("CONTENT_LENGTH") or 0)
    except ValueError:
        return 0
