"""Sign in, sign out, change of password."""

from typing import Annotated, Any

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest
from django.middleware.csrf import get_token
from ninja import Field, Router, Schema, Status
from ninja.security.apikey import APIKeyCookie

from wire.faults import ERRORS, ApiFault, Errors
from wire.people import TOO_MANY, user_of
from wire.text import Text

router = Router(tags=["accounts"], by_alias=True)


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


class Session(Schema):
    user: Person | None


@router.get("/session", auth=None, response=Session, operation_id="session")
def session(request: HttpRequest) -> dict[str, Any]:
    """Who is signed in; also sets the CSRF cookie."""
    get_token(request)
    user = request.user
    return {"user": {"username": user.get_username()} if user.is_authenticated else None}


@router.post("/login", auth=CsrfOnly(), response={200: Person, ERRORS: Errors}, operation_id="login")
def sign_in(request: HttpRequest, data: SignIn) -> Status[Any]:
    """Start a session; too many wrong passwords for one name from one address are held off."""
    user = _known(request, data.username, data.password)
    if user is None:
        raise ApiFault(401, "session", "wrong user name or password")
    login(request, user)
    return Status(200, {"username": user.get_username()})


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
    update_session_auth_hash(request, user)
    return Status(204, None)
