"""Solving a study in a worker: chunk by chunk, each kept at once, so that another worker can go on."""

import logging

from django.utils import timezone
from procrastinate.contrib.django import app

from krill.errors import KrillError
from krill.records import to_json
from krill.sizing.outcome import columns_as_json, columns_of_json, outcome
from studies.models import SolvedChunk, Study
from studies.queries import solver_of

QUEUE = "studies"
log = logging.getLogger(__name__)


@app.task(queue=QUEUE)
def run_study(study_id: str) -> None:
    """Solve what is not solved yet; stops between chunks where the study was cancelled or deleted."""
    study = Study.objects.filter(pk=study_id).first()
    if study is None or study.state not in Study.OPEN:
        return
    _open(study).update(state="running", started=study.started or timezone.now())
    try:
        _solve(study)
    except KrillError as error:
        _open(study).update(state="failed", failure=str(error)[:500], finished=timezone.now())
    except Exception:
        log.exception("study %s", study_id)
        _open(study).update(
            state="failed", failure="something went wrong in the worker; its log says what", finished=timezone.now()
        )


def _open(study: Study):  # type: ignore[no-untyped-def]  # a query set of this study alone
    return Study.objects.filter(pk=study.pk, state__in=Study.OPEN)


def _solve(study: Study) -> None:
    solver = solver_of(study)
    done = set(study.chunks.values_list("position", flat=True))
    chunks = solver.chunks()
    solved = sum(len(chunks[position].numbers) for position in done)
    for position, chunk in enumerate(chunks):
        if position in done:
            continue
        columns = columns_as_json(solver.solve(chunk))
        solved += len(chunk.numbers)
        if not _open(study).update(solved=solved):
            return
        SolvedChunk.objects.get_or_create(study=study, position=position, defaults={"columns": columns})
    result = outcome(solver, (columns_of_json(columns) for columns in study.chunks.values_list("columns", flat=True)))
    if _open(study).update(state="done", solved=study.size, result=to_json(result), finished=timezone.now()):
        study.chunks.all().delete()
