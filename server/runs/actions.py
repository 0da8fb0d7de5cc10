"""Writes to runs: files and readings once accepted are stored whole."""

import uuid
from typing import Any

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction

from builds.models import Build, Revision
from builds.queries import build_for
from krill.document.reading import read_text
from krill.records import to_json
from krill.runs.analysis import roles_of
from krill.runs.reading import Log, read_log
from runs.models import Channel, Chunk, OriginalBlock, Reading, Run, Stream
from runs.queries import TIME_ROLE, run_for
from runs.series import packed
from wire.faults import ApiFault

BLOCK = 1024 * 1024
MAX_NAME = 120


def _revision(build: Build, number: int | None) -> Revision:
    revision = build.revisions.filter(number=number).first() if number else build.revisions.last()
    if revision is None:
        raise ApiFault(422, "revision", "a run belongs to a revision, and there is none yet", "keep a revision first")
    return revision


def _workload(revision: Revision, workload: str) -> str:
    known = [item.id for item in read_text(revision.text).workloads]
    if workload not in known:
        raise ApiFault(422, "workload", f"there is no workload '{workload}' in that revision", ", ".join(known))
    return workload


def _room(value: float | None, where: str) -> float | None:
    if value is not None and not -30 <= value <= 60:
        raise ApiFault(422, where, f"{value:g} °C", "-30 to 60 °C")
    return value


def _window(rows: tuple[int, int] | None, count: int) -> tuple[int, int] | None:
    """First and last row of a load window that lies in the log; None lets Krill find it."""
    if rows is not None and not 0 <= rows[0] < rows[1] < count:
        raise ApiFault(422, "window", f"rows {rows[0]} to {rows[1]}", f"0 to {count - 1}, the first before the last")
    return rows


def _new_run(user: User, build: Build, data: Any, kind: str) -> Run:
    revision = _revision(build, data.revision)
    workload = _workload(revision, data.workload)
    return Run(
        build=build,
        revision=revision,
        workload=workload,
        name=data.name[:MAX_NAME] or f"{workload} {kind}",
        kind=kind,
        room_start_c=_room(data.room_start_c, "room_start_c"),
        room_end_c=_room(data.room_end_c, "room_end_c"),
        note=data.note,
        author=user,
    )


@transaction.atomic
def add_log(user: User, build_id: uuid.UUID, data: Any, file_name: str, content: bytes) -> Run:
    """Store a log: the file byte for byte, its channels in chunks, suggested roles. LogRefused where it is none."""
    build = build_for(user, build_id, "editor")
    log = read_log(content)
    run = _new_run(user, build, data, "log")
    run.save()
    OriginalBlock.objects.bulk_create(
        OriginalBlock(run=run, sequence=i, data=content[start : start + BLOCK])
        for i, start in enumerate(range(0, len(content), BLOCK))
    )
    stream = Stream.objects.create(
        run=run,
        start_utc=log.clock.start_utc,
        rows=len(log.time_s),
        report=to_json(log.report),
        file_name=file_name[:200],
    )
    _store_channels(stream, log, run)
    return run


def _store_channels(stream: Stream, log: Log, run: Run) -> None:
    suggestions = roles_of(log, read_text(run.revision.text))
    channels = [Channel(stream=stream, index=0, name="time", unit="s", role=TIME_ROLE, sure=True)]
    channels += [
        Channel(stream=stream, index=i + 1, name=s.channel[:200], unit=log.units[i][:40], role=s.role, sure=s.sure)
        for i, s in enumerate(suggestions)
    ]
    Channel.objects.bulk_create(channels)
    for channel in channels:
        values = log.time_s if channel.index == 0 else np.asarray(log.values[:, channel.index - 1])
        Chunk.objects.bulk_create(
            Chunk(channel=channel, sequence=i, data=data, pyramid=pyramid)
            for i, (data, pyramid) in enumerate(packed(values))
        )


@transaction.atomic
def add_readings(user: User, build_id: uuid.UUID, data: Any) -> Run:
    """A run of typed readings."""
    build = build_for(user, build_id, "editor")
    run = _new_run(user, build, data, "readings")
    run.save()
    Reading.objects.bulk_create(
        Reading(run=run, minute=r.minute, role=r.role, kind=r.kind, value=r.value, load_on=r.load_on)
        for r in data.readings
    )
    return run


@transaction.atomic
def change_run(user: User, run_id: uuid.UUID, data: Any) -> Run:
    """Room, note, roles of channels, or the load window of a run; what is not given stays."""
    run = run_for(user, run_id, "editor")
    given = data.dict(exclude_unset=True)
    for field in ("room_start_c", "room_end_c"):
        if field in given:
            setattr(run, field, _room(given[field], field))
    if "note" in given:
        run.note = given["note"] or ""
    run.save()
    if run.kind == "log":
        for index, role in (given.get("roles") or {}).items():
            run.stream.channels.filter(index=index).exclude(role=TIME_ROLE).update(role=role, sure=True)
        if "window" in given:
            run.stream.window = _window(given["window"], run.stream.rows)
            run.stream.save(update_fields=["window"])
    return run


@transaction.atomic
def delete_run(user: User, run_id: uuid.UUID) -> None:
    run_for(user, run_id, "editor").delete()
