"""Workloads beside the one that is asked about."""

from krill.document.build import Build, Workload
from krill.document.figures import detail


def least_workload(build: Build) -> Workload:
    """The workload of least watts; the build has one at least."""

    def watts(item: Workload) -> float:
        return sum(float(detail(f).value) for f in item.watts.values())

    return min(build.workloads, key=watts)


def idle_of(build: Build, load: Workload) -> Workload:
    """The workload of least watts, with the movers as in the load: a bench locks its fans."""
    return least_workload(build).model_copy(update={"movers": load.movers})


def worst_workload(build: Build) -> str:
    """The workload that the brief calls the hardest, else the last; the build has one at least."""
    return next(iter(build.brief.worst_workloads), build.workloads[-1].id)
