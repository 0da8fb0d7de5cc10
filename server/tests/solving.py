"""Studies solved in the tests' own process."""

from typing import Any

from procrastinate.contrib.django.models import ProcrastinateJob

from studies.tasks import solve_part


def jobs_of(study_id: str) -> list[dict[str, Any]]:
    """What each job of a study is told, in the order they were queued."""
    jobs = ProcrastinateJob.objects.filter(task_name=solve_part.name, args__study_id=study_id)
    return list(jobs.order_by("id").values_list("args", flat=True))


def run_study(study_id: str) -> None:
    """All jobs of a study, one after the other."""
    for told in jobs_of(study_id):
        solve_part(**told)
