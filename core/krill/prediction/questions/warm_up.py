"""How a build warms up: the modes of its network linearised at the load, from the state of the least watts.

dT/dt = C⁻¹ r(T) about the steady state: rates are the eigenvalues of C⁻¹ J, each node is a sum over them.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, Workload
from krill.networks.states import Case
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.answer.workload_states import idle_of

Array = NDArray[np.float64]
Modes = NDArray[np.complex128]

#: modes that carry less of a node's way than this share, and none of its room, are left out
CARRIES = 1e-3


@dataclass(frozen=True)
class WarmUpOfNode:
    """One node's way: ``rates`` 1/s (mode,), what is ``missing`` of its settled value at the start, K (mode,), and the
    share of the room that it follows by each, ``of_room`` (mode,)."""

    rates: Modes
    missing: Modes
    of_room: Modes

    @property
    def time_constants_s(self) -> Array:
        return np.asarray(-1.0 / self.rates.real)


@dataclass(frozen=True)
class WarmUp:
    """Of every node of a build in a workload, begun where the least workload had settled."""

    solved: Solved
    rates: Modes
    missing: Modes
    of_room: Modes

    def of_node(self, node: int) -> WarmUpOfNode:
        missing, of_room = self.missing[node], self.of_room[node]
        whole = max(float(np.sum(np.abs(missing))), 1e-9)
        carries = (np.abs(missing) > CARRIES * whole) | (np.abs(of_room) > CARRIES)
        return WarmUpOfNode(self.rates[carries], missing[carries], of_room[carries])


def warm_up(build: Build, workload: Workload, room_c: float, overrides: dict[str, float] | None = None) -> WarmUp:
    """Modes of a build's network at a workload's settled state, movers as in that workload."""
    altitude = float(build.rooms[0].altitude_m)
    cases = [Case(workload, room_c, altitude), Case(idle_of(build, workload), room_c, altitude)]
    solved = solve_cases(build, cases, 0, 1, overrides)
    network, given = solved.network.pattern.network, solved.network.pattern.given
    laws, power = solved.solution.laws, solved.solution.power.copy()
    T = solved.solution.temperature
    power[:, given] = room_c
    _, J = network.residual(T, solved.solution.matrix, power, laws)
    C = node_capacities(solved.network)[0]
    kept = np.setdiff1d(np.arange(len(C)), given)
    dense = network.dense(J)[0]
    rates, ways = np.linalg.eig(dense[np.ix_(kept, kept)] / C[kept, None])
    into = np.linalg.inv(ways)
    missing = np.zeros((len(C), len(rates)), complex)
    of_room = np.zeros_like(missing)
    missing[kept] = ways * (into @ (T[0] - T[1])[kept])
    by_room = (dense[np.ix_(kept, given)] / C[kept, None]).sum(axis=1)
    of_room[kept] = ways * (into @ by_room) / -rates
    return WarmUp(solved, rates, missing, of_room)
