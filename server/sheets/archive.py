"""Marks as a file of an archive, and back."""

import json
from typing import Any

from django.contrib.auth.models import User
from pydantic import TypeAdapter, ValidationError

from builds.models import Build
from sheets.actions import MOST_MARKS, NewMark, stored
from sheets.models import Mark
from sheets.schemas import MarkIn
from wire.faults import ApiFault

MARKS = "marks.json"
_Marks = TypeAdapter(list[MarkIn])


def marks_file(build: Build) -> str | None:
    """Every mark of a build as JSON; None where it has none."""
    rows = list(build.marks.values("key", "about", "kind", "word", "minutes", "at", "who"))
    if not rows:
        return None
    return json.dumps([row | {"at": row["at"].isoformat()} for row in rows], indent=1)


def take_marks(user: User, build: Build, raw: Any) -> None:
    """The marks of a file for a build that has none; who made them stays a word. ApiFault where one cannot be."""
    try:
        marks = _Marks.validate_python(raw)
    except ValidationError as wrong:
        first = wrong.errors()[0]
        where = "/".join(str(step) for step in (MARKS, *first["loc"]))
        raise ApiFault(422, where, first["msg"], "marks that Krill wrote") from None
    if len(marks) > MOST_MARKS:
        raise ApiFault(422, MARKS, f"{len(marks)} marks", f"up to {MOST_MARKS}")
    names = [str(row.get("who", ""))[:150] for row in raw]
    rows = [
        stored(build, NewMark(**mark.dict()), mark.at, build.created, name, user)
        for mark, name in zip(marks, names, strict=True)
    ]
    Mark.objects.bulk_create(rows, ignore_conflicts=True)
