"""Everything that one log says: what its channels are, its load window, and the settled value of each."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.figures import detail
from krill.errors import KrillError
from krill.logs.channels import channels_of, part_of, quantity_of
from krill.logs.log import Log
from krill.prediction.questions.warm_up import WarmUp, WarmUpOfNode, warm_up
from krill.runs.as_run import commanded_build, commands_and_watts, node_of
from krill.runs.recognise import Suggestion, suggest
from krill.runs.settle import Beside, Settled, settle
from krill.runs.windows import Signals, Window, load_window

Array = NDArray[np.float64]

#: rows before the load that tell what the machine drew before; else it drew this share (estimate)
LED_IN = 5
UNSEEN_IDLE = 0.15

#: parts whose own temperature steps with their load
_LOADED: Final = ("processor", "graphics")

TEMPERATURES = ("temperature", "coolant_hot", "coolant_cold", "air")


@dataclass(frozen=True)
class ChannelResult:
    """One channel in the load window: its settled value where it is a temperature, else its mean."""

    name: str
    unit: str
    role: str
    mean: float
    peak: float
    settled: Settled | None
    sentence: str


@dataclass(frozen=True)
class LogAnalysis:
    window: Window
    channels: list[ChannelResult]
    room_start_c: float | None
    room_end_c: float | None


@dataclass(frozen=True)
class LoggedLoad:
    """One load of a log: what it comes to, and its channels over the window by role, (row,)."""

    analysis: LogAnalysis
    values: dict[str, Array]


def logged_load(
    log: Log, roles: list[str], rows: tuple[int, int] | None = None, ran: "OfBuild | None" = None
) -> LoggedLoad:
    """The analysis of a load with the rows it is made from."""
    analysis = analyse(log, roles, rows, ran)
    inside = slice(analysis.window.first, analysis.window.last + 1)
    return LoggedLoad(
        analysis, {role: log.values[inside, i] for i, role in enumerate(roles) if role not in ("ignore", "time")}
    )


def roles_of(log: Log, build: Build | None) -> list[Suggestion]:
    """Suggested roles; without a build every channel is told apart by what it measures."""
    return suggest(channels_of(log), build)


def signals_of(log: Log, roles: list[str]) -> Signals:
    """The channels that tell a load, of each part the best: by their roles, else by their units, so that watts stay watts."""
    told = [_told_of(role, name, unit) for role, name, unit in zip(roles, log.names, log.units, strict=True)]
    taken: set[str] = set()
    chosen: dict[str, list[int]] = {}
    for kind in ("power", "load", "clock", "temperature"):
        of_kind = [(i, part) for i, (what, part) in enumerate(told) if what == kind]
        chosen[kind] = [i for i, part in of_kind if part not in taken and (part or kind == "power")]
        taken |= {part for _, part in of_kind if part}
    chosen["temperature"] = [i for i in chosen["temperature"] if told[i][1] in _LOADED]
    chosen["others"] = [i for i, (what, _) in enumerate(told) if what == "temperature"]
    chosen["wall"] = [i for i, (what, _) in enumerate(told) if what == "wall_power"]

    def columns(kind: str) -> Array | None:
        return log.values[:, chosen[kind]] if chosen[kind] else None

    return Signals(*(columns(kind) for kind in ("power", "load", "clock", "temperature", "wall", "others")))


def _told_of(role: str, name: str, unit: str) -> tuple[str, str]:
    """What a channel may tell of a load, and the part that its name speaks of."""
    quantity, _ = quantity_of(name, unit)
    part = part_of(name, quantity)
    if role != "ignore":
        quantity = role.rsplit("/", 1)[-1]
    elif quantity == "power" and part == "wall":
        quantity = "wall_power"
    return ("" if quantity == "temperature" and part in ("room", "coolant") else quantity), part


def resolution_of(values: Array) -> float:
    """Step of a sensor: the smallest difference between its readings, 0 where they are practically continuous."""
    distinct = np.unique(values[np.isfinite(values)][:20000])
    if len(distinct) < 2 or len(distinct) > 2000:
        return 0.0
    return float(np.round(np.min(np.diff(distinct)), 6))


@dataclass(frozen=True)
class OfBuild:
    """What ran: the build and its workload, whose own time constants a log is read with."""

    build: Build
    workload: str


def analyse(
    log: Log, roles: list[str], rows: tuple[int, int] | None = None, ran: OfBuild | None = None, found_by: str = "hand"
) -> LogAnalysis:
    """Load window and settled values; ``roles`` one a channel, ``rows`` a window chosen by hand or found otherwise."""
    statistic = [role.rsplit("/", 1)[-1] for role in roles]
    window = _chosen(log, rows, found_by) if rows else load_window(log.time_s, signals_of(log, roles))
    inside = slice(window.first, window.last + 1)
    used = [
        (i, role) for i, role in enumerate(roles) if role != "ignore" and np.any(np.isfinite(log.values[inside, i]))
    ]
    means = {role: _late_mean(log.values[inside, i]) for i, role in used}
    ways = _expected(ran, means) if ran is not None else None
    load = _load_over_late_mean(_sum(log, statistic, ("power", "wall_power")), inside)
    room_of = next((i for i, role in used if role == "room/air"), None)
    channels = []
    for index, role in used:
        values, found = log.values[inside, index], None
        if statistic[index] in TEMPERATURES and index != room_of:
            room = None if room_of is None else log.values[inside, room_of]
            way = None if ways is None else _way(ways, role)
            beside = Beside(resolution_of(values), room, load, way)
            found = settle(log.time_s[inside], values, beside)
        says = found.sentence() if found is not None else ""
        name, unit = log.names[index], log.units[index]
        channels.append(ChannelResult(name, unit, role, means[role], float(np.nanmax(values)), found, says))
    if room_of is None:
        return LogAnalysis(window, channels, None, None)
    ends = log.values[inside, room_of][np.isfinite(log.values[inside, room_of])]
    edge = max(1, len(ends) // 20)
    return LogAnalysis(window, channels, float(np.mean(ends[:edge])), float(np.mean(ends[-edge:])))


def _expected(ran: OfBuild, means: dict[str, float]) -> WarmUp | None:
    """How the build warms up at the speeds and watts of the log; None where it has no lasting state there."""
    commands, watts = commands_and_watts(means, ran.workload)
    build = commanded_build(ran.build, ran.workload, commands)
    workload = next(item for item in build.workloads if item.id == ran.workload)
    try:
        return warm_up(build, workload, means.get("room/air", float(detail(build.rooms[0].air_c).value)), watts)
    except KrillError:
        return None


def _way(ways: WarmUp, role: str) -> WarmUpOfNode | None:
    node = node_of(ways.solved, role)
    return None if node is None else ways.of_node(node)


def _load_over_late_mean(load: Array | None, inside: slice) -> Array | None:
    """The load over its late mean, as a share of the step that the window began with; None where nobody logged it."""
    if load is None:
        return None
    late = _late_mean(load[inside])
    before = float(np.mean(load[: inside.start])) if inside.start >= LED_IN else UNSEEN_IDLE * late
    step = late - before
    return np.asarray((load[inside] - late) / step) if late > 0 and step >= UNSEEN_IDLE * late else None


def _late_mean(values: Array) -> float:
    """Mean of the second half of the window: what a power or a speed came to after the burst."""
    half = values[len(values) // 2 :]
    return float(np.nanmean(half)) if np.any(np.isfinite(half)) else float(np.nanmean(values))


def _chosen(log: Log, rows: tuple[int, int], by: str) -> Window:
    first, last = max(rows[0], 0), min(rows[1], len(log.time_s) - 1)
    return Window(first, last, float(log.time_s[first]), float(log.time_s[last]), by)


def _sum(log: Log, statistic: list[str], wanted: tuple[str, ...]) -> Array | None:
    for kind in wanted:
        columns = [i for i, s in enumerate(statistic) if s == kind]
        if columns:
            return np.asarray(np.nansum(log.values[:, columns], axis=1))
    return None
