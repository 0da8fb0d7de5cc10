"""Time constants of a build by name: for each thing the mode of the network that carries most of its way."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from krill.in_time.result import CurveKind, TimeConstant
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import Solved
from krill.prediction.questions.warm_up import WarmUp, warm_up

Array = NDArray[np.float64]


def named_nodes(solved: Solved) -> Iterator[tuple[str, str, CurveKind, list[int]]]:
    """(address, name, kind, nodes) of everything that is told in time; of several nodes the hottest is meant."""
    structure, build = solved.structure, solved.build
    for route in structure.routes:
        yield route.place.id, route.place.name or route.place.id, "place", [structure.node_of[route.place.id]]
    for loop in build.loops:
        yield loop.id, f"{loop.name or loop.id} coolant", "coolant", loop_nodes(solved, loop.id)
    for zone in build.zones:
        if zone.kind == "box":
            yield zone.id, zone.name or zone.id, "air", [structure.zone_nodes[zone.id]]
    for body, node in structure.body_nodes.items():
        yield body, build.part(body).name or body, "body", [node]


def time_constants(solved: Solved, workload: str) -> list[TimeConstant]:
    """Of everything that moves by half a kelvin or more from the least load to this one, fastest first."""
    load = next(item for item in solved.build.workloads if item.id == workload)
    modes = warm_up(solved.build, load, solved.cases[0].room_c)
    found = []
    for address, name, kind, nodes in named_nodes(solved):
        seconds = _constant(modes, nodes)
        if seconds is not None:
            found.append(TimeConstant(address=address, name=name, kind=kind, seconds=seconds))
    return sorted(found, key=lambda one: one.seconds)


#: what moves by less has no constant worth a word, K
LEAST_MOVED_K = 0.5


def _constant(modes: WarmUp, nodes: list[int]) -> float | None:
    """Of the node that moves most: the mean of its modes' constants by what each carries, on a logarithmic scale."""
    ways = [modes.of_node(node) for node in nodes]
    moved = [abs(float(np.sum(way.missing).real)) for way in ways]
    most = int(np.argmax(moved))
    if moved[most] < LEAST_MOVED_K:
        return None
    way = ways[most]
    carried = np.abs(way.missing)
    return float(np.exp(np.average(np.log(way.time_constants_s), weights=carried)))
