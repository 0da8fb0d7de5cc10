"""A window of a run made ready to be judged: from its file, its log if it has one, and the revision that ran."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import lru_cache

from krill.document.build import Build
from krill.document.figures import detail
from krill.errors import KrillError
from krill.prediction.questions.warm_up import WarmUp, WarmUpOfNode, warm_up
from krill.runs.analysis import LogAnalysis, LoggedLoad
from krill.runs.as_run import commanded_build, commands_and_watts, known_flows, node_of
from krill.runs.held_back import NOT_FED, Fed, Track
from krill.runs.measured import MeasuredRun, measured_from_log, room_as_read, room_of_run
from krill.runs.quantities_read import READ, WARM, statistic_of
from krill.runs.run_document import LoadWindow, Reading, RunDocument
from krill.runs.tracks import single_figures, tracks_of
from krill.runs.typed import means_under_load, measured_from_readings, peaky_roles
from krill.runs.unknown_room import EVENING_K, RunRoom
from krill.runs.verdict import Alongside, Measured


@dataclass(frozen=True)
class Ran:
    """One load of a run: the build at the speeds it ran, figures known from the run (SI, by address), its room, what was
    measured of it and of the waiting machine before, and why other readings were left out.

    ``alongside`` are other runs that stood in the same room of one evening. ``as_kept`` is the revision as it stands.
    ``tracks`` and ``fed`` say how its sources and its supply went over the load, ``conditions`` what else was noted.
    """

    name: str
    build: Build
    as_kept: Build
    workload: str
    room: RunRoom
    measured: list[Measured]
    known: dict[str, float]
    idle: list[Measured] = field(default_factory=list)
    excluded: list[str] = field(default_factory=list)
    readings: list[Reading] = field(default_factory=list)
    alongside: list[Alongside] = field(default_factory=list)
    tracks: list[Track] = field(default_factory=list)
    fed: Fed = NOT_FED
    conditions: dict[str, str] = field(default_factory=dict)


def ran_of(run: RunDocument, build: Build, logged: LoggedLoad | None, window: LoadWindow | None = None) -> Ran:
    """A window of a run of ``build``; ``logged`` is what its log says of that window, None where nothing was logged."""
    load = window or run.window()
    analysis = None if logged is None else logged.analysis
    readings = run.readings_in(load)
    measured = _measured(readings, build, load.workload, analysis)
    as_ran = commanded_build(build, load.workload, measured.commands)
    room = room_of_run(run.room, room_as_read(analysis, measured.room_c), build)
    known = known_flows(as_ran, load.workload, measured.watts, measured.flows_l_min)
    excluded = [*measured.excluded, *_of_settings(run)]
    values = single_figures(readings) if logged is None else logged.values
    tracks, fed = tracks_of(build, load.workload, values, run.limits_in(load))
    name = f"{run.name}, {load.name or load.id}" if len(run.windows) > 1 else run.name
    return Ran(
        name,
        as_ran,
        build,
        load.workload,
        room,
        measured.values,
        known,
        measured.idle,
        excluded,
        [*readings, *_logged(analysis)],
        tracks=tracks,
        fed=fed,
        conditions=_conditions(run, load, analysis),
    )


def of_one_evening(ran: Ran, other: Ran) -> Ran:
    """A run that stood in the room of another one of the same evening, which may have drifted between them."""
    if not ran.room.half_k:
        return ran
    if not other.room.half_k or other.room.half_k <= EVENING_K:
        return replace(ran, room=RunRoom(other.room.air_c, EVENING_K))
    beside = Alongside(other.build, other.workload, other.measured, other.known, EVENING_K)
    narrower = min(ran.room, other.room, key=lambda room: room.half_k)
    return replace(ran, room=narrower, alongside=[*ran.alongside, beside])


def _measured(readings: list[Reading], build: Build, workload: str, analysis: LogAnalysis | None) -> MeasuredRun:
    """What was typed stands beside what was logged; of a role that both have, the log's."""
    ways = None if analysis is not None else _ways(build, workload, readings)
    typed = measured_from_readings(readings, workload, peaky_roles(build, workload), ways)
    if analysis is None:
        return typed
    logged = measured_from_log(analysis, workload)
    roles = {m.role for m in logged.values}
    return MeasuredRun(
        [*logged.values, *(m for m in typed.values if m.role not in roles)],
        [*logged.excluded, *typed.excluded],
        typed.commands | logged.commands,
        typed.watts | logged.watts,
        typed.idle,
        typed.room_c,
        typed.flows_l_min | logged.flows_l_min,
    )


def _logged(analysis: LogAnalysis | None) -> list[Reading]:
    """Means of what a log says beside temperatures, as readings."""
    found = []
    for channel in analysis.channels if analysis is not None else []:
        statistic = statistic_of(channel.role)
        known = READ.get(statistic)
        if known is not None and statistic not in WARM and known.least <= channel.mean <= known.most:
            found.append(Reading(minute=0, role=channel.role, kind="mean", value=channel.mean))
    return found


def _ways(build: Build, workload: str, readings: list[Reading]) -> Callable[[str], WarmUpOfNode | None]:
    """How the build warms up at the speeds and watts that were read; worked out when somebody asks."""

    @lru_cache(maxsize=1)
    def whole() -> WarmUp | None:
        commands, watts = commands_and_watts(means_under_load(readings), workload)
        as_ran = commanded_build(build, workload, commands)
        load = next(item for item in as_ran.workloads if item.id == workload)
        try:
            return warm_up(as_ran, load, float(detail(build.rooms[0].air_c).value), watts)
        except KrillError:
            return None

    def of_role(role: str) -> WarmUpOfNode | None:
        ways = whole()
        node = None if ways is None else node_of(ways.solved, role)
        return None if ways is None or node is None else ways.of_node(node)

    return of_role


def _conditions(run: RunDocument, load: LoadWindow, analysis: LogAnalysis | None) -> dict[str, str]:
    """What was noted of how a load ran, in words that can be held against another's."""
    settings = run.settings
    told = {
        "lid": settings.lid or "",
        "filter": settings.filter or "",
        "fans commanded by": settings.fans_by,
        "firmware": settings.firmware,
        "locked": ", ".join(sorted(settings.locked)),
    }
    limits = {
        f"power limit of {s}": f"{limit.in_force_w:g} W" for s, limit in run.limits_in(load).items() if limit.in_force_w
    }
    minutes = (
        analysis.window.minutes if analysis is not None else max((float(r.minute) for r in run.readings), default=0.0)
    )
    return {name: said for name, said in {**told, **limits, "length": _length(minutes)}.items() if said}


def _length(minutes: float) -> str:
    """Length of a load in whole minutes; nothing where it is not known."""
    return "" if minutes <= 0 else f"{minutes:.0f} min"


def _of_settings(run: RunDocument) -> list[str]:
    """What was set otherwise than the build says, and what a claim lacks."""
    said = []
    if run.settings.lid == "off":
        said.append("the lid was off: the build's air goes through a closed housing")
    if run.kind == "claim" and run.lacks:
        said.append(f"a claim that does not say: {', '.join(run.lacks)}")
    return said
