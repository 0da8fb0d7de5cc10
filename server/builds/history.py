"""Who did what with a build: one line an act, written in the transaction of the act itself."""

from typing import Final

from django.contrib.auth.models import User
from django.db.models import QuerySet

from builds.models import Build, Event

#: lines that are shown
SHOWN: Final = 500


def note(build: Build, user: User, did: str) -> None:
    Event.objects.create(build=build, who=user.username, did=did[:300])


def of(build: Build) -> QuerySet[Event]:
    """The newest first."""
    return build.events.all()[:SHOWN]
