"""What a run measured: the room it stood in, settled values with their doubt, speeds and watts that were logged."""

from dataclasses import dataclass, field, replace

import numpy as np

from krill.runs.analysis import TEMPERATURES, LogAnalysis
from krill.runs.as_run import speeds_and_watts
from krill.runs.verdict import Measured

#: what a room may have moved in a run whose room was read once (estimate)
ONE_READING_K = 1.5


@dataclass(frozen=True)
class MeasuredRun:
    """Measured values by role, why others were left out, speeds by mover (rpm), watts by address of the build."""

    values: list[Measured]
    excluded: list[str] = field(default_factory=list)
    speeds_rpm: dict[str, float] = field(default_factory=dict)
    watts: dict[str, float] = field(default_factory=dict)


def measured_from_log(analysis: LogAnalysis, workload: str) -> MeasuredRun:
    """Settled temperatures of a log, with what ran by its other channels.

    One that was still moving when the load ended is known by the interval of where it settles.
    """
    values = [
        Measured(channel.role, found.value, (found.high - found.low) / 2)
        for channel in analysis.channels
        if (found := channel.settled) is not None and channel.role != "room/air"
    ]
    speeds, watts = speeds_and_watts({channel.role: channel.mean for channel in analysis.channels}, workload)
    return MeasuredRun(values, [], speeds, watts)


@dataclass(frozen=True)
class RunRoom:
    """Mean room of a run, C, and the half width of what a person may have missed of it, K."""

    air_c: float
    half_k: float


def room_of_run(start_c: float | None, end_c: float | None, analysis: LogAnalysis | None) -> RunRoom | None:
    """As stated at its start and end, else the log's own channel; one figure stands for both, with doubt.

    None where nobody says anything.
    """
    start = analysis.room_start_c if start_c is None and analysis is not None else start_c
    end = analysis.room_end_c if end_c is None and analysis is not None else end_c
    known = [value for value in (start, end) if value is not None]
    if not known:
        return None
    return RunRoom(sum(known) / len(known), 0.0 if len(known) == 2 else ONE_READING_K)


def in_room(values: list[Measured], room: RunRoom) -> list[Measured]:
    """Measured values with what is not known of the room added to the doubt of those that follow it."""
    return [
        replace(value, half_width=float(np.hypot(value.half_width, room.half_k)))
        if value.role.rpartition("/")[2] in TEMPERATURES
        else value
        for value in values
    ]
