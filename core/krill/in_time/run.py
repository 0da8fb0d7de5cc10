"""A load run in time: what is settled before it, the march through it, and where it would settle."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

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

#: what a load may come on over beside another load of the build
IDLE, COLD = "idle", "cold"


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
    T = before.solution.temperature.copy()
    if asked.before == COLD:
        T[:] = before.solution.temperature[:, before.network.pattern.given[:1]]
    track = march(
        network, [Leg((case,), asked.minutes)], Marched(T, None, before.network.states), asked.room, tolerance_k
    )
    return Ran(asked, before, settled, network, track, T)


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
