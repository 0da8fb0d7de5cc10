"""What every app's HTTP side shares: the error shape, who asks, text that can be stored, the security policy."""

from collections.abc import Callable
from typing import Annotated, cast

from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from ninja import Schema
from pydantic import AfterValidator

POLICY = "; ".join(
    [
        "default-src 'none'",
        "script-src 'self'",
        "style-src 'self'",
        "img-src 'self' data:",
        "font-src 'self'",
        "connect-src 'self'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
        "require-trusted-types-for 'script'",
        "trusted-types svelte-trusted-html",
    ]
)


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response

    return middleware


class Fault(Schema):
    """One thing wrong: the address of the figure, what, what is allowed."""

    where: str
    what: str
    allowed: str = ""


class Errors(Schema):
    """The one shape of every error."""

    errors: list[Fault]


#: answers that any operation may give
ERRORS = frozenset({400, 401, 403, 404, 413, 422, 429})


class ApiFault(Exception):
    """An error with its status; the API's error table turns it into ``Errors``."""

    def __init__(self, status: int, where: str, what: str, allowed: str = "") -> None:
        self.status = status
        self.fault = Fault(where=where, what=what, allowed=allowed)
        super().__init__(what)


def _storable(value: str) -> str:
    if "\x00" in value or any("\ud800" <= c <= "\udfff" for c in value):
        raise ValueError("holds characters that cannot be stored")
    return value


Text = Annotated[str, AfterValidator(_storable)]


def user_of(request: HttpRequest) -> User:
    """The signed-in user; the API's authentication lets nobody else pass."""
    return cast(User, request.user)
