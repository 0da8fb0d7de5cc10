"""Studies as they go over the wire."""

from collections.abc import Iterator
from typing import Any

from krill.prediction.predict import CERTIFIES
from krill.sizing.candidates import Study as Solver
from krill.sizing.neighbours import label_of
from krill.sizing.result import StudyResult
from studies.models import Study


def study_out(study: Study) -> dict[str, Any]:
    """How far a study is and what it asks, without its result."""
    return {
        "id": study.pk,
        "name": study.name,
        "state": study.state,
        "size": study.size,
        "solved": study.solved,
        "failure": study.failure,
        "author": study.author.username if study.author else "",
        "created": study.created,
        "finished": study.finished,
        "question": study.question,
        "of_draft": study.sha256 == study.build.sha256,
    }


def candidate_rows(result: StudyResult, solver: Solver) -> Iterator[tuple[Any, ...]]:
    """Every candidate as a row: its options, its figures, whether it meets every demand and is undominated."""
    options = [axis.address for axis in solver.question.vary]
    yield ("candidate", *options, *result.columns, "tightest", "meets", "surely", "undominated", "certifies")
    meets, surely, front = set(result.meets), set(result.surely), set(result.undominated)
    for number in range(result.size):
        yield (
            number + 1,
            *(label_of(solver, axis, option) for axis, option in enumerate(solver.options_of(number))),
            *(column[number] for column in result.columns.values()),
            result.tightest[number],
            int(number in meets),
            int(number in surely),
            int(number in front),
            CERTIFIES,
        )
