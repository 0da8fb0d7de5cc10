"""Solving a study: part by part, each a job of its own, so that any number of workers share it and none is missed."""

import logging
import time
from functools import lru_cache
from typing import Any, Final

from django.db import InterfaceError, OperationalError, transaction
from django.db.models import F
from django.utils import timezone
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.types import JSONValue

from krill.errors import KrillError
from krill.interruption import Interrupted, interruptible
from krill.records import to_json
from krill.sizing.candidates import MAX_ROWS, Chunk
from krill.sizing.candidates import Study as Solver
from krill.sizing.outcome import columns_as_json, columns_of_json, outcome
from studies.models import SolvedChunk, Study
from studies.queries import solver_of

QUEUE: Final = "studies"
#: seconds between two looks whether a study was cancelled
LOOK_S: Final = 0.5
log = logging.getLogger(__name__)
#: while the database is away a part is tried again after 1, 2, 4, ... s
AGAIN: Final = RetryStrategy(
    max_attempts=12, exponential_wait=2, retry_exceptions=[OperationalError, InterfaceError, ConnectionError]
)


@app.task(queue=QUEUE, retry=AGAIN)
def solve_part(study_id: str, first: int, end: int) -> None:
    """Solve the chunks of a study from ``first`` to before ``end`` that nobody has solved; the last one sums it up.

    Stops on the way where the study was cancelled or deleted.
    """
    study = Study.objects.filter(pk=study_id, state__in=Study.OPEN).first()
    if study is None:
        return
    try:
        with interruptible(_Watch(study_id).must_go_on):
            _solve(study, range(first, end))
    except Interrupted:
        return
    except (OperationalError, InterfaceError):
        raise
    except KrillError as error:
        fail(study_id, str(error))
    except Exception:
        log.exception("study %s", study_id)
        fail(study_id, "something went wrong in the worker; its log says what")


def fail(study_id: str, why: str) -> None:
    """An open study that cannot be solved."""
    _open(study_id).update(state="failed", failure=why[:500], finished=timezone.now())


def parts_of(chunks: list[Chunk]) -> list[tuple[int, int]]:
    """Positions of chunks, first and behind the last, that make one job: together no more candidates than one batch."""
    parts, first, size = list[tuple[int, int]](), 0, 0
    for position, chunk in enumerate(chunks):
        if size and size + len(chunk.numbers) > MAX_ROWS:
            parts.append((first, position))
            first, size = position, 0
        size += len(chunk.numbers)
    return [*parts, (first, len(chunks))]


def queue(study: Study, parts: list[tuple[int, int]]) -> None:
    """Jobs for parts of a study, in the transaction at hand."""
    told: list[dict[str, JSONValue]] = [{"study_id": str(study.pk), "first": first, "end": end} for first, end in parts]
    solve_part.batch_defer(*told)


@lru_cache(maxsize=4)
def _solver(study_id: str) -> tuple[Solver, list[Chunk]]:
    """A study as the core solves it; what it asks never changes, so it is read once for all its parts."""
    solver = solver_of(Study.objects.get(pk=study_id))
    return solver, solver.chunks()


def _open(study_id: str) -> Any:
    """A query set of this study alone, while it is open."""
    return Study.objects.filter(pk=study_id, state__in=Study.OPEN)


class _Watch:
    """Looks now and then whether a study is still open."""

    def __init__(self, study_id: str) -> None:
        self._study_id, self._looked = study_id, time.monotonic()

    def must_go_on(self) -> None:
        if time.monotonic() - self._looked > LOOK_S:
            self._looked = time.monotonic()
            if not _open(self._study_id).exists():
                raise Interrupted


def _solve(study: Study, positions: range) -> None:
    key = str(study.pk)
    solver, chunks = _solver(key)
    _open(key).update(state="running", started=study.started or timezone.now())
    done = set(study.chunks.filter(position__in=positions).values_list("position", flat=True))
    for position in (one for one in positions if one not in done):
        if not _keep(key, position, columns_as_json(solver.solve(chunks[position])), len(chunks[position].numbers)):
            return
    if study.chunks.count() == len(chunks):
        _sum_up(study, solver)


@transaction.atomic
def _keep(study_id: str, position: int, columns: Any, size: int) -> bool:
    """Store a solved chunk once, whoever else solved it too; False where the study is no longer open."""
    if _open(study_id).select_for_update().first() is None:
        return False
    _, new = SolvedChunk.objects.get_or_create(study_id=study_id, position=position, defaults={"columns": columns})
    if new:
        _open(study_id).update(solved=F("solved") + size)
    return True


def _sum_up(study: Study, solver: Solver) -> None:
    """The result of all chunks, in their order; of several workers that come to the end together one writes it."""
    result = outcome(solver, (columns_of_json(columns) for columns in study.chunks.values_list("columns", flat=True)))
    if _open(str(study.pk)).update(state="done", solved=study.size, result=to_json(result), finished=timezone.now()):
        study.chunks.all().delete()
