"""What a run measured: the room it stood in, settled values with their doubt, speeds and watts that were logged."""

from dataclasses import dataclass, field

from krill.document.build import Build, Command
from krill.runs.analysis import LogAnalysis
from krill.runs.as_run import commands_and_watts
from krill.runs.run_document import RoomTold
from krill.runs.unknown_room import ABOUT_K, ONE_READING_K, RunRoom, prior_room
from krill.runs.verdict import Measured


@dataclass(frozen=True)
class MeasuredRun:
    """Measured values by role, why others were left out, what movers were told, watts by address of the build.

    ``idle`` is what was read of the waiting machine before the load, ``room_c`` the room as it was read, in its order,
    ``flows_l_min`` what was read of the flow of a loop.
    """

    values: list[Measured]
    excluded: list[str] = field(default_factory=list)
    commands: dict[str, Command] = field(default_factory=dict)
    watts: dict[str, float] = field(default_factory=dict)
    idle: list[Measured] = field(default_factory=list)
    room_c: list[float] = field(default_factory=list)
    flows_l_min: dict[str, float] = field(default_factory=dict)


def measured_from_log(analysis: LogAnalysis, workload: str) -> MeasuredRun:
    """Settled temperatures of a log, with what ran by its other channels.

    One that was still moving when the load ended is known by the interval of where it settles.
    """
    values = [
        Measured(channel.role, found.value, (found.high - found.low) / 2, more_min=found.minutes_needed)
        for channel in analysis.channels
        if (found := channel.settled) is not None and channel.role != "room/air"
    ]
    means = {channel.role: channel.mean for channel in analysis.channels}
    commands, watts = commands_and_watts(means, workload)
    return MeasuredRun(values, [], commands, watts, flows_l_min=flows_of(means))


def flows_of(means: dict[str, float]) -> dict[str, float]:
    """Flows by loop or path of what was read, by role."""
    return {role.removesuffix("/flow"): mean for role, mean in means.items() if role.endswith("/flow")}


def room_of_run(told: RoomTold, read: tuple[float | None, float | None], build: Build) -> RunRoom:
    """As stated at its start and end, else as it was ``read`` then; one figure stands for both, with doubt.

    A rough figure is known as such; where nobody says anything, what the brief says of the build's rooms.
    """
    stated = (told.start_c, told.end_c)
    start, end = (of_run if told_c is None else told_c for told_c, of_run in zip(stated, read, strict=True))
    known = [float(value) for value in (start, end) if value is not None]
    if known:
        return RunRoom(sum(known) / len(known), 0.0 if len(known) == 2 else ONE_READING_K)
    if told.about_c is not None:
        return RunRoom(float(told.about_c), ABOUT_K)
    return prior_room(build)


def room_as_read(analysis: LogAnalysis | None, readings: list[float]) -> tuple[float | None, float | None]:
    """The room at a run's start and end: by the log's channel, else by the first and the last typed reading."""
    if analysis is not None and analysis.room_start_c is not None:
        return analysis.room_start_c, analysis.room_end_c
    if not readings:
        return None, None
    return readings[0], readings[-1] if len(readings) > 1 else None
