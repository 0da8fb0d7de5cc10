"""A load run in time: what is settled before it, the march through it, and where it would settle."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.errors import DocumentRefused, Problem
from krill.in_time.legs import Leg
from krill.in_time.march import TOLERANCE_K, March, Marched
from krill.in_time.room import STEADY_ROOM, Room
from krill.in_time.track import Track
from krill.networks.coupled import CoupledNetwork
from krill.networks.states import Case
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.lasting import must_last
from krill.prediction.answer.solving import Solved, network_of, solve_cases
from krill.prediction.answer.workload_states import least_workload
from krill.prediction.predict import cases_of

Array = NDArray[np.float64]

#: a load comes and goes so often at most
MOST_CYCLES: Final = 60
#: what a load may come on over beside another load of the build
IDLE, COLD = "idle", "cold"


@dataclass(frozen=True)
class Cycle:
    """A load that comes and goes: on for so many minutes, then what was before it for so many, again and again."""

    on_min: float
    off_min: float

    @property
    def minutes(self) -> float:
        return self.on_min + self.off_min

    def legs(self, until_min: float) -> Iterator[tuple[bool, float]]:
        """(on, minutes) of each stretch until a minute."""
        begins, on = 0.0, True
        while until_min - begins > 1e-9:
            lasts = min(self.on_min if on else self.off_min, until_min - begins)
            if lasts > 0.0:
                yield on, lasts
            begins, on = begins + lasts, not on


@dataclass(frozen=True)
class Asked:
    """What is run: a load for minutes, over what settled before it (``idle``, ``cold`` or another load)."""

    workload: str
    minutes: float
    before: str = IDLE
    room_c: float | None = None
    samples: int = 0
    seed: int = 1
    room: Room = STEADY_ROOM
    cycle: Cycle | None = None


@dataclass(frozen=True)
class Ran:
    """The way of every node through the load, and the states that it leads from and to, each settled for itself."""

    asked: Asked
    before: Solved
    settled: Solved
    network: CoupledNetwork
    track: Track
    begun: Array

    @property
    def ends_s(self) -> float:
        return 60.0 * self.asked.minutes


def run_in_time(build: Build, asked: Asked, tolerance_k: float = TOLERANCE_K) -> Ran:
    """March a load. DocumentRefused names a workload that is not there, or a state that a machine cannot stay in."""
    case = cases_of(build, [asked.workload], asked.room_c)[0]
    before = solve_cases(build, [case_before(build, case, asked.before)], asked.samples, asked.seed)
    settled = solve_cases(build, [case], asked.samples, asked.seed)
    must_last(settled, 0)
    network = network_of(build, [case], asked.samples, asked.seed)
    T = begun_at(before.solution.temperature, before, asked.before)
    start = Marched(T, None, before.network.states)
    if asked.cycle is None:
        track = march(network, [Leg((case,), asked.minutes)], start, asked.room, tolerance_k)
    else:
        resting = network_of(build, before.cases, asked.samples, asked.seed)
        track = _march_cycle(asked, asked.cycle, {True: network, False: resting}, start, tolerance_k)
    return Ran(asked, before, settled, network, track, T)


def _march_cycle(
    asked: Asked, cycle: Cycle, networks: dict[bool, CoupledNetwork], start: Marched, tolerance_k: float
) -> Track:
    """The load on and off in turn. DocumentRefused where it comes and goes too often."""
    if min(cycle.on_min, cycle.minutes) <= 0.0 or cycle.off_min < 0.0 or asked.minutes / cycle.minutes > MOST_CYCLES:
        what = f"on for {cycle.on_min:g} and off for {cycle.off_min:g} min"
        raise DocumentRefused([Problem("cycle", what, f"up to {MOST_CYCLES} times in {asked.minutes:g} min")])
    track, begins = Track(), 0.0
    capacities = {on: node_capacities(network) for on, network in networks.items()}
    for on, minutes in cycle.legs(asked.minutes):
        network = networks[on]
        leg = Leg(tuple(network.states.cases), minutes)
        start = March(network, capacities[on], leg, start, asked.room, tolerance_k).run(track, begins)
        begins += 60.0 * minutes
    return track


def march(
    network: CoupledNetwork,
    legs: Sequence[Leg],
    start: Marched,
    room: Room = STEADY_ROOM,
    tolerance_k: float = TOLERANCE_K,
) -> Track:
    """Legs of one network, one after the other, from a state."""
    track, begins = Track(), 0.0
    capacity = node_capacities(network)
    for leg in legs:
        start = March(network, capacity, leg, start, room, tolerance_k).run(track, begins)
        begins += 60.0 * leg.minutes
    return track


def begun_at(T: Array, settled: Solved, before: str) -> Array:
    """Temperatures that a load comes on over, (batch, node), of machines settled at T: a cold one is as warm as its room."""
    if before != COLD:
        return T.copy()
    return np.broadcast_to(T[:, settled.network.pattern.given[:1]], T.shape).copy()


def case_before(build: Build, case: Case, before: str) -> Case:
    """The case that settled before a load: the build's least load, nothing at all, or another load of the build."""
    if before == COLD:
        nothing = case.workload.model_copy(update={"watts": {}, "burst": {}})
        return replace(case, workload=nothing)
    if before == IDLE:
        return replace(case, workload=least_workload(build))
    known = {workload.id: workload for workload in build.workloads}
    if before not in known:
        raise DocumentRefused([Problem("before", f"there is no load '{before}'", ", ".join([IDLE, COLD, *known]))])
    return replace(case, workload=known[before])
