"""Reads of marks and pictures of steps."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.contrib.auth.models import User

from builds.models import Build
from sheets.models import Mark, StepPicture
from wire.stored import data_bytes

#: marks that say how a thing stands
STANDING = ("done", "undone", "failed")


@dataclass(frozen=True)
class Timer:
    """A timer that runs: since when, and when it rings."""

    about: str
    started: datetime
    rings: datetime
    word: str


def marks_of(build: Build) -> list[Mark]:
    """Every mark of a build, the oldest first."""
    return list(build.marks.all())


def pictures_of(build: Build) -> list[StepPicture]:
    """Pictures of the steps of a build without their bytes, the oldest first."""
    return list(build.step_pictures.defer("data"))


def picture_bytes_held(owner: User) -> int:
    """Bytes of step pictures in the builds of somebody."""
    return data_bytes(StepPicture.objects.filter(build__owner=owner))


def standing(marks: Iterable[Mark]) -> dict[str, Mark]:
    """The newest of done, undone and failed of each thing."""
    return {mark.about: mark for mark in marks if mark.kind in STANDING}


def timers(marks: Iterable[Mark]) -> list[Timer]:
    """Timers that were started and not stopped since."""
    running: dict[str, Mark] = {}
    for mark in marks:
        if mark.kind == "timer" and mark.minutes is not None:
            running[mark.about] = mark
        elif mark.kind in ("stopped", "done", "failed"):
            running.pop(mark.about, None)
    return [
        Timer(mark.about, mark.at, mark.at + timedelta(minutes=mark.minutes or 0.0), mark.word)
        for mark in running.values()
    ]
