"""All that a log says of itself: its time, its lines, each channel with the reason, each load, stretches at a limit."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.figures import detail
from krill.logs.channels import Channel, channels_of
from krill.logs.log import Log
from krill.logs.report import ReadReport
from krill.runs.analysis import LogAnalysis, OfBuild, analyse, signals_of
from krill.runs.held_back import AT_LIMIT_K, FELL
from krill.runs.recognise import suggest
from krill.runs.windows import load_windows

Mask = NDArray[np.bool_]

#: a stretch at a limit is told of from here on
SHORTEST_S: Final = 30.0
#: a temperature that stays this near to its highest is flat, K; and for at least this share of a load
FLAT_K: Final = 1.0
FLAT_SHARE: Final = 0.15


@dataclass(frozen=True)
class ChannelTold:
    """One channel as it was taken: its unit as kept and as written, what it measures, its role and why so."""

    name: str
    unit: str
    written: str
    quantity: str
    part: str
    role: str
    dead: bool
    reason: str
    ask: str


@dataclass(frozen=True)
class AtLimit:
    """A stretch in which a channel stood at a limit, and what tells it."""

    channel: str
    start_s: float
    end_s: float
    by: str


@dataclass(frozen=True)
class WholeLog:
    """What a log is and holds; ``window`` and ``channels`` of the longest load are in ``loads`` as well."""

    length_s: float
    interval_s: float
    time: str
    start_utc: str | None
    lines: ReadReport
    left_out: dict[str, str]
    channels: list[ChannelTold]
    loads: list[LogAnalysis]
    at_limit: list[AtLimit]

    def told(self) -> str:
        """It in lines for a terminal."""
        report = self.lines
        lines = [f"{self.length_s / 60:.1f} min, a row each {self.interval_s:g} s; time: {self.time}"]
        lines.append(
            f"{report.kept} rows kept, {report.repaired} repaired, {report.skipped} lines skipped, {report.header} of the header"
        )
        lines += [f"  {count} x {reason}" for reason, count in report.reasons.items()]
        for channel in self.channels:
            unit = f" [{channel.unit}]" if channel.unit else ""
            dead = "dead, " if channel.dead else ""
            lines.append(f"  {channel.name}{unit}: {channel.role}; {dead}{channel.reason}")
        for load in self.loads:
            window = load.window
            lines.append(f"load from {window.start_s / 60:.1f} to {window.end_s / 60:.1f} min, found by {window.by}")
            lines += [f"  {c.name}: {c.sentence}" for c in load.channels if c.settled]
        lines += [
            f"at a limit: {s.channel}, {s.start_s / 60:.1f} to {s.end_s / 60:.1f} min, {s.by}" for s in self.at_limit
        ]
        return "\n".join(lines)


def whole_log(log: Log, build: Build | None = None, workload: str | None = None) -> WholeLog:
    """Everything of a log, beside its build where there is one; ``workload`` is what ran, for the build's time constants."""
    channels = channels_of(log)
    suggested = suggest(channels, build)
    roles = [suggestion.role for suggestion in suggested]
    ran = OfBuild(build, workload) if build is not None and workload is not None else None
    windows = load_windows(log.time_s, signals_of(log, roles))
    loads = [analyse(log, roles, (window.first, window.last), ran, window.by) for window in windows]
    told = [
        ChannelTold(c.name, c.unit, c.written, c.quantity, c.part, s.role, c.dead, s.reason or c.reason, c.ask)
        for c, s in zip(channels, suggested, strict=True)
    ]
    start = log.clock.start_utc
    return WholeLog(
        float(log.time_s[-1] - log.time_s[0]),
        log.interval_s,
        log.clock.form,
        None if start is None else start.isoformat(),
        log.report,
        log.left_out,
        told,
        loads,
        [
            s
            for i, c in enumerate(channels)
            for s in _at_limit(log, channels, i, roles, loads, _limit_c(build, roles[i]))
        ],
    )


def _limit_c(build: Build | None, role: str) -> float | None:
    """The throttle limit, else own limit, of the place that a role is of."""
    if build is None or not role.endswith("/temperature"):
        return None
    owner = build.place_owners().get(role.removesuffix("/temperature"))
    limits = {} if owner is None else {limit.kind: float(detail(limit.at_c).value) for limit in owner[0].limits}
    return limits.get("throttle", limits.get("own"))


def _at_limit(
    log: Log, channels: list[Channel], index: int, roles: list[str], loads: list[LogAnalysis], limit_c: float | None
) -> list[AtLimit]:
    channel, values = channels[index], log.values[:, index]
    if channel.quantity == "limit state":
        return _stretches(log, channel.name, values > 0.5, "it says so")
    if channel.quantity != "temperature" or channel.dead or channel.part in ("room", "coolant", "box"):
        return []
    if limit_c is not None:
        return _stretches(log, channel.name, values >= limit_c - AT_LIMIT_K, f"its limit is {limit_c:g} °C")
    found = []
    for load in loads:
        inside = slice(load.window.first, load.window.last + 1)
        if not np.isfinite(values[inside]).any():
            continue
        flat = np.zeros(len(values), dtype=bool)
        flat[inside] = values[inside] >= np.nanmax(values[inside]) - FLAT_K
        if flat.sum() >= FLAT_SHARE * (inside.stop - inside.start) and _gives_up(log, channels, channel.part, inside):
            found += _stretches(log, channel.name, flat, "it stays flat while watts or clock fall")
    return found


def _gives_up(log: Log, channels: list[Channel], part: str, inside: slice) -> bool:
    """Whether watts or clock of a part fall within a load."""
    for index, channel in enumerate(channels):
        if channel.part == part != "" and channel.quantity in ("power", "clock"):
            values = log.values[inside, index]
            known = values[np.isfinite(values)]
            if not known.size:
                continue
            early, late = np.mean(known[: max(1, len(known) // 20)]), np.mean(known[len(known) // 2 :])
            if late < (1.0 - FELL) * early:
                return True
    return False


def _stretches(log: Log, name: str, mask: Mask, by: str) -> list[AtLimit]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], mask.astype(np.int8), [0]]))).reshape(-1, 2)
    times = [(float(log.time_s[first]), float(log.time_s[behind - 1])) for first, behind in edges]
    return [AtLimit(name, start, end, by) for start, end in times if end - start >= SHORTEST_S]
