"""Sign in, sign out, change of password, one's sessions, links that let in once."""

from datetime import datetime
from typing import Annotated, Any, Final, Literal
from uuid import UUID

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema, Status
from ninja.security.apikey import APIKeyCookie

from accounts import links, sessions
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import TOO_MANY, user_of
from wire.text import Text

router = Router(tags=["accounts"], by_alias=True)
#: who comes by a link has shown no password
BACKEND: Final = "django.contrib.auth.backends.ModelBackend"


class CsrfOnly(APIKeyCookie):
    """Anonymous, but CSRF-checked: ninja's views are exempt otherwise."""

    param_name = "csrftoken"

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True  # the base class has checked the token before


class SignIn(Schema):
    username: Annotated[Text, Field(max_length=150)]
    password: Annotated[Text, Field(max_length=200)]


class NewPassword(Schema):
    old: Annotated[Text, Field(max_length=200)]
    new: Annotated[Text, Field(max_length=200)]


class Person(Schema):
    username: str
    administrator: bool
    groups: list[str]


class SessionOut(Schema):
    """Where somebody is signed in; ``current`` is the session that asks."""

    id: UUID
    began: datetime
    seen: datetime
    address: str
    browser: str
    current: bool


class Ended(Schema):
    ended: int


class Token(Schema):
    token: Annotated[Text, Field(max_length=80)]


class LinkOut(Schema):
    """What a link is for; ``username`` is that of whom it gives a new password."""

    kind: Literal["invitation", "new password"]
    username: str | None


class TakeLink(Token):
    username: Annotated[Text, Field(max_length=150)] = ""
    password: Annotated[Text, Field(max_length=200)]


class Session(Schema):
    user: Person | None


@router.get("/session", auth=None, response=Session, operation_id="session")
def session(request: HttpRequest) -> dict[str, Any]:
    """Who is signed in; also sets the CSRF cookie."""
    get_token(request)
    user = request.user
    return {"user": _person(user) if isinstance(user, User) else None}


def _person(user: User) -> dict[str, Any]:
    groups = list(user.groups.order_by("name").values_list("name", flat=True))
    return {"username": user.get_username(), "administrator": user.is_staff, "groups": groups}


@router.post("/login", auth=CsrfOnly(), response={200: Person, ERRORS: Errors}, operation_id="login")
def sign_in(request: HttpRequest, data: SignIn) -> Status[Any]:
    """Start a session; too many wrong passwords for one name from one address are held off."""
    user = _known(request, data.username, data.password)
    if user is None:
        raise ApiFault(401, "session", "wrong user name or password")
    return Status(200, _let_in(request, user))


def _let_in(request: HttpRequest, user: User) -> dict[str, Any]:
    login(request, user, backend=BACKEND)
    return _person(user)


@router.post("/link", auth=CsrfOnly(), response={200: LinkOut, ERRORS: Errors}, operation_id="look_at_link")
def look_at_link(request: HttpRequest, data: Token) -> dict[str, Any]:
    """What a link that lets in once is for."""
    person = links.looked_at(data.token).person
    return {"kind": "new password" if person else "invitation", "username": person.username if person else None}


@router.post("/link/take", auth=CsrfOnly(), response={200: Person, ERRORS: Errors}, operation_id="take_link")
def take_link(request: HttpRequest, data: TakeLink) -> dict[str, Any]:
    """Choose name and password by an invitation, or another password; signs in."""
    return _let_in(request, links.take(data.token, data.username.strip(), data.password))


def _known(request: HttpRequest, username: str, password: str) -> User | None:
    """Whose password it is; ApiFault where too many wrong ones came for this name from this address."""
    if AxesProxyHandler.is_locked(request, {"username": username}):
        raise ApiFault(429, TOO_MANY.where, TOO_MANY.what, TOO_MANY.allowed)
    return authenticate(request, username=username, password=password)


@router.post("/logout", response={204: None, ERRORS: Errors}, operation_id="logout")
def sign_out(request: HttpRequest) -> Status[Any]:
    logout(request)
    return Status(204, None)


@router.post("/password", response={204: None, ERRORS: Errors}, operation_id="change_password")
def change_password(request: HttpRequest, data: NewPassword) -> Status[Any]:
    """Change one's own password; the session stays. Wrong ones are counted with those of the sign-in."""
    user = user_of(request)
    if _known(request, user.get_username(), data.old) is None:
        raise ApiFault(403, "old", "not the present password")
    try:
        validate_password(data.new, user)
    except ValidationError as error:
        raise ApiFault(422, "new", " ".join(error.messages)) from None
    user.set_password(data.new)
    user.save(update_fields=["password"])
    before = request.session.session_key or ""
    update_session_auth_hash(request, user)
    sessions.moved(before, request.session.session_key or "")
    sessions.end_all(user, but=request.session.session_key or "")
    return Status(204, None)


@router.get("/sessions", response={200: list[SessionOut], ERRORS: Errors}, operation_id="list_sessions")
def list_sessions(request: HttpRequest) -> list[dict[str, Any]]:
    """Where one is signed in, last seen first."""
    told = ("id", "began", "seen", "address", "browser")
    return [
        {field: getattr(one, field) for field in told} | {"current": one.key == request.session.session_key}
        for one in sessions.of(user_of(request))
    ]


@router.delete("/sessions/{session_id}", response={204: None, ERRORS: Errors}, operation_id="end_session")
def end_session(request: HttpRequest, session_id: UUID) -> Status[Any]:
    sessions.end(user_of(request), session_id)
    return Status(204, None)


@router.post("/end-other-sessions", response={200: Ended, ERRORS: Errors}, operation_id="end_other_sessions")
def end_other_sessions(request: HttpRequest) -> dict[str, int]:
    """Sign out everywhere but here."""
    return {"ended": sessions.end_all(user_of(request), but=request.session.session_key or "")}
