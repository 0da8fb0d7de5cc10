"""Reads of runs: series, analyses, verdicts."""

import contextlib
import hashlib
import uuid
from collections.abc import Callable, Iterator
from functools import lru_cache
from typing import Any

import numpy as np
from django.contrib.auth.models import User
from django.db.models import OuterRef, Subquery
from numpy.typing import NDArray

from builds.models import Build
from builds.queries import Need, build_for
from krill.document.build import Build as Document
from krill.document.calibration import LearntFrom
from krill.document.reading import read_text
from krill.fingerprint import fingerprint
from krill.interruption import Interrupted
from krill.logs.clock import Clock
from krill.logs.log import Log
from krill.logs.report import ReadReport
from krill.prediction.predict import predict
from krill.records import to_json
from krill.runs.analysis import LoggedLoad, OfBuild, logged_load, signals_of
from krill.runs.calibrate import calibrate, learnable
from krill.runs.compare import Equal, PartDifference, compare, leading
from krill.runs.files import rows_of
from krill.runs.hot_day import hot_day
from krill.runs.judging import in_own_room, judge, room_of_readings, side_of
from krill.runs.quantities_read import quantity_read
from krill.runs.ran import Ran, of_one_evening, ran_of
from krill.runs.roles import roles_in
from krill.runs.run_document import LoadWindow, RunDocument, read_run
from krill.runs.run_table import BeforeAfterBefore, TableRun, before_after_before, run_table
from krill.runs.verdict import AS_PREDICTED, CANNOT_TELL
from krill.runs.windows import WHOLE, Window, load_windows
from runs.models import Channel, KeptAnswer, OriginalBlock, PictureBlock, Run, Stream
from runs.series import FINE_FACTOR, STEP, thinned, unpacked
from sheets.queries import picture_bytes_held
from wire.faults import ApiFault
from wire.stored import data_bytes
from wire.turns import SolverEnded, worked_out

Array = NDArray[np.float64]

#: runs of a revision that are held against those of another, the newest ones
NEWEST = 3
TIME_ROLE = "time"
#: answers that are kept of each run
MOST_KEPT = 40
#: draws behind the rooms of a table
TABLE_SAMPLES = 100


def run_for(user: User, run_id: uuid.UUID, need: Need = "reader") -> Run:
    """The run if the user may do what is needed with its build."""
    run = Run.objects.select_related("build", "revision").filter(pk=run_id).first()
    if run is None:
        raise ApiFault(404, f"runs/{run_id}", "there is no such run")
    build_for(user, run.build_id, need)
    return run


def runs_held(owner: User) -> int:
    """How many runs the builds of somebody hold."""
    return Run.objects.filter(build__owner=owner).count()


def bytes_held(owner: User) -> int:
    """Bytes of the logs and pictures in the builds of somebody, those of steps among them."""
    blocks = (rows.filter(run__build__owner=owner) for rows in (OriginalBlock.objects, PictureBlock.objects))
    return sum(map(data_bytes, blocks)) + picture_bytes_held(owner)


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
        for reading in file_of(run).readings:
            value = reading.word if reading.value is None else reading.value
            unit = quantity_read(reading.role).unit
            yield [reading.minute, reading.role, reading.kind, value, unit, reading.load_on]


def file_of(run: Run) -> RunDocument:
    """The run as the file that it is."""
    return read_run(run.text)


def whole_file_of(run: Run) -> RunDocument:
    """The run as it goes out: with the role of each channel of its log."""
    document = file_of(run)
    if run.kind != "log":
        return document
    channels = run.stream.channels.exclude(role=TIME_ROLE)
    return document.model_copy(update={"roles": {channel.name: channel.role for channel in channels}})


def original_of(run: Run) -> bytes:
    """The log's file as it came."""
    return _joined(run.blocks)


def picture_of(run: Run, sha256: str) -> bytes:
    """The bytes of a picture, none where it did not come along with the run's file."""
    return _joined(run.picture_blocks.filter(sha256=sha256))


def _joined(blocks: Any) -> bytes:
    return b"".join(bytes(data) for data in blocks.values_list("data", flat=True))


def logged_load_of(run: Run, load: LoadWindow) -> LoggedLoad | None:
    """Window and settled values of a load of a log; None of a typed run."""
    if run.kind != "log":
        return None
    roles = tuple(run.stream.channels.values_list("role", flat=True))
    times = (load.start_s, load.end_s)
    return _logged_load(run.pk, run.revision_id, load.workload, times, _units_told(run), roles)


def _units_told(run: Run) -> tuple[tuple[str, str], ...]:
    """What the values of a stored log follow from beside its file."""
    log = file_of(run).log
    return () if log is None else tuple(sorted(log.units.items()))


@lru_cache(maxsize=64)
def _logged_load(
    run_id: uuid.UUID,
    revision: int,
    workload: str,
    times: tuple[float | None, float | None],
    units: tuple[tuple[str, str], ...],
    roles: tuple[str, ...],
) -> LoggedLoad:
    """The analysis by all that it follows from; reading a log with its build's time constants takes seconds."""
    run = Run.objects.select_related("revision", "stream").get(pk=run_id)
    log, _ = log_of(run.stream)
    own = [role for role in roles if role != TIME_ROLE]
    load = LoadWindow(workload=workload, start_s=times[0], end_s=times[1])
    return worked_out(logged_load, log, own, rows_of(load, log), OfBuild(document_of(run), workload))


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


def ran(run: Run, window: str | None = None) -> Ran:
    """A load of a run ready to be judged, in the room of its evening where it names another run of it."""
    document = file_of(run)
    load = document.window(window)
    found = ran_of(document, document_of(run), logged_load_of(run, load), load)
    other = _of_evening(run, document)
    if other is None:
        return found
    beside = file_of(other)
    return of_one_evening(found, ran_of(beside, document_of(other), logged_load_of(other, beside.window())))


def _of_evening(run: Run, document: RunDocument) -> Run | None:
    """Another run of the same owner's builds that stood in the same room."""
    named = document.room.evening_of
    if named is None or named == str(run.pk):
        return None
    try:
        wanted = uuid.UUID(named)
    except ValueError:
        return None
    known = Run.objects.select_related("build", "revision").filter(pk=wanted, build__owner=run.build.owner_id)
    return known.first()


def made_from(run: Run, question: str, others: list[Run] | None = None) -> str:
    """A hash of all that an answer about a run is made from: documents, logs by their roles, the question, Krill."""
    pieces = [question, fingerprint()]
    for asked in [run, *(others or [])]:
        beside = _of_evening(asked, file_of(asked))
        for item in [asked] if beside is None else [asked, beside]:
            pieces += [str(item.pk), item.text, item.revision.sha256]
            if item.kind == "log":
                pieces += list(item.stream.channels.values_list("role", flat=True))
    return hashlib.sha256("\x00".join(pieces).encode()).hexdigest()


def kept(run: Run, question: str, answer: Callable[[], Any], others: list[Run] | None = None) -> dict[str, Any]:
    """An answer that was given before from the same, else a new one, which is kept; the newest of each run are.

    ``answer`` gives a record, or records and plain values by name.
    """
    key = made_from(run, question, others)
    known: dict[str, Any] | None = run.answers.filter(made_from=key).values_list("answer", flat=True).first()
    if known is not None:
        return known
    new: dict[str, Any] = to_json(answer())
    KeptAnswer.objects.get_or_create(run=run, made_from=key, defaults={"answer": new})
    old = run.answers.order_by("-pk").values_list("pk", flat=True)[MOST_KEPT:]
    KeptAnswer.objects.filter(pk__in=list(old)).delete()
    return new


def verdict_of(run: Run, window: str | None = None) -> dict[str, Any]:
    """What was predicted and measured for a load; solved once as long as nothing changes that it is made from."""
    return kept(run, f"verdict {window or ''}", lambda: _verdict(run, window))


def _verdict(run: Run, window: str | None) -> dict[str, Any]:
    judged = worked_out(judge, ran(run, window))
    room, load = judged.verdict.room, judged.ran.workload
    drawn = predict(judged.ran.build, [load], room.air_c, samples=0, overrides=judged.ran.known)
    return {
        "room_c": room.air_c,
        "room_half_k": room.half_k,
        "excluded": judged.ran.excluded,
        "places": judged.verdict.places,
        "quantities": judged.quantities,
        "held_back": [to_json(held) | {"says": held.says} for held in judged.held_back],
        "suspects": judged.verdict.suspects,
        "read_next": judged.verdict.read_next,
        "sentence": judged.verdict.sentence,
        "predicted": drawn.workloads[0],
    }


def compare_runs(
    first: Run, second: Run, windows: tuple[str | None, str | None] = (None, None), equal: Equal = "speeds"
) -> dict[str, Any]:
    """The second run against the first: per part over the room, at equal watts and speeds or sound, and what else differs."""
    question = f"compare {windows[0] or ''} {windows[1] or ''} {equal}"
    a, b = windows
    return kept(
        first,
        question,
        lambda: worked_out(compare, side_of(ran(first, a)), side_of(ran(second, b)), equal=equal),
        [second],
    )


def measured_changes(build: Build) -> list[dict[str, Any]]:
    """For each revision with runs: its runs against those of the last revision before it that ran the same workload.

    Of several the pair that tells the difference best, claims left out.
    """
    runs = [run for run in build.runs.select_related("revision", "build") if run.kind != "claim"]
    ran_in: dict[tuple[int, str], list[Run]] = {}
    for run in runs:
        ran_in.setdefault((run.revision.number, run.workload), []).append(run)
    found = []
    for (number, workload), after in ran_in.items():
        earlier = [n for n, of in ran_in if of == workload and n < number]
        if earlier:
            pairs = [(a, b) for a in ran_in[max(earlier), workload][-NEWEST:] for b in after[-NEWEST:]]
            changes = [change for a, b in pairs if (change := _measured_change(a, b)) is not None]
            found += sorted(changes, key=lambda change: float(change["half_k"]))[:1]
    return found


def _measured_change(before: Run, after: Run) -> dict[str, Any] | None:
    compared = compare_runs(before, after)
    if not compared["parts"]:
        return None
    lead = leading([PartDifference(**part) for part in to_json(compared["parts"])])
    return {
        "revision": after.revision.number,
        "before_revision": before.revision.number,
        "workload": after.workload,
        "before": before.pk,
        "after": after.pk,
        "sentence": compared["sentence"],
        "part": lead.name,
        "measured_k": lead.equal_k,
        "half_k": lead.equal_half_k,
        "predicted_k": lead.predicted_k + lead.correction_k,
        "conclusion": lead.conclusion,
    }


def learn(build: Build, loads: list[tuple[Run, str | None]], free: list[str]) -> dict[str, Any]:
    """What loads of a build teach about its draft, with the hot day before and after."""
    question = f"learn {build.sha256} {[(str(run.pk), window) for run, window in loads]} {free}"

    def answer() -> dict[str, Any]:
        rans = [in_own_room(ran(run, window)) for run, window in loads]
        told = [
            LearntFrom(run=str(run.pk), name=r.name[:200], window=window or "")
            for (run, window), r in zip(loads, rans, strict=True)
        ]
        found, draft = worked_out(calibrate, rans, free, runs=told), read_text(build.text)
        return {
            **to_json(found),
            "calibration": found.calibration.model_dump(mode="json"),
            "suspected": _suspected(loads),
            "learnable": learnable(rans[-1].as_kept, rans[-1].workload),
            "hot_day": worked_out(hot_day, draft, found.calibration),
        }

    runs = [run for run, _ in loads]
    return kept(runs[0], question, answer, runs[1:])


def _suspected(loads: list[tuple[Run, str | None]]) -> list[dict[str, Any]]:
    """What the verdicts of loads suspect, each once, with the sentence of it."""
    found: dict[str, dict[str, Any]] = {}
    for run, window in loads:
        for suspect in verdict_of(run, window)["suspects"]:
            found.setdefault(suspect["address"], {key: suspect[key] for key in ("address", "name", "says")})
    return list(found.values())


def table_of_runs(build: Build) -> dict[str, Any]:
    """Every load of a build in one table."""
    runs = list(build.runs.select_related("revision", "build"))
    if not runs:
        return {"rows": [], "roles": [], "names": {}, "best": {}, "worst": {}, "drifts": [], "bought": []}

    def answer() -> dict[str, Any]:
        rows = []
        for run in runs:
            for load in file_of(run).windows:
                one = ran(run, load.id)
                room = worked_out(room_of_readings, one, TABLE_SAMPLES)
                rows.append(TableRun(f"{run.pk}/{load.id}", run.revision.number, run.created, one, room))
        found: dict[str, Any] = to_json(worked_out(run_table, rows))
        for row in found["rows"]:
            row["created"] = row["created"].isoformat()
        return found

    return kept(runs[0], "table", answer, runs[1:])


def repeated(loads: list[tuple[Run, str | None]]) -> dict[str, Any]:
    """Before, after, before again."""
    runs = [run for run, _ in loads]
    question = f"repeated {[window for _, window in loads]}"

    def answer() -> BeforeAfterBefore:
        before, after, again = (side_of(ran(run, window)) for run, window in loads)
        return worked_out(before_after_before, before, after, again)

    return kept(runs[0], question, answer, runs[1:])


def last_run_json(run: Run) -> dict[str, Any]:
    """A run in one line: its name and the sentence of its verdict."""
    found = verdict_of(run)
    conclusions = {place["conclusion"] for place in found["places"]} - {CANNOT_TELL}
    return {
        "id": run.pk,
        "name": run.name,
        "kind": run.kind,
        "created": run.created,
        "sentence": found["sentence"],
        "agrees": conclusions == {AS_PREDICTED} if conclusions else None,
    }


def cards_of(build: Build) -> list[dict[str, Any]]:
    """The runs of a build in a list."""
    verdicts = KeptAnswer.objects.filter(run=OuterRef("pk"), answer__has_key="predicted").order_by("-pk")
    runs = build.runs.select_related("revision").annotate(said=Subquery(verdicts.values("answer__sentence")[:1]))
    return [card_json(run) for run in runs]


def card_json(run: Run) -> dict[str, Any]:
    """A run in a list, with what its verdict said where it was asked for before."""
    document = file_of(run)
    return {
        "id": run.pk,
        "name": run.name,
        "kind": run.kind,
        "workload": run.workload,
        "revision": run.revision.number,
        "created": run.created,
        "windows": [{"id": w.id, "name": w.name, "workload": w.workload} for w in document.windows],
        "said": getattr(run, "said", None),
        "note": document.note,
        "pictures": document.pictures,
    }


def run_json(run: Run, window: str | None = None) -> dict[str, Any]:
    """A run for the screen: its file, what its log says of one load."""
    document = file_of(run)
    return _run_json(run, document, logged_load_of(run, document.window(window)))


def stored_json(run: Run) -> dict[str, Any]:
    """A run that has just been stored: it is told so, also where its log cannot be analysed now."""
    document, logged = file_of(run), None
    with contextlib.suppress(Interrupted, SolverEnded, ApiFault):
        logged = logged_load_of(run, document.window())
    return _run_json(run, document, logged)


def _run_json(run: Run, document: RunDocument, logged: LoggedLoad | None) -> dict[str, Any]:
    answer = card_json(run) | {
        "document": document,
        "lacks": document.lacks,
        "file_name": "",
        "lines": None,
        "channels": [],
        "roles": [],
        "more_loads": [],
        "analysis": None if logged is None else logged.analysis,
    }
    return answer if logged is None else answer | _log_json(run, document, logged.analysis.window)


def _log_json(run: Run, document: RunDocument, in_view: Window) -> dict[str, Any]:
    channels = [c for c in run.stream.channels.all() if c.role != TIME_ROLE]
    told = ("index", "name", "unit", "role", "sure", "reason", "asked")
    return {
        "file_name": run.stream.file_name,
        "lines": run.stream.report,
        "channels": [{field: getattr(channel, field) for field in told} for channel in channels],
        "roles": [{"role": role, "label": label} for role, label in roles_in(document_of(run)).items()],
        "more_loads": [
            {"start_s": w.start_s, "end_s": w.end_s, "by": w.by}
            for w in _found_loads(run.pk, _units_told(run), tuple(channel.role for channel in channels))
            if not any(_overlap(w, load, in_view) for load in document.windows)
        ],
    }


@lru_cache(maxsize=64)
def _found_loads(run_id: uuid.UUID, units: tuple[tuple[str, str], ...], roles: tuple[str, ...]) -> list[Window]:
    """Every load of a stored log, by all that it follows from."""
    log, _ = log_of(Stream.objects.get(run_id=run_id))
    return [window for window in load_windows(log.time_s, signals_of(log, list(roles))) if window.by != WHOLE]


def _overlap(found: Window, load: LoadWindow, in_view: Window) -> bool:
    """Whether a load of the run covers more than half of one that was found; without times it is the one in view."""
    start, end = (
        (in_view.start_s, in_view.end_s) if load.start_s is None else (load.start_s, load.end_s or load.start_s)
    )
    return min(end, found.end_s) - max(start, found.start_s) > 0.5 * (found.end_s - found.start_s)
