"""Reads of runs: series, analyses, verdicts."""

import uuid
from collections.abc import Iterator
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
from django.contrib.auth.models import User
from numpy.typing import NDArray

from builds.queries import Need, build_for
from krill.document.build import Build as Document
from krill.document.reading import read_text
from krill.prediction.predict import predict
from krill.runs.analysis import LogAnalysis, OfBuild, analyse
from krill.runs.as_run import measured_build
from krill.runs.clock import Clock
from krill.runs.compare import Comparison, RunSide, compare
from krill.runs.measured import MeasuredRun, measured_from_log, room_as_read, room_of_run
from krill.runs.reading import Log, ReadReport
from krill.runs.typed import TypedReading, allowed_of, measured_from_readings, peaky_roles
from krill.runs.verdict import AS_PREDICTED, CANNOT_TELL, Measured, Verdict, verdict
from runs.models import Channel, Run, Stream
from runs.series import FINE_FACTOR, STEP, thinned, unpacked
from wire.faults import ApiFault

Array = NDArray[np.float64]

TIME_ROLE = "time"


def run_for(user: User, run_id: uuid.UUID, need: Need = "reader") -> Run:
    """The run if the user may do what is needed with its build."""
    run = Run.objects.select_related("build", "revision").filter(pk=run_id).first()
    if run is None:
        raise ApiFault(404, f"runs/{run_id}", "there is no such run")
    build_for(user, run.build_id, need)
    return run


def document_of(run: Run) -> Document:
    return read_text(run.revision.text)


def values_of(channel: Channel) -> Array:
    return unpacked([bytes(data) for data in channel.chunks.values_list("data", flat=True)])


def log_of(stream: Stream) -> tuple[Log, list[str]]:
    """The stored log and the role of each of its channels."""
    channels = list(stream.channels.all())
    clock = next(channel for channel in channels if channel.role == TIME_ROLE)
    rest = [channel for channel in channels if channel.role != TIME_ROLE]
    values = np.stack([values_of(channel) for channel in rest], axis=1)
    log = Log(
        [c.name for c in rest], [c.unit for c in rest], Clock(values_of(clock), stream.start_utc), values, ReadReport()
    )
    return log, [channel.role for channel in rest]


def table_of(run: Run) -> Iterator[list[Any]]:
    """A run as read, the header first: seconds and channels, or the typed readings."""
    if run.kind == "log":
        log, roles = log_of(run.stream)
        yield ["time_s", *[f"{n} ({r})" for n, r in zip(log.names, roles, strict=True)]]
        for t, row in zip(log.time_s, log.values, strict=True):
            yield [f"{t:g}", *["" if np.isnan(v) else f"{v:g}" for v in row]]
    else:
        yield ["minute", "role", "kind", "value", "unit", "load_on"]
        for reading in run.readings.all():
            unit, *_ = allowed_of(reading.role)
            yield [reading.minute, reading.role, reading.kind, reading.value, unit, reading.load_on]


def analysis_of(run: Run) -> LogAnalysis | None:
    """Window and settled values of a log; None of a typed run."""
    if run.kind != "log":
        return None
    roles = tuple(run.stream.channels.values_list("role", flat=True))
    rows = (int(run.stream.window[0]), int(run.stream.window[1])) if run.stream.window else None
    return _analysed(run.pk, run.revision_id, run.workload, run.stream.rows, roles, rows)


@lru_cache(maxsize=64)
def _analysed(
    run_id: uuid.UUID,
    revision: int,
    workload: str,
    length: int,
    roles: tuple[str, ...],
    rows: tuple[int, int] | None,
) -> LogAnalysis:
    """The analysis by all that it follows from; reading a log with its build's time constants takes seconds."""
    run = Run.objects.select_related("revision", "stream").get(pk=run_id)
    log, _ = log_of(run.stream)
    own = [role for role in roles if role != TIME_ROLE]
    return analyse(log, own, rows, OfBuild(document_of(run), workload))


def series_of(run: Run, points: int) -> dict[str, Any]:
    """Every channel thinned for drawing, on shared minutes of its own; long ones from the pyramid."""
    channels = list(run.stream.channels.all())
    coarse = run.stream.rows > FINE_FACTOR * points
    clock = next(c for c in channels if c.role == TIME_ROLE)
    time_s = _bucketed(clock, 1) if coarse else values_of(clock)
    found = []
    for channel in channels:
        if channel.role in (TIME_ROLE, "ignore"):
            continue
        if coarse:
            both = np.stack([_bucketed(channel, 0), _bucketed(channel, 2)], axis=1).ravel()
            t, y = thinned(np.repeat(time_s, 2), both, points)
        else:
            t, y = thinned(time_s, values_of(channel), points)
        found.append(
            {
                "name": channel.name,
                "unit": channel.unit,
                "role": channel.role,
                "minutes": [round(float(x) / 60, 4) for x in t],
                "values": [None if np.isnan(v) else round(float(v), 3) for v in y],
            }
        )
    return {"channels": found}


def _bucketed(channel: Channel, column: int) -> Array:
    """One column (min, mean, max) of the pyramid over all chunks."""
    rows = unpacked([bytes(p) for p in channel.chunks.values_list("pyramid", flat=True)]).reshape(-1, 3)
    assert rows.shape[0] * STEP >= channel.stream.rows
    return rows[:, column]


class _Judged(NamedTuple):
    """A run held against the build as it ran: the build with the run's speeds, figures known from the run."""

    build: Document
    measured: list[Measured]
    known: dict[str, float]
    excluded: list[str]
    verdict: Verdict


def verdict_of(run: Run) -> dict[str, Any]:
    """Predicted against measured; a room that nobody wrote down is taken from the readings."""
    judged = _judged(run)
    room = judged.verdict.room
    drawn = predict(judged.build, [run.workload], room.air_c, samples=0, overrides=judged.known)
    return {
        "room_c": room.air_c,
        "room_half_k": room.half_k,
        "excluded": judged.excluded,
        "places": judged.verdict.places,
        "suspects": judged.verdict.suspects,
        "sentence": judged.verdict.sentence,
        "predicted": drawn.workloads[0],
    }


def compare_runs(first: Run, second: Run) -> Comparison:
    """The second run against the first: per part over the room, at equal watts and speeds, and what else differs."""
    return compare(_side(first), _side(second))


def _side(run: Run) -> RunSide:
    judged = _judged(run)
    return RunSide(run.name, judged.build, run.workload, judged.verdict.room, judged.measured, judged.known)


def last_run_json(run: Run) -> dict[str, Any]:
    """A run in one line: its name and the sentence of its verdict."""
    found = _judged(run).verdict
    conclusions = {place.conclusion for place in found.places} - {CANNOT_TELL}
    return {
        "id": run.pk,
        "name": run.name,
        "kind": run.kind,
        "created": run.created,
        "sentence": found.sentence,
        "agrees": conclusions == {AS_PREDICTED} if conclusions else None,
    }


def _judged(run: Run) -> _Judged:
    analysis = analysis_of(run)
    measured = _measured(run, analysis)
    document = document_of(run)
    build = measured_build(document, run.workload, measured.speeds_rpm)
    known = measured.watts | {address: float(value) for address, value in run.overrides.items()}
    read = room_as_read(analysis, measured.room_c)
    room = room_of_run(run.room_start_c, run.room_end_c, read, document)
    found = verdict(build, run.workload, room, measured.values, known, idle=measured.idle)
    return _Judged(build, measured.values, known, measured.excluded, found)


def _measured(run: Run, analysis: LogAnalysis | None) -> MeasuredRun:
    if analysis is not None:
        return measured_from_log(analysis, run.workload)
    readings = run.readings.all()
    typed = [TypedReading(r.minute, r.role, r.kind, r.value, r.load_on) for r in readings]
    return measured_from_readings(typed, run.workload, peaky_roles(document_of(run), run.workload))


def run_json(run: Run) -> dict[str, Any]:
    """A run for the screen: what it is, what its log says."""
    analysis = analysis_of(run)
    stream = getattr(run, "stream", None)
    channels = (
        []
        if stream is None
        else [
            {"index": c.index, "name": c.name, "unit": c.unit, "role": c.role, "sure": c.sure}
            for c in stream.channels.all()
            if c.role != TIME_ROLE
        ]
    )
    return {
        "id": run.pk,
        "name": run.name,
        "kind": run.kind,
        "workload": run.workload,
        "revision": run.revision.number,
        "room_start_c": run.room_start_c,
        "room_end_c": run.room_end_c,
        "note": run.note,
        "created": run.created,
        "file_name": stream.file_name if stream else "",
        "lines": stream.report if stream else None,
        "channels": channels,
        "analysis": analysis,
        "readings": [
            {"minute": r.minute, "role": r.role, "kind": r.kind, "value": r.value, "load_on": r.load_on}
            for r in run.readings.all()
        ],
    }
