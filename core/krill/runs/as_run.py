"""The build as it ran: at the speeds that were measured, and which of its nodes a measured quantity is read from."""

import numpy as np
from numpy.typing import NDArray

from krill.document.addresses import watts_address
from krill.document.build import Build, Command, leaves
from krill.document.figures import detail
from krill.document.parts import Mover, Pump
from krill.networks.states import Case
from krill.prediction.answer.shared import loop_flow, loop_nodes
from krill.prediction.answer.solving import Solved, solve_cases
from krill.units import l_min

Array = NDArray[np.float64]

#: how often the pumps of a loop are brought nearer to a flow that was read, and how far
FLOW_STEPS, FASTER = 4, (0.05, 5.0)
_FOLLOWS_SPEED = {"flow_factor": 1, "pressure_factor": 2}


def commanded_build(build: Build, workload: str, commands: dict[str, Command]) -> Build:
    """The build with its movers told something else in one workload; what is no mover of it is told nothing."""
    movers = {part.id for part in build.parts if isinstance(part, Mover)}
    commands = {mover: command for mover, command in commands.items() if mover in movers}
    workloads = [
        item.model_copy(update={"movers": {**item.movers, **commands}}) if item.id == workload else item
        for item in build.workloads
    ]
    return build.model_copy(update={"workloads": workloads})


def commands_and_watts(means: dict[str, float], workload: str) -> tuple[dict[str, Command], dict[str, float]]:
    """What ran by what was read: commands by mover, a speed before a duty, and watts by address; ``means`` by role."""
    speeds, duties, watts = {}, {}, {}
    for role, mean in means.items():
        address, _, statistic = role.rpartition("/")
        if statistic == "speed":
            speeds[address] = Command(speed_rpm=mean)
        elif statistic == "duty":
            duties[address] = Command(duty=min(max(mean / 100.0, 0.0), 1.0))
        elif statistic == "power" and address != "wall":
            watts[watts_address(workload, address)] = mean
    return {**duties, **speeds}, watts


def watts_of(build: Build, workload: str, known: dict[str, float]) -> dict[str, float]:
    """Watts of each source in a run: as read, else as the build states them."""
    stated = next(item for item in build.workloads if item.id == workload).watts
    return {
        source: float(known.get(watts_address(workload, source), detail(figure).value))
        for source, figure in stated.items()
    }


def known_flows(
    build: Build, workload: str, known: dict[str, float], flows_l_min: dict[str, float]
) -> dict[str, float]:
    """Figures known from a run with those that make each loop flow as much as was read: its pumps as fast as it takes.

    Flow and pressure of the pumps follow one factor as a speed does; a loop without pumps keeps its flow.
    """
    load = next(item for item in build.workloads if item.id == workload)
    case = Case(load, float(detail(build.rooms[0].air_c).value), float(build.rooms[0].altitude_m))
    found = dict(known)
    for loop in build.loops:
        pumps = [part.id for part in build.parts if isinstance(part, Pump) and part.id in leaves(loop.elements)]
        wanted = flows_l_min.get(loop.id, 0.0)
        if not pumps or wanted <= 0:
            continue
        factors = {f"{pump}/{field}": power for pump in pumps for field, power in _FOLLOWS_SPEED.items()}
        as_stated: dict[str, float] = {}
        faster = 1.0
        for _ in range(FLOW_STEPS):
            solved = solve_cases(build, [case], overrides=found)
            as_stated = as_stated or {address: solved.table.figures[address].value for address in factors}
            flows = float(l_min(loop_flow(solved, loop))[0])
            faster = float(np.clip(faster * wanted / max(flows, 1e-6), *FASTER))
            found |= {address: as_stated[address] * faster**power for address, power in factors.items()}
    return found


def nodes_of(solved: Solved, role: str) -> list[int] | None:
    """Heat nodes that a role is read from; None where the build has no such thing."""
    address, _, statistic = role.rpartition("/")
    names = solved.structure.node_names
    if statistic in ("temperature", "peak", "touch") and address in names:
        return [names.index(address)]
    if statistic in ("coolant_hot", "coolant_cold") and any(loop.id == address for loop in solved.build.loops):
        return loop_nodes(solved, address)
    if statistic == "air" and address in solved.structure.zone_nodes and address != "room":
        return [solved.structure.zone_nodes[address]]
    return None


def value_of(solved: Solved, role: str, rows: int | slice = slice(None)) -> Array:
    """What a role that the build has reads at rows of a solution, C: the hottest or coolest of its nodes."""
    T = solved.solution.temperature[rows][..., nodes_of(solved, role)]
    return np.asarray(T.min(axis=-1) if role.endswith("coolant_cold") else T.max(axis=-1))


def node_of(solved: Solved, role: str) -> int | None:
    """The one node of a role at the central figures: the hottest or coolest of a loop."""
    nodes = nodes_of(solved, role)
    if nodes is None:
        return None
    choose = min if role.endswith("coolant_cold") else max
    return choose(nodes, key=lambda node: float(solved.solution.temperature[0, node]))
