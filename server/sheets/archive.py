"""Marks and pictures of steps as files of an archive, and back."""

import json
from typing import Any

from django.contrib.auth.models import User
from pydantic import TypeAdapter, ValidationError

from builds.models import Build
from sheets.actions import MOST_MARKS, MOST_PICTURES, NewMark, step_picture, stored
from sheets.models import Mark, StepPicture
from sheets.schemas import KeptPicture, MarkIn
from wire.faults import ApiFault
from wire.pictures import as_kept, must_be_bare

MARKS = "marks.json"
PICTURES, FOLDER = "step-pictures.json", "step-pictures"
_Marks = TypeAdapter(list[MarkIn])
_Pictures = TypeAdapter(list[KeptPicture])


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


def picture_files(build: Build) -> dict[str, bytes | str]:
    """Every picture of a step by its name in an archive, with the list that says what each is of; nothing without any."""
    kept = list(build.step_pictures.all())
    if not kept:
        return {}
    told = [{"about": one.about, "sha256": one.sha256, "at": one.at.isoformat(), "who": one.who} for one in kept]
    files: dict[str, bytes | str] = {f"{FOLDER}/{one.sha256}": bytes(one.data) for one in kept}
    return files | {PICTURES: json.dumps(told, indent=1)}


def take_pictures(build: Build, raw: Any, files: dict[str, bytes]) -> None:
    """The pictures of an archive for a build that has none. ApiFault where one is missing, or holds more than a picture."""
    try:
        told = _Pictures.validate_python(raw)
    except ValidationError as wrong:
        raise ApiFault(422, PICTURES, wrong.errors()[0]["msg"], "a list that Krill wrote") from None
    if len(told) > MOST_PICTURES:
        raise ApiFault(422, PICTURES, f"{len(told)} pictures", f"up to {MOST_PICTURES}")
    rows = []
    for one in told:
        content = files.get(f"{FOLDER}/{one.sha256}", b"")
        must_be_bare(content, one.sha256)
        rows.append(step_picture(build, one.about, as_kept(content), one.at, one.who))
    StepPicture.objects.bulk_create(rows, ignore_conflicts=True)
