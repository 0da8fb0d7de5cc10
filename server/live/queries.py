"""Reads of live runs: their rows so far, and what the core says of them."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Final

import numpy as np
from django.contrib.auth.models import User
from django.db.models import Max, OuterRef, QuerySet, Subquery, Sum
from numpy.typing import NDArray

from builds.models import Build
from builds.queries import Need, build_for
from krill.document.reading import read_text
from krill.in_time.result import InTime
from krill.runs.recognise import suggest_roles
from krill.runs.roles import IGNORE, roles_in
from krill.watching.arrivals import Arrival, Came, arrivals_of, repaired
from krill.watching.expected import Expected, expected_of
from krill.watching.result import Watched
from krill.watching.samples import Samples
from krill.watching.watch import watch
from live.models import LiveBatch, LiveRun, LiveSession
from wire.faults import ApiFault
from wire.stored import data_bytes
from wire.turns import worked_out

Array = NDArray[np.float64]

#: batches that are sent once more, where another one was committed late
AGAIN: Final = 3
#: rows that are drawn of a run that is looked at for the first time
MOST_DRAWN: Final = 1500
#: draws behind the band that a run is held against
SAMPLES: Final = 60
#: a forecast serves rooms this near to its own, K
ROOM_STEP_K: Final = 0.5


def live_for(user: User, live_id: uuid.UUID, need: Need = "reader") -> LiveRun:
    """The live run if the user may do what is needed with its build."""
    live = _with_rows().select_related("build", "revision").filter(pk=live_id).first()
    if live is None:
        raise ApiFault(404, f"live/{live_id}", "there is no such live run")
    build_for(user, live.build_id, need)
    return live


def lives_of(build: Build) -> list[LiveRun]:
    """Those that have not been ended, the oldest first."""
    return list(_with_rows().filter(build=build, ended=None).select_related("revision"))


def _with_rows() -> QuerySet[LiveRun]:
    """Live runs, each with how many rows have come and when the last did."""
    batches = LiveBatch.objects.filter(session__live=OuterRef("pk")).order_by().values("session__live")
    rows = batches.annotate(held=Sum("rows")).values("held")
    last = batches.annotate(last=Max("arrived")).values("last")
    return LiveRun.objects.annotate(held_rows=Subquery(rows), last_arrived=Subquery(last))


def bytes_of(**lives: Any) -> int:
    """Bytes of the rows of some live runs, told as a filter."""
    return data_bytes(LiveBatch.objects.filter(session__live__in=LiveRun.objects.filter(**lives)))


@dataclass(frozen=True)
class Channels:
    """All channels of a run's sessions, each once by its name, and the role that each has in the build."""

    names: list[str]
    units: list[str]
    roles: list[str]
    labels: list[str]

    def columns(self, session: LiveSession) -> list[int]:
        """Where the channels of a session stand among all."""
        return [self.names.index(channel["name"]) for channel in session.channels]


def channels_of(live: LiveRun, sessions: Sequence[LiveSession]) -> Channels:
    told: dict[str, str] = {}
    for session in sessions:
        for channel in session.channels:
            told.setdefault(channel["name"], channel["unit"])
    roles = _roles(live.revision_id, live.revision.text, tuple(told.items()))
    return Channels(list(told), list(told.values()), [role for role, _ in roles], [label for _, label in roles])


@lru_cache(maxsize=32)
def _roles(revision: int, text: str, channels: tuple[tuple[str, str], ...]) -> list[tuple[str, str]]:
    build = read_text(text)
    known = roles_in(build)
    found = suggest_roles([name for name, _ in channels], [unit for _, unit in channels], build)
    return [(one.role, known.get(one.role, one.channel)) for one in found]


def table_of(channels: Channels, session: LiveSession, data: bytes) -> Array:
    """Rows of a batch on the run's clock: (row, 1 + channel of the run), NaN where the session has no such channel."""
    own = np.frombuffer(data, dtype="<f8").reshape(-1, 1 + len(session.channels))
    table = np.full((len(own), 1 + len(channels.names)), np.nan)
    table[:, 0] = own[:, 0] + session.offset_s
    table[:, [1 + column for column in channels.columns(session)]] = own[:, 1:]
    return table


def page_of(live: LiveRun, after: int) -> dict[str, Any]:
    """Thin rows of the batches after a cursor; a few of those before it are sent once more."""
    sessions = {session.pk: session for session in live.sessions.all()}
    channels = channels_of(live, list(sessions.values()))
    batches = LiveBatch.objects.filter(session__live=live).order_by("pk")
    known = batches.filter(pk__lte=after).order_by("-pk").values_list("pk", flat=True)[:AGAIN] if after else []
    rows = list(batches.filter(pk__gte=min(known, default=0)).values_list("pk", "session_id", "thin"))
    tables = [(pk, table_of(channels, sessions[session], bytes(thin))) for pk, session, thin in rows]
    stride = max(1, -(-sum(len(table) for _, table in tables) // MOST_DRAWN))
    return {
        "cursor": max((pk for pk, _, _ in rows), default=after),
        "ended": live.ended is not None,
        "run": live.run_id,
        "channels": [
            {"name": name, "unit": unit, "role": role, "label": label}
            for name, unit, role, label in zip(
                channels.names, channels.units, channels.roles, channels.labels, strict=True
            )
        ],
        "batches": [{"batch": pk, "rows": _plain(table[::stride])} for pk, table in tables],
    }


def _plain(table: Array) -> list[list[float | None]]:
    return [[None if np.isnan(value) else round(float(value), 3) for value in row] for row in table]


def came_of(sessions: Sequence[LiveSession]) -> tuple[list[Came], dict[str, bytes]]:
    """The batches of sessions as they came, and their thin rows by session."""
    keys = {session.pk: session for session in sessions}
    came: list[Came] = []
    thin: dict[str, list[bytes]] = {}
    rows = LiveBatch.objects.filter(session__in=keys).order_by("session_id", "sequence")
    for row in rows.values_list("session_id", "sequence", "arrived", "clock_s", "steady_s", "times", "thin"):
        session_id, sequence, arrived, clock_s, steady_s, times, thinned = row
        session = keys[session_id]
        steady = np.frombuffer(bytes(times), dtype="<f8")
        came.append(Came(session.key, sequence, steady, clock_s, steady_s, arrived.timestamp()))
        thin.setdefault(session.key, []).append(bytes(thinned))
    return came, {key: b"".join(parts) for key, parts in thin.items()}


def samples_of(live: LiveRun) -> tuple[Samples | None, list[Arrival]]:
    """The thin rows of a live run by role, and what happened to its rows on the way."""
    sessions = list(live.sessions.all())
    came, thin = came_of(sessions)
    channels = channels_of(live, sessions)
    tables = [table_of(channels, session, thin[session.key]) for session in sessions if session.key in thin]
    if not tables:
        return None, []
    table = np.concatenate(tables)
    table = table[repaired(table[:, 0])]
    known = [i for i, role in enumerate(channels.roles) if role != IGNORE]
    samples = Samples(table[:, 0], [channels.roles[i] for i in known], table[:, [1 + i for i in known]])
    offsets = {session.key: session.offset_s for session in sessions}
    return samples, arrivals_of(came, offsets, min(session.interval_s for session in sessions))


def watched_of(live: LiveRun, settles: bool = True) -> Watched | None:
    """What the samples so far say; None before the first came."""
    samples, arrived = samples_of(live)
    if samples is None:
        return None
    return worked_out(watch, expected_for(live, samples), samples, arrived, settles)


def forecast_of(live: LiveRun) -> InTime:
    """What a live run is held against, in the room that its first samples tell, else in the one that was told."""
    return expected_for(live, samples_of(live)[0]).forecast


def expected_for(live: LiveRun, samples: Samples | None) -> Expected:
    room = None if samples is None else samples.steady("room/air")
    told = live.room_c if room is None else float(np.median(room[:20]))
    near = None if told is None else round(told / ROOM_STEP_K) * ROOM_STEP_K
    return _expected(live.revision_id, live.revision.text, live.workload, near, live.minutes)


@lru_cache(maxsize=8)
def _expected(revision: int, text: str, workload: str, room_c: float | None, minutes: float) -> Expected:
    return worked_out(expected_of, read_text(text), workload, room_c, max(1.2 * minutes, minutes + 10.0), SAMPLES)
