"""Who asks."""

from typing import cast

from django.contrib.auth.models import User
from django.http import HttpRequest

from wire.faults import Fault

TOO_MANY = Fault(where="session", what="too many wrong passwords", allowed="try again in a quarter of an hour")


def user_of(request: HttpRequest) -> User:
    """The signed-in user; the API's authentication lets nobody else pass."""
    return cast(User, request.user)
