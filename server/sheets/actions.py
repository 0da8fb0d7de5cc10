"""Writes of marks, appended once each, whoever sends them however often, and of pictures of steps."""

import uuid
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Final

from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from builds.models import Build
from builds.queries import build_for
from sheets.models import Mark, StepPicture
from wire.faults import ApiFault
from wire.pictures import Drawn, drawn_anew

#: marks that one build keeps
MOST_MARKS: Final = 20_000
#: pictures of steps that one build keeps
MOST_PICTURES: Final = 200
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


@transaction.atomic
def add_picture(user: User, build_id: uuid.UUID, about: str, content: bytes) -> Build:
    """Keep a picture of a step, drawn anew; one that is there already is not there twice."""
    build = build_for(user, build_id, "editor")
    if build.step_pictures.count() >= MOST_PICTURES:
        raise ApiFault(422, "file", f"{MOST_PICTURES} pictures are kept", "one of them taken away first")
    StepPicture.objects.bulk_create(
        [step_picture(build, about, drawn_anew(content), timezone.now(), user.username)], ignore_conflicts=True
    )
    return build


def step_picture(build: Build, about: str, drawn: Drawn, at: datetime, who: str) -> StepPicture:
    """A picture as it is stored."""
    told = {name: getattr(drawn, name) for name in ("sha256", "media_type", "width", "height")}
    return StepPicture(build=build, about=about, data=drawn.content, at=at, who=who, **told)


@transaction.atomic
def remove_picture(user: User, build_id: uuid.UUID, sha256: str) -> Build:
    """Take a picture away from every step that it is of. ApiFault where there is none."""
    build = build_for(user, build_id, "editor")
    removed, _ = build.step_pictures.filter(sha256=sha256).delete()
    if not removed:
        raise ApiFault(404, "picture", "there is no such picture of a step")
    return build


def stored(build: Build, mark: NewMark, at: datetime, newest: datetime, who: str, author: User) -> Mark:
    """A mark as it is stored: neither in the future nor before there were machines."""
    told = {name: getattr(mark, name) for name in ("key", "about", "kind", "word", "minutes")}
    return Mark(build=build, **told, at=min(max(at, newest - OLDEST), newest), who=who, author=author)


def _aware(at: datetime) -> datetime:
    return at if timezone.is_aware(at) else timezone.make_aware(at)
