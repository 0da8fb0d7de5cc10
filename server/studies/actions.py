"""Writes of studies: ask, cancel, delete, take a candidate over."""

import uuid
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from builds import actions as builds
from builds.history import note
from builds.models import Build
from builds.queries import build_for
from krill import CORE_VERSION
from krill.document.reading import digest, read_object, read_text, write_text
from krill.sizing.candidates import Study as Solver
from krill.sizing.question import read_question
from studies.models import Study
from studies.queries import solver_of, study_for
from studies.tasks import parts_of, queue
from wire.faults import ApiFault

MAX_OPEN = 3
MAX_KEPT = 30


@transaction.atomic
def ask(user: User, build_id: uuid.UUID, raw: Any, name: str, document: dict[str, Any] | None = None) -> Study:
    """Put a question to the draft (or to a document given) and queue it; refused where the two do not fit."""
    build = build_for(user, build_id, "editor", lock=True)
    if build.studies.filter(state__in=Study.OPEN).count() >= MAX_OPEN:
        raise ApiFault(422, "studies", f"{MAX_OPEN} studies of this build are under way", "wait, or cancel one")
    if Study.objects.filter(author=user, state__in=Study.OPEN).count() >= settings.MOST_STUDIES:
        raise ApiFault(422, "studies", f"{settings.MOST_STUDIES} studies of yours are under way", "wait, or cancel one")
    asked = read_text(build.text) if document is None else read_object(document)
    question = read_question(raw)
    solver = Solver(asked, question)
    solver.check_free()
    study = Study.objects.create(
        build=build,
        author=user,
        name=name,
        text=write_text(asked),
        sha256=digest(asked),
        question=raw,
        core_version=CORE_VERSION,
        size=question.size,
    )
    for old in build.studies.exclude(state__in=Study.OPEN)[MAX_KEPT:]:
        old.delete()
    queue(study, parts_of(solver.chunks()))
    note(build, user, f"asked the study {name or 'without a name'}")
    return study


@transaction.atomic
def cancel(user: User, study_id: uuid.UUID) -> Study:
    """Stop a study within a second; one that is over stays as it is."""
    study = study_for(user, study_id, "editor")
    Study.objects.filter(pk=study.pk, state__in=Study.OPEN).update(state="cancelled", finished=timezone.now())
    study.refresh_from_db()
    return study


@transaction.atomic
def delete(user: User, study_id: uuid.UUID) -> None:
    study = study_for(user, study_id, "editor")
    note(study.build, user, f"deleted the study {study.name or 'without a name'}")
    study.delete()


@transaction.atomic
def take(user: User, study_id: uuid.UUID, number: int, base: int, why: str) -> Build:
    """A candidate's edits on the draft, kept as a revision with its reason; StaleSave where the draft has moved on."""
    study = study_for(user, study_id, "editor")
    solver = solver_of(study)
    draft = read_text(build_for(user, study.build_id, "editor", lock=True).text)
    taken, _ = solver.made(number, draft)
    build = builds.save_draft(user, study.build_id, base, taken, f"candidate {number + 1}"[:200])
    builds.keep_revision(user, study.build_id, why)
    return build
