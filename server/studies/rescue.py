"""Studies that nobody is at: a worker died, or the database went away under it. They are queued again."""

import logging
from typing import Final

from procrastinate.contrib.django.models import ProcrastinateJob

from studies.models import Study
from studies.queries import solver_of
from studies.tasks import fail, parts_of, queue

#: a part that ended its worker so often is not tried again
MOST_ATTEMPTS: Final = 5
log = logging.getLogger(__name__)


def must_not_be_deadly(study_id: str, attempts: int) -> None:
    """A study with a part that ended one worker after another is failed: its jobs then find nothing to do."""
    if attempts >= MOST_ATTEMPTS:
        log.error("study %s ended its worker %d times", study_id, attempts)
        fail(study_id, f"a part of it ended its worker {attempts} times")


def queue_what_nobody_is_at() -> int:
    """Queue the open parts of open studies that have no job; how many studies that were."""
    waiting = ProcrastinateJob.objects.filter(status__in=["todo", "doing"], task_name__startswith="studies.")
    cared_for = set(waiting.values_list("args__study_id", flat=True))
    left = [study for study in Study.objects.filter(state__in=Study.OPEN) if str(study.pk) not in cared_for]
    for study in left:
        solved = set(study.chunks.values_list("position", flat=True))
        parts = parts_of(solver_of(study).chunks())
        missing = [(first, end) for first, end in parts if not solved.issuperset(range(first, end))]
        log.warning("study %s had no job: %d parts are queued again", study.pk, len(missing) or 1)
        queue(study, missing or parts[-1:])
    return len(left)
