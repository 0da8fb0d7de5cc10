"""What a run measured: the room it stood in, settled values with their doubt, speeds and watts that were logged."""

from dataclasses import dataclass, field

from krill.document.build import Build
from krill.runs.analysis import LogAnalysis
from krill.runs.as_run import speeds_and_watts
from krill.runs.unknown_room import ONE_READING_K, RunRoom, prior_room
from krill.runs.verdict import Measured


@dataclass(frozen=True)
class MeasuredRun:
    """Measured values by role, why others were left out, speeds by mover (rpm), watts by address of the build.

    ``idle`` is what was read of the waiting machine before the load.
    """

    values: list[Measured]
    excluded: list[str] = field(default_factory=list)
    speeds_rpm: dict[str, float] = field(default_factory=dict)
    watts: dict[str, float] = field(default_factory=dict)
    idle: list[Measured] = field(default_factory=list)


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


def room_of_run(start_c: float | None, end_c: float | None, analysis: LogAnalysis | None, build: Build) -> RunRoom:
    """As stated at its start and end, else the log's own channel; one figure stands for both, with doubt.

    Where nobody says anything, what the brief says of the build's rooms.
    """
    start = analysis.room_start_c if start_c is None and analysis is not None else start_c
    end = analysis.room_end_c if end_c is None and analysis is not None else end_c
    known = [value for value in (start, end) if value is not None]
    if not known:
        return prior_room(build)
    return RunRoom(sum(known) / len(known), 0.0 if len(known) == 2 else ONE_READING_K)
