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

    ``idle`` is what was read of the waiting machine before the load, ``room_c`` the room as it was read, in its order.
    """

    values: list[Measured]
    excluded: list[str] = field(default_factory=list)
    speeds_rpm: dict[str, float] = field(default_factory=dict)
    watts: dict[str, float] = field(default_factory=dict)
    idle: list[Measured] = field(default_factory=list)
    room_c: list[float] = field(default_factory=list)


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


def room_of_run(
    start_c: float | None, end_c: float | None, read: tuple[float | None, float | None], build: Build
) -> RunRoom:
    """As stated at its start and end, else as it was ``read`` then; one figure stands for both, with doubt.

    Where nobody says anything, what the brief says of the build's rooms.
    """
    start, end = (of_run if told is None else told for told, of_run in zip((start_c, end_c), read, strict=True))
    known = [value for value in (start, end) if value is not None]
    if not known:
        return prior_room(build)
    return RunRoom(sum(known) / len(known), 0.0 if len(known) == 2 else ONE_READING_K)


def room_as_read(analysis: LogAnalysis | None, readings: list[float]) -> tuple[float | None, float | None]:
    """The room at a run's start and end: by the log's channel, else by the first and the last typed reading."""
    if analysis is not None:
        return analysis.room_start_c, analysis.room_end_c
    if not readings:
        return None, None
    return readings[0], readings[-1] if len(readings) > 1 else None
