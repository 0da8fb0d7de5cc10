"""The build as it ran: at the speeds that were measured, and which of its nodes a measured quantity is read from."""

import numpy as np
from numpy.typing import NDArray

from krill.document.addresses import watts_address
from krill.document.build import Build, Command
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import Solved

Array = NDArray[np.float64]


def measured_build(build: Build, workload: str, speeds_rpm: dict[str, float]) -> Build:
    """The build with movers at the speeds that were measured, in one workload."""
    return commanded_build(build, workload, {mover: Command(speed_rpm=rpm) for mover, rpm in speeds_rpm.items()})


def commanded_build(build: Build, workload: str, commands: dict[str, Command]) -> Build:
    """The build with movers told something else in one workload."""
    workloads = [
        item.model_copy(update={"movers": {**item.movers, **commands}}) if item.id == workload else item
        for item in build.workloads
    ]
    return build.model_copy(update={"workloads": workloads})


def speeds_and_watts(means: dict[str, float], workload: str) -> tuple[dict[str, float], dict[str, float]]:
    """What ran by what was logged: rpm by mover, and watts by address of the build; ``means`` by role."""
    speeds, watts = {}, {}
    for role, mean in means.items():
        address, _, statistic = role.rpartition("/")
        if statistic == "speed":
            speeds[address] = mean
        elif statistic == "power" and address != "wall":
            watts[watts_address(workload, address)] = mean
    return speeds, watts


def nodes_of(solved: Solved, role: str) -> list[int] | None:
    """Heat nodes that a role is read from; None where the build has no such thing."""
    address, _, statistic = role.rpartition("/")
    names = solved.structure.node_names
    if statistic in ("temperature", "peak") and address in names:
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
