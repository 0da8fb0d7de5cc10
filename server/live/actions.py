"""Writes to live runs: a batch that is acknowledged is stored; ending one makes a run of it, whole."""

import csv
import gzip
import hashlib
import io
import secrets
import uuid
from datetime import UTC, datetime
from math import isnan
from typing import Any, Final

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from builds.history import note
from builds.queries import build_for
from krill.logs.live import Batch
from krill.records import inert
from krill.runs.run_document import LoadWindow
from krill.watching.arrivals import Came, offset_of, repaired
from krill.watching.watch import CAUSES
from live.models import LiveBatch, LiveRun, LiveSession
from live.queries import bytes_of, channels_of, live_for, table_of, watched_of
from runs.actions import add_log, change_run, must_hold, must_hold_another_run, revision_for
from runs.models import Run
from runs.schemas import RunChange, RunIn
from wire.faults import ApiFault

#: live runs of one build that have not been ended
MOST_OPEN: Final = 24
#: seconds between thin rows
THIN_S: Final = 2.0
#: how often it is asked whether the owner's builds hold too much, in batches
LOOKED_EVERY: Final = 120
#: of the rows of one live run: two hours of 50 channels at 10 Hz are 28
MOST_MB: Final = 120
#: a shorter load is none
LEAST_LOAD_S: Final = 120.0
#: rows that are written to the log at once
AT_ONCE: Final = 2000


@transaction.atomic
def begin(user: User, build_id: uuid.UUID, data: Any, practice: dict[str, Any] | None = None) -> tuple[LiveRun, str]:
    """A live run and its token, which is told this once."""
    build = build_for(user, build_id, "editor", lock=True)
    must_hold_another_run(build.owner)
    must_hold(build.owner)
    if build.live_runs.filter(ended=None).count() >= MOST_OPEN:
        raise ApiFault(422, "live", f"{MOST_OPEN} live runs of this build are open", "end or discard one first")
    revision = revision_for(build, data.revision, data.workload)
    token = secrets.token_urlsafe(24)
    live = LiveRun.objects.create(
        build=build,
        revision=revision,
        workload=data.workload,
        name=data.name or f"{data.workload} live",
        room_c=data.room_c,
        minutes=data.minutes,
        token_sha256=_hashed(token),
        author=user,
        practice=practice,
    )
    return live, token


def _hashed(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@transaction.atomic
def new_token(user: User, live_id: uuid.UUID) -> tuple[LiveRun, str]:
    """Another token: the one before lets nobody in any more."""
    live = live_for(user, live_id, "editor")
    token = secrets.token_urlsafe(24)
    live.token_sha256 = _hashed(token)
    live.save(update_fields=["token_sha256"])
    return live, token


def must_be_let_in(live_id: uuid.UUID, token: str) -> None:
    """ApiFault 401 where the token is not the run's; whether there is such a run is not told."""
    known = LiveRun.objects.filter(pk=live_id, build__deleted=None).values_list("token_sha256", flat=True).first()
    _must_match(known, token)


def _must_match(known: str | None, token: str) -> None:
    if not secrets.compare_digest(known or "", _hashed(token)):
        raise ApiFault(401, "token", "lets nobody in here", "the token that Bench showed when the live run began")


@transaction.atomic
def take_batch(live_id: uuid.UUID, token: str, batch: Batch) -> bool:
    """Store a batch; False where it was stored before. ApiFault 410 once the run has ended."""
    # one logger at a time, and none while the run is being ended; nobody else waits for the build or its owner
    open_runs = LiveRun.objects.select_for_update(of=("self",)).select_related("build__owner")
    live = open_runs.filter(pk=live_id, build__deleted=None).first()
    _must_match(None if live is None else live.token_sha256, token)
    assert live is not None
    if live.ended is not None:
        raise ApiFault(410, "live", "this live run has ended", "begin another one on Bench")
    if batch.sequence % LOOKED_EVERY == 0:
        must_hold(live.build.owner, bytes_of(build__owner=live.build.owner))
        if bytes_of(pk=live.pk) > MOST_MB * 2**20:
            raise ApiFault(413, "live", f"this live run holds {MOST_MB} MB", "end it and begin another one")
    arrived = timezone.now()
    session = live.sessions.filter(key=batch.session).first() or _new_session(live, batch, arrived)
    if len(session.channels) != len(batch.channels):
        raise ApiFault(
            422,
            "channels",
            f"{len(batch.channels)} in this batch",
            f"{len(session.channels)} as the session began with",
        )
    if session.batches.filter(sequence=batch.sequence).exists():
        return False
    table = np.column_stack([batch.steady_s, batch.values]).astype("<f8")
    seconds = np.floor(batch.steady_s / THIN_S)
    thin = table[np.flatnonzero(np.diff(seconds, prepend=_last_second(session)) != 0)]
    LiveBatch.objects.create(
        session=session,
        sequence=batch.sequence,
        arrived=arrived,
        clock_s=batch.clock_s,
        steady_s=batch.steady_at_s,
        rows=len(table),
        times=batch.steady_s.astype("<f8").tobytes(),
        data=table.tobytes(),
        thin=thin.tobytes(),
    )
    return True


def _last_second(session: LiveSession) -> float:
    """The thin second that the rows before ended in."""
    last = session.batches.order_by("-sequence").values_list("times", flat=True).first()
    return -1.0 if last is None else float(np.floor(np.frombuffer(bytes(last), dtype="<f8")[-1] / THIN_S))


def _new_session(live: LiveRun, batch: Batch, arrived: datetime) -> LiveSession:
    before = live.sessions.order_by("-pk").first()
    last = None if before is None else before.batches.order_by("-sequence").first()
    came = Came(batch.session, batch.sequence, batch.steady_s, batch.clock_s, batch.steady_at_s, arrived.timestamp())
    was = None
    if before is not None and last is not None:
        was = Came(before.key, last.sequence, np.empty(0), last.clock_s, last.steady_s, last.arrived.timestamp())
    speed = float((live.practice or {}).get("speed", 1.0))
    return LiveSession.objects.create(
        live=live,
        key=batch.session,
        channels=[{"name": channel.name, "unit": channel.unit} for channel in batch.channels],
        interval_s=batch.interval_s,
        offset_s=offset_of(was, 0.0 if before is None else before.offset_s, came, speed),
    )


@transaction.atomic
def end(user: User, live_id: uuid.UUID) -> Run | None:
    """The run with its log, from every row that was stored; None where none was."""
    live = live_for(user, live_id, "editor")
    live = LiveRun.objects.select_for_update().select_related("build", "revision").get(pk=live.pk)
    if live.ended is not None:
        return live.run
    content = log_of_live(live)
    if content is not None:
        told = RunIn(workload=live.workload, revision=live.revision.number, name=live.name)
        if live.room_c is not None and live.practice is None:
            told.room_start_c = live.room_c
        cut = load_that_counts(live)
        live.run = add_log(user, live.build_id, told, "live.csv.gz", content)
        if cut is not None:
            live.run = change_run(user, live.run.pk, cut)
        live.sessions.all().delete()  # the log holds every row of them
    live.ended = timezone.now()
    live.save(update_fields=["ended", "run"])
    if live.run is None:
        note(live.build, user, f"ended the live run {live.name} without a row")
    return live.run


def load_that_counts(live: LiveRun) -> RunChange | None:
    """The load up to what failed in it, with what that was; None where nothing cut it short.

    What a machine does without its pump says nothing of the build as it was predicted.
    """
    watched = watched_of(live, settles=False)
    if watched is None or watched.load_on_min is None:
        return None
    cuts = [one for one in watched.findings if one.kind in CAUSES and not one.follows]
    if not cuts:
        return None
    first = min(cuts, key=lambda one: one.since_min)
    begins = 60.0 * watched.load_on_min
    ends = begins + 60.0 * first.since_min
    says = f"From minute {first.since_min:.0f} of the load: {first.says}"
    if ends - begins < LEAST_LOAD_S:
        return RunChange(note=f"{says} Too little of the load came before it to be counted by itself.")
    window = LoadWindow(workload=live.workload, start_s=round(begins, 1), end_s=round(ends, 1))
    return RunChange(windows=[window], note=f"{says} The load counts until then.")


def log_of_live(live: LiveRun) -> bytes | None:
    """Every row that came, as packed CSV on one clock, each time once; None where there is none."""
    sessions = list(live.sessions.all())
    channels = channels_of(live, sessions)
    tables = [
        table_of(channels, session, bytes(data))
        for session in sessions
        for data in session.batches.values_list("data", flat=True)
    ]
    if not tables:
        return None
    table = np.concatenate(tables)
    table = table[repaired(table[:, 0])]
    began = live.created.astimezone(UTC).timestamp()
    out = io.BytesIO()
    with (
        gzip.GzipFile(fileobj=out, mode="wb", mtime=0) as packed,
        io.TextIOWrapper(packed, "utf-8", newline="") as text,
    ):
        writer = csv.writer(text, lineterminator="\n")
        titled = zip(channels.names, channels.units, strict=True)
        writer.writerow(["Time [s]", *(inert(f"{name} [{unit}]" if unit else name) for name, unit in titled)])
        for first in range(0, len(table), AT_ONCE):
            for row in table[first : first + AT_ONCE].tolist():
                writer.writerow([f"{began + row[0]:.3f}", *("" if isnan(value) else f"{value:g}" for value in row[1:])])
    return out.getvalue()


@transaction.atomic
def discard(user: User, live_id: uuid.UUID) -> None:
    """A live run and all of its rows are gone; a run that was made of it stays."""
    live = live_for(user, live_id, "editor")
    note(live.build, user, f"discarded the live run {live.name}")
    live.delete()


@transaction.atomic
def guess(user: User, live_id: uuid.UUID, kind: str, minute: float | None) -> LiveRun:
    """Somebody's guess at what is hidden: the first one counts."""
    live = live_for(user, live_id, "editor")
    live = LiveRun.objects.select_for_update().get(pk=live.pk)
    if not live.practice or not live.practice.get("hidden"):
        raise ApiFault(422, "live", "hides nothing", "a practice run that was begun with a fault to be found")
    if "guess" not in live.practice:
        live.practice = {**live.practice, "guess": kind, "guessed_at_min": minute}
        live.save(update_fields=["practice"])
    return live
