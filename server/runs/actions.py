"""Writes to runs: files and readings once accepted are stored whole."""

import hashlib
import itertools
import json
import uuid
from collections.abc import Iterator
from itertools import islice
from typing import Any

import numpy as np
from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction

from builds.actions import save_draft
from builds.history import note
from builds.models import Build, Revision
from builds.queries import build_for
from krill.document.reading import read_text
from krill.errors import DocumentRefused, Problem
from krill.logs.channels import channels_of
from krill.logs.log import Log
from krill.records import to_json
from krill.runs.files import must_belong, rows_of
from krill.runs.recognise import suggest
from krill.runs.roles import roles_in
from krill.runs.run_document import FORMAT, VERSION, LogFile, RunDocument, RunPicture, read_run_object, write_run
from runs.models import Channel, Chunk, KnownLayout, OriginalBlock, PictureBlock, Run, Stream
from runs.queries import TIME_ROLE, bytes_held, file_of, log_of, original_of, run_for, runs_held
from runs.reading import read_log_apart
from runs.series import packed
from wire.faults import ApiFault
from wire.metrics import ROWS
from wire.pictures import drawn_anew, must_be_bare

BLOCK = 1024 * 1024
#: rows of bytes that are sent in one statement
AT_ONCE = 8
#: the reason of a role that somebody told
AS_SAID = "as you said"
MAX_NAME = 120


def revision_for(build: Build, number: int | None, workload: str | None = None) -> Revision:
    """The revision of that number, else the newest. ApiFault where there is none, or none with that load."""
    revision = build.revisions.filter(number=number).first() if number else build.revisions.last()
    if revision is None:
        raise ApiFault(422, "revision", "a run belongs to a revision, and there is none yet", "keep a revision first")
    if workload is not None:
        known = [item.id for item in read_text(revision.text).workloads]
        if workload not in known:
            raise ApiFault(422, "workload", f"revision {revision.number} has no load '{workload}'", ", ".join(known))
    return revision


def _free_name(build: Build, wanted: str) -> str:
    """A name that no run of the build has yet: "Both typed", "Both typed 2"."""
    taken = set(build.runs.values_list("name", flat=True))
    numbered = (f"{wanted[: MAX_NAME - 6]} {number}" for number in itertools.count(2))
    return next(name for name in itertools.chain([wanted], numbered) if name not in taken)


def document_of_form(build: Build, data: Any, kind: str, revision: int) -> RunDocument:
    """The run that a form tells: one load, its room, what was read."""
    room = {"start_c": data.room_start_c, "end_c": data.room_end_c, "about_c": data.about_c}
    raw = {
        "format": FORMAT,
        "version": VERSION,
        "name": _free_name(build, data.name[:MAX_NAME] or f"{data.workload} {kind}"),
        "kind": kind,
        "revision": revision,
        "note": data.note,
        "source": data.source,
        "windows": [window.model_dump() for window in getattr(data, "windows", [])] or [{"workload": data.workload}],
        "room": {**room, "evening_of": str(data.evening_of) if data.evening_of else None},
        "readings": [reading.model_dump() for reading in getattr(data, "readings", [])],
    }
    settings = getattr(data, "settings", None)
    return read_run_object(raw if settings is None else raw | {"settings": settings.model_dump()})


def _new_run(user: User, build: Build, document: RunDocument, revision: Revision) -> Run:
    must_belong(document, read_text(revision.text))
    build_for(user, build.pk, "editor", lock=True)  # it may have been deleted while a log was read
    must_hold_another_run(build.owner)
    must_hold(build.owner)
    run = Run(build=build, revision=revision, kind=document.kind, author=user)
    _write(run, document)
    note(build, user, f"added the run {run.name}")
    return run


def must_hold_another_run(owner: User) -> None:
    """ApiFault where an owner's builds hold as many runs as they may."""
    held = runs_held(owner)
    if held >= settings.MOST_RUNS:
        what = f"the builds of {owner.username} hold {held} runs"
        raise ApiFault(422, "runs", what, "as many as they may: delete some")


def must_hold(owner: User, more_bytes: int = 0) -> None:
    """ApiFault where an owner's builds would hold more bytes of logs and pictures than they may."""
    held = bytes_held(owner)
    if held + more_bytes > settings.MOST_MB * 2**20:
        what = f"the runs of {owner.username} hold {held / 2**20:.0f} MB"
        raise ApiFault(422, "runs", what, f"up to {settings.MOST_MB} MB with what is new: delete some runs")


def _write(run: Run, document: RunDocument) -> None:
    """The file is the truth; what lists and searches ask for stands beside it."""
    run.text = write_run(document)
    run.name, run.note, run.workload = document.name, document.note, document.windows[0].workload
    run.save()


@transaction.atomic
def add_log(user: User, build_id: uuid.UUID, data: Any, file_name: str, content: bytes) -> Run:
    """Store a log: the file byte for byte, its channels in chunks, suggested roles. LogRefused where it is none."""
    build = build_for(user, build_id, "editor")
    must_hold_another_run(build.owner)
    must_hold(build.owner, len(content))
    revision = revision_for(build, data.revision)
    log = read_log_apart(content, data.interval_s)
    known = KnownLayout.objects.filter(user=user, layout=layout_of(log)).first()
    units = {} if known is None else known.units
    if units:
        log = read_log_apart(content, data.interval_s, units)
    file = LogFile(
        sha256=hashlib.sha256(content).hexdigest(), name=file_name[:200], interval_s=data.interval_s, units=units
    )
    told = {"log": file, "roles": {} if known is None else known.roles}
    document = document_of_form(build, data, "log", revision.number).model_copy(update=told)
    return _with_log(user, build, document, revision, content, log)


def layout_of(log: Log) -> str:
    """A hash of the names of a log's channels: logs of one logger have the same."""
    return hashlib.sha256(json.dumps(log.names).encode()).hexdigest()


def _with_log(user: User, build: Build, document: RunDocument, revision: Revision, content: bytes, log: Log) -> Run:
    file_name = "" if document.log is None else document.log.name
    # roles stand with the channels, where they can be changed one by one
    run = _new_run(user, build, document.model_copy(update={"roles": {}}), revision)
    _store(OriginalBlock(run=run, sequence=i, data=data) for i, data in _blocks(content))
    ROWS.inc(len(log.time_s))
    stream = Stream.objects.create(
        run=run,
        start_utc=log.clock.start_utc,
        rows=len(log.time_s),
        report=to_json(log.report),
        layout=layout_of(log),
        file_name=file_name,
    )
    _store_channels(stream, log, run, document.roles)
    return run


def _blocks(content: bytes) -> Iterator[tuple[int, bytes]]:
    """A file in numbered blocks."""
    return enumerate(content[start : start + BLOCK] for start in range(0, len(content), BLOCK))


def _store(rows: Iterator[OriginalBlock] | Iterator[PictureBlock] | Iterator[Chunk]) -> None:
    """Rows with bytes, a few at a time: what is sent to the database is held several times over."""
    while batch := list(islice(rows, AT_ONCE)):
        type(batch[0])._default_manager.bulk_create(batch)


def _store_channels(stream: Stream, log: Log, run: Run, told: dict[str, str]) -> None:
    """Channels with the roles that were told, where this build has them, else with those that their names suggest."""
    build = read_text(run.revision.text)
    known, channels_read = roles_in(build), channels_of(log)
    told = {name: role for name, role in told.items() if role in known}
    channels = [Channel(stream=stream, index=0, name="time", unit="s", role=TIME_ROLE, sure=True)]
    for i, (suggestion, read) in enumerate(zip(suggest(channels_read, build), channels_read, strict=True)):
        role = told.get(read.name)
        channels.append(
            Channel(
                stream=stream,
                index=i + 1,
                name=read.name[:200],
                unit=read.unit[:40],
                role=role or suggestion.role,
                sure=suggestion.sure or role is not None,
                reason=(AS_SAID if role else suggestion.reason)[:300],
                asked=bool(read.ask) and role is None,
            )
        )
    Channel.objects.bulk_create(channels)
    for channel in channels:
        values = log.time_s if channel.index == 0 else np.asarray(log.values[:, channel.index - 1])
        _store(
            Chunk(channel=channel, sequence=i, data=data, pyramid=pyramid)
            for i, (data, pyramid) in enumerate(packed(values))
        )


@transaction.atomic
def add_readings(user: User, build_id: uuid.UUID, data: Any) -> Run:
    """A run of typed readings, or somebody else's claim."""
    build = build_for(user, build_id, "editor")
    revision = revision_for(build, data.revision)
    return _new_run(user, build, document_of_form(build, data, data.kind, revision.number), revision)


@transaction.atomic
def add_run_file(
    user: User,
    build_id: uuid.UUID,
    document: RunDocument,
    log: tuple[str, bytes] | None,
    pictures: dict[str, bytes] | None = None,
) -> Run:
    """A run from its file, with its log where it has one, and those pictures that came along, by their hash.

    It is of the revision that it names, else of the newest.
    """
    run = _of_file(user, build_id, document, log)
    for picture in document.pictures:
        content = (pictures or {}).get(picture.sha256)
        if content is not None:
            must_be_bare(content, picture.sha256)
            _keep_picture(run, picture.sha256, content)
    return run


def _of_file(user: User, build_id: uuid.UUID, document: RunDocument, log: tuple[str, bytes] | None) -> Run:
    build = build_for(user, build_id, "editor")
    known = build.revisions.filter(number=document.revision).exists() if document.revision else False
    revision = revision_for(build, document.revision if known else None)
    document = document.model_copy(update={"revision": revision.number})
    if document.log is None:
        return _new_run(user, build, document, revision)
    if log is None:
        raise ApiFault(422, "log", f"the run's log '{document.log.name}' is missing", "the log beside the run's file")
    _, content = log
    must_hold(build.owner, len(content))
    found = hashlib.sha256(content).hexdigest()
    if found != document.log.sha256:
        raise ApiFault(422, "log", f"another file: its SHA-256 is {found}", document.log.sha256)
    return _with_log(
        user, build, document, revision, content, read_log_apart(content, document.log.interval_s, document.log.units)
    )


@transaction.atomic
def change_run(user: User, run_id: uuid.UUID, data: Any) -> Run:
    """Name, note, room, settings, loads, readings, or roles and units of channels; what is not given stays."""
    run = run_for(user, run_id, "editor")
    given = data.model_dump(exclude_unset=True)
    roles, units = given.pop("roles", None) or {}, given.pop("units", None) or {}
    before = file_of(run)
    document = read_run_object(before.model_dump() | given)
    if {p.sha256 for p in document.pictures} != {p.sha256 for p in before.pictures}:
        raise ApiFault(
            422, "pictures", "are added and removed one by one", "the pictures that are there, with their captions"
        )
    must_belong(document, read_text(run.revision.text))
    if run.kind == "log":
        _must_lie_in_log(run, document)
        _tell_roles(run, roles)
        document = _tell_units(run, document, units)
        if roles or units:
            _remember(user, run, document)
    _write(run, document)
    note(run.build, user, f"changed the run {run.name}")
    return run


def _tell_roles(run: Run, roles: dict[int, str]) -> None:
    known = roles_in(read_text(run.revision.text))
    for index, role in roles.items():
        if role not in known:
            raise ApiFault(
                422, f"roles/{index}", f"'{role[:60]}' is nothing of this build", ", ".join(list(known)[:40])
            )
        told = {"role": role, "sure": True, "asked": False, "reason": AS_SAID}
        run.stream.channels.filter(index=index).exclude(role=TIME_ROLE).update(**told)


def _tell_units(run: Run, document: RunDocument, units: dict[int, str]) -> RunDocument:
    """The log read again with units that somebody told; roles that were told stay."""
    if not units or document.log is None:
        return document
    names = dict(run.stream.channels.exclude(role=TIME_ROLE).values_list("index", "name"))
    told = document.log.units | {names[index]: unit for index, unit in units.items() if index in names}
    raw = document.model_dump()
    interval_s = document.log.interval_s
    document = read_run_object(raw | {"log": raw["log"] | {"units": told}})
    log, roles = read_log_apart(original_of(run), interval_s, told), _said_of(run)
    run.stream.channels.all().delete()
    _store_channels(run.stream, log, run, roles)
    return document


def _remember(user: User, run: Run, document: RunDocument) -> None:
    """What was said of this logger's channels, for its next log."""
    if not run.stream.layout:
        return
    told = {"roles": _said_of(run), "units": {} if document.log is None else document.log.units}
    KnownLayout.objects.update_or_create(user=user, layout=run.stream.layout, defaults=told)


def _said_of(run: Run) -> dict[str, str]:
    """Roles that somebody told, by the channel's name."""
    return dict(run.stream.channels.filter(reason=AS_SAID).values_list("name", "role"))


@transaction.atomic
def add_picture(user: User, run_id: uuid.UUID, content: bytes, caption: str) -> Run:
    """A picture is drawn anew and kept; the same one again changes its caption alone."""
    run = run_for(user, run_id, "editor")
    picture = drawn_anew(content)
    must_hold(run.build.owner, len(picture.content))
    told = RunPicture(
        sha256=picture.sha256,
        caption=caption,
        media_type=picture.media_type,
        width=picture.width,
        height=picture.height,
    )
    document = file_of(run)
    others = [other for other in document.pictures if other.sha256 != told.sha256]
    document = read_run_object(document.model_dump() | {"pictures": [p.model_dump() for p in [*others, told]]})
    _keep_picture(run, told.sha256, picture.content)
    _write(run, document)
    return run


def _keep_picture(run: Run, sha256: str, content: bytes) -> None:
    if not run.picture_blocks.filter(sha256=sha256).exists():
        _store(PictureBlock(run=run, sha256=sha256, sequence=i, data=data) for i, data in _blocks(content))


@transaction.atomic
def remove_picture(user: User, run_id: uuid.UUID, sha256: str) -> Run:
    run = run_for(user, run_id, "editor")
    document = file_of(run)
    if all(picture.sha256 != sha256 for picture in document.pictures):
        raise ApiFault(404, "picture", "there is no such picture of this run")
    left = [picture for picture in document.pictures if picture.sha256 != sha256]
    run.picture_blocks.filter(sha256=sha256).delete()
    _write(run, document.model_copy(update={"pictures": left}))
    return run


def _must_lie_in_log(run: Run, document: RunDocument) -> None:
    if any(window.start_s is not None for window in document.windows):
        log, _ = log_of(run.stream)
        for window in document.windows:
            rows_of(window, log)
            if window.end_s is not None and window.end_s > log.time_s[-1] + 1.0:
                span = f"0 to {log.time_s[-1]:g} s"
                raise DocumentRefused([Problem(f"windows/{window.id}", f"up to {window.end_s:g} s", span)])


@transaction.atomic
def delete_run(user: User, run_id: uuid.UUID) -> None:
    run = run_for(user, run_id, "editor")
    _revoke(user, run)
    note(run.build, user, f"deleted the run {run.name}")
    run.delete()


def _revoke(user: User, run: Run) -> None:
    """What a run has taught the draft is taken back with it, as an edit that can be undone."""
    draft = read_text(run.build.text)
    known = draft.calibration
    if known is not None and any(learnt.run == str(run.pk) for learnt in known.runs):
        without = draft.model_copy(update={"calibration": None})
        save_draft(user, run.build_id, run.build.sequence, without, f"what {run.name} taught taken back"[:200])
