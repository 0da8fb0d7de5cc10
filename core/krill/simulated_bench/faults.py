"""What may go wrong on the simulated bench, and where in a build it can."""

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from krill.document.build import Build
from krill.document.figures import detail
from krill.document.parts import Fan, Mover, Pump, Source
from krill.errors import KrillError
from krill.simulated_bench.seen import clogged_to, far_apart
from krill.watching.air_way import what_clogs
from krill.watching.kinds import FailureKind

#: sources of less watts are not held back: nobody would see it
LEAST_HELD_W: Final = 20.0
_WRITTEN: Final = re.compile(r"(?P<kind>[a-z-]+)(:(?P<on>[a-z0-9/,-]+))?@(?P<at>\d+(\.\d+)?)min")


@dataclass(frozen=True)
class Fault:
    """Something that goes wrong so many minutes after the load came on; ``on`` is the address that it befalls.

    Empty where it befalls all; two channels are joined by a comma.
    """

    kind: FailureKind
    at_min: float
    on: str = ""


def faults_of(build: Build, workload: str) -> dict[FailureKind, list[str]]:
    """Every fault that can befall a build under a load, with the addresses that each may befall."""
    found = {kind: where(build, workload) for kind, where in _WHERE.items()}
    return {kind: addresses for kind, addresses in found.items() if addresses}


def fault_from(text: str, build: Build, workload: str) -> Fault:
    """``pump-stops@12min``, or ``fan-stalls:fan-rear@12min`` where one is meant. KrillError says what is allowed."""
    match = _WRITTEN.fullmatch(text.strip())
    possible = faults_of(build, workload)
    kind = next((one for one in possible if match and one == match["kind"]), None)
    if match is None or kind is None:
        allowed = ", ".join(possible)
        raise KrillError(f"'{text}' is no fault of this build; allowed: NAME@MINUTESmin with NAME one of {allowed}")
    on = match["on"] or possible[kind][0]
    if on not in possible[kind]:
        raise KrillError(f"{kind} cannot befall '{on}'; allowed: {', '.join(filter(None, possible[kind]))}")
    return Fault(kind, float(match["at"]), on)


def _turning(build: Build, workload: str, kinds: tuple[type[Fan] | type[Pump], ...]) -> list[str]:
    """Movers that the load runs."""
    load = next(item for item in build.workloads if item.id == workload)
    commands = {part.id: load.movers.get(part.id) for part in build.parts if isinstance(part, kinds)}
    return [
        mover
        for mover, command in commands.items()
        if command is None or not (command.off or (command.duty == 0 and command.curve is None))
    ]


def _pumps(build: Build, workload: str) -> list[str]:
    return _turning(build, workload, (Pump,))


def _fans(build: Build, workload: str) -> list[str]:
    return _turning(build, workload, (Fan,))


def _filters(build: Build, workload: str) -> list[str]:
    """Of those that a fan draws air through, each that somebody would see clog."""
    may = what_clogs(build) if _fans(build, workload) else []
    return [one for one in may if clogged_to(build, workload, one) is not None]


def _places(build: Build, _: str) -> list[str]:
    return [f"{place}/temperature" for place in build.place_owners()]


def _pairs(build: Build, workload: str) -> list[str]:
    """Two sensors that are seen to have changed places, the first two: leads that are easily changed."""
    return [f"{one}/temperature,{other}/temperature" for one, other in far_apart(build, workload)[:1]]


def _large(build: Build, workload: str) -> list[str]:
    load = next(item for item in build.workloads if item.id == workload)
    known = {part.id for part in build.parts if isinstance(part, Source)}
    watts = {source: float(detail(figure).value) for source, figure in load.watts.items() if source in known}
    return sorted((s for s, w in watts.items() if w >= LEAST_HELD_W), key=lambda s: -watts[s])


def _sagging(build: Build, workload: str) -> list[str]:
    return [""] if len(_turning(build, workload, (Fan, Pump))) > 1 else []


def _feeds(build: Build, workload: str) -> list[str]:
    """Feeds that more than one mover hangs on."""
    turning = {part.id: part for part in build.parts if isinstance(part, Mover)}
    running = [turning[mover] for mover in _turning(build, workload, (Fan, Pump))]
    return [feed.id for feed in build.feeds if sum(feed.id in build.feeds_above(mover.feed) for mover in running) > 1]


def _everywhere(build: Build, workload: str) -> list[str]:
    return [""]


_WHERE: Final[dict[FailureKind, Callable[[Build, str], list[str]]]] = {
    "pump-stops": _pumps,
    "fan-stalls": _fans,
    "air-lock": _pumps,
    "filter-clogs": _filters,
    "sensor-stuck": _places,
    "sensors-swapped": _pairs,
    "throttles": _large,
    "room-drifts": _everywhere,
    "supply-sags": _sagging,
    "feed-lost": _feeds,
    "samples-dropped": _everywhere,
    "samples-doubled": _everywhere,
    "clock-jumps": _everywhere,
    "logger-restarts": _everywhere,
}
