"""Run files on a disk: the run, and its log beside it, by name and hash."""

import hashlib
from pathlib import Path

import numpy as np

from krill.document.build import Build
from krill.document.reading import text_of_file
from krill.errors import DocumentRefused, LogRefused, Problem
from krill.logs.log import Log, read_log
from krill.runs.analysis import LoggedLoad, OfBuild, logged_load, roles_of
from krill.runs.ran import Ran, ran_of
from krill.runs.run_document import LoadWindow, RunDocument, read_run


def load_run(path: Path) -> RunDocument:
    """A checked run file."""
    return read_run(text_of_file(path, "a run"))


def ran_from_file(path: Path, build: Build, window: str | None = None, log: Path | None = None) -> Ran:
    """A load of a run file of ``build``; its log is looked for beside it unless named."""
    run = load_run(path)
    load = run.window(window)
    must_belong(run, build)
    if run.log is None:
        return ran_of(run, build, None, load)
    content = (log or path.parent / run.log.name).read_bytes()
    found = hashlib.sha256(content).hexdigest()
    if found != run.log.sha256:
        raise LogRefused(f"the log is another file than the run's: its SHA-256 is {found}, the run's {run.log.sha256}")
    return ran_of(run, build, load_of_log(run, read_log(content, run.log.interval_s, run.log.units), build, load), load)


def load_of_log(run: RunDocument, log: Log, build: Build, load: LoadWindow) -> LoggedLoad:
    """What a log says of one load, its channels by the roles that the run tells, others as their names suggest."""
    suggested = [suggestion.role for suggestion in roles_of(log, build)]
    roles = [run.roles.get(name, role) for name, role in zip(log.names, suggested, strict=True)]
    return logged_load(log, roles, rows_of(load, log), OfBuild(build, load.workload))


def rows_of(load: LoadWindow, log: Log) -> tuple[int, int] | None:
    """First and last row of a load whose times are told; DocumentRefused where the log holds no two rows of it."""
    if load.start_s is None or load.end_s is None:
        return None
    first = int(np.searchsorted(log.time_s, float(load.start_s)))
    last = int(np.searchsorted(log.time_s, float(load.end_s), side="right")) - 1
    if last <= first:
        span = f"{log.time_s[0]:g} to {log.time_s[-1]:g} s"
        raise DocumentRefused([Problem(f"windows/{load.id}", f"{load.start_s:g} to {load.end_s:g} s", span)])
    return first, last


def must_belong(run: RunDocument, build: Build) -> None:
    """DocumentRefused where a run names a workload that its build does not have."""
    known = [workload.id for workload in build.workloads]
    problems = [
        Problem(f"windows/{w.id}", f"there is no workload '{w.workload}'", ", ".join(known))
        for w in run.windows
        if w.workload not in known
    ]
    if problems:
        raise DocumentRefused(problems)
