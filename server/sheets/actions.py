"""Writes of marks: appended once each, whoever sends them however often."""

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Final

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from builds.models import Build
from builds.queries import build_for
from sheets.models import Mark
from wire.faults import ApiFault

#: marks that one build keeps
MOST_MARKS: Final = 20_000
#: marks may be so old when they come; older clocks are wrong
OLDEST: Final = timedelta(days=3650)


@dataclass(frozen=True)
class NewMark:
    """A mark as it was made, with the key and the time of whoever made it."""

    key: str
    about: str
    kind: str
    at: datetime
    word: str = ""
    minutes: float | None = None


@transaction.atomic
def add_marks(user: User, build_id: uuid.UUID, sent_at: datetime, marks: list[NewMark]) -> Build:
    """Append marks; one that is there already is not there twice. Their times are set right by the sender's clock."""
    build = build_for(user, build_id, "editor")
    now = timezone.now()
    off = now - _aware(sent_at)
    if build.marks.count() + len(marks) > MOST_MARKS:
        raise ApiFault(422, "marks", f"more than {MOST_MARKS} marks", "a new build for a new machine")
    rows = [stored(build, mark, _aware(mark.at) + off, now, user.username, user) for mark in marks]
    Mark.objects.bulk_create(rows, ignore_conflicts=True)
    return build


def stored(build: Build, mark: NewMark, at: datetime, newest: datetime, who: str, author: User) -> Mark:
    """A mark as it is stored: neither in the future nor before there were machines."""
    told = {name: getattr(mark, name) for name in ("key", "about", "kind", "word", "minutes")}
    return Mark(build=build, **told, at=min(max(at, newest - OLDEST), newest), who=who, author=author)


def _aware(at: datetime) -> datetime:
    return at if timezone.is_aware(at) else timezone.make_aware(at)
