"""What of a load in time may be aimed at, for every row of a batch: a burst, a temperature after minutes, watts held back."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final, Literal, get_args

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.parts import Source
from krill.errors import DocumentRefused, Problem
from krill.in_time.bursts import LOOKED_S, lasting_burst, levels_of_burst, times_of_burst
from krill.in_time.crossing import first_at_least
from krill.in_time.held_back import share_of_time
from krill.in_time.legs import Leg
from krill.in_time.march import Marched
from krill.in_time.run import IDLE, begun_at, case_before, march
from krill.networks.states import Case
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.solving import Solved, network_of, try_cases
from krill.prediction.predict import cases_of

Array = NDArray[np.float64]
AimKind = Literal["burst", "after", "held_back"]

#: shortest and longest load that is aimed at, min
MINUTES: Final = (0.1, 1440.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Aim:
    """``burst``: how long a burst of a source holds on the soaked machine, s; ``after``: how warm a place is after so many
    minutes of the load, C; ``held_back``: for which share of them a source gives up watts, %."""

    kind: AimKind
    of: str
    minutes: float = 30.0
    before: str = IDLE

    @property
    def unit(self) -> str:
        return {"burst": "s", "after": "°C", "held_back": "%"}[self.kind]

    @property
    def sign(self) -> float:
        """1 where more is better, -1 where less is."""
        return 1.0 if self.kind == "burst" else -1.0

    @property
    def most(self) -> float:
        """The highest value that it can have."""
        return {"burst": LOOKED_S, "after": float("inf"), "held_back": 100.0}[self.kind]


def check_aim(build: Build, workload: str, aim: Aim) -> None:
    """DocumentRefused names what is aimed at where it is not there, or can have no such figure."""
    if aim.kind not in get_args(AimKind):
        raise DocumentRefused([Problem("aim", f"'{aim.kind}'", ", ".join(get_args(AimKind)))])
    if not MINUTES[0] <= aim.minutes <= MINUTES[1]:
        raise DocumentRefused([Problem("minutes", f"{aim.minutes:g}", f"{MINUTES[0]:g} to {MINUTES[1]:g}")])
    known = aimable(build, workload)[aim.kind]
    if aim.of not in known:
        raise DocumentRefused([Problem(f"of/{aim.of}", _MISSING[aim.kind], ", ".join(known) or "nothing in this load")])


_MISSING: Final[dict[AimKind, str]] = {
    "burst": "it has no burst in this load, or no limit",
    "after": "there is no such place",
    "held_back": "it gives up no watts at a limit",
}


def aimable(build: Build, workload: str) -> dict[AimKind, list[str]]:
    """By kind, what of a build may be aimed at in a load."""
    load = cases_of(build, [workload], None)[0].workload
    sources = {part.id: part for part in build.parts if isinstance(part, Source)}

    def limited(source: str) -> bool:
        return any(lowest_limit(place)[1] is not None for place in sources[source].places)

    def holds(source: str) -> bool:
        return any(place.throttles and lowest_limit(place)[1] is not None for place in sources[source].places)

    return {
        "burst": [source for source in load.burst if source in sources and limited(source)],
        "after": list(build.place_owners()),
        "held_back": [source for source in load.watts if source in sources and holds(source)],
    }


def aimed_at(
    build: Build,
    workload: str,
    aim: Aim,
    rows: int = 0,
    draws: Mapping[str, Array] | None = None,
    room_c: float | None = None,
) -> Array:
    """The figure aimed at as the build stands and in every row drawn, (1 + rows,), all in one march; NaN where one does not
    settle. DocumentRefused as ``check_aim``, NotConverged where the build itself does not settle."""
    check_aim(build, workload, aim)
    case = cases_of(build, [workload], room_c)[0]
    starts_at = case if aim.kind == "burst" else case_before(build, case, aim.before)
    start = try_cases(build, [starts_at], rows, draws=dict(draws or {}))
    start.solution.status.must_settle(0)
    settled = np.asarray(start.solution.status.settled)
    left = {address: np.asarray(values)[settled[1:]] for address, values in (draws or {}).items()}
    found = np.full(1 + rows, np.nan)
    T = start.solution.temperature[settled]
    network = start.network if settled.all() else network_of(build, [starts_at], len(T) - 1, draws=left)
    follow = _burst if aim.kind == "burst" else _load
    found[settled] = follow(build, case, aim, start, Marched(T, None, network.states), left)
    return found


def _burst(build: Build, case: Case, aim: Aim, start: Solved, begun: Marched, draws: dict[str, Array]) -> Array:
    """Seconds until the first place of the source meets its limit less the margin wanted; all that was looked where none does."""
    free = lasting_burst(case, aim.of)
    network = network_of(build, [free], len(begun.T) - 1, draws=draws)
    track = march(network, [Leg((free,), LOOKED_S / 60)], Marched(begun.T))
    held = np.full(len(begun.T), LOOKED_S)
    times = times_of_burst()
    for address, _, level in levels_of_burst(start, aim.of):
        met = first_at_least(times, track.at(times, [network.structure.node_of[address]])[:, :, 0], level)
        held = np.fmin(held, met)
    return held


def _load(build: Build, case: Case, aim: Aim, start: Solved, begun: Marched, draws: dict[str, Array]) -> Array:
    """The load for its minutes: how warm a place is at their end, or the share of them that a source gave up watts."""
    network = network_of(build, [case], len(begun.T) - 1, draws=draws)
    begins = Marched(begun_at(begun.T, start, aim.before), None, begun.states)
    track = march(network, [Leg((case,), aim.minutes)], begins)
    if aim.kind == "held_back":
        return 100.0 * share_of_time(track, aim.of)
    return np.asarray(track.at(np.array([60.0 * aim.minutes]), [network.structure.node_of[aim.of]])[0, :, 0])
