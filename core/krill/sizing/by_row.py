"""What sizing asks of every row of a batch: temperatures, margins, flows, levels, each as one array."""

import numpy as np
from numpy.typing import NDArray

from krill.physics.atmosphere import air_density
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.shared import loop_flow, loop_nodes, start_edges
from krill.prediction.answer.solving import Solved
from krill.units import l_min, m3_h

Array = NDArray[np.float64]


def temperatures(solved: Solved, node: str) -> Array:
    """Temperature of a place, zone or other node, C (batch,); KeyError where there is none."""
    return np.asarray(solved.solution.temperature[:, solved.structure.node_of[node]])


def sensed(solved: Solved, sensor: str) -> Array:
    """What a sensor in a place, zone or loop says, C (batch,): of a loop its warmest coolant."""
    if any(loop.id == sensor for loop in solved.build.loops):
        return np.asarray(np.max(solved.solution.temperature[:, loop_nodes(solved, sensor)], axis=1))
    return temperatures(solved, sensor)


def hottest(solved: Solved, address: str) -> Array:
    """A place, a zone's air, a loop at its warmest, or a body at its hottest spot, C (batch,); KeyError where there is none."""
    structure = solved.structure
    if address in structure.body_nodes:
        nodes = [structure.body_nodes[address], *(contact.node for contact in structure.contacts_of(address))]
        return np.asarray(solved.solution.temperature[:, nodes].max(axis=1))
    return sensed(solved, address)


def over_room(solved: Solved, address: str) -> Array:
    """The same over the air of the first outside zone, K (batch,)."""
    outside = next(zone.id for zone in solved.build.zones if zone.kind == "outside")
    return np.asarray(hottest(solved, address) - temperatures(solved, outside))


def margins(solved: Solved) -> tuple[list[str], Array]:
    """(places with a limit, limit less temperature (batch, place), K)."""
    found = [(route.place.id, lowest_limit(route.place)[1]) for route in solved.structure.routes]
    limited = [(place, limit) for place, limit in found if limit is not None]
    if not limited:
        return [], np.zeros((solved.network.values.batch, 0))
    return [place for place, _ in limited], np.stack(
        [at - temperatures(solved, place) for place, at in limited], axis=1
    )


def flow(solved: Solved, way: str) -> Array:
    """Flow of a loop (l/min) or air path (m3/h) at its start, branches added, (batch,); KeyError where there is none."""
    structure, solution = solved.structure, solved.solution
    loop = next((item for item in solved.build.loops if item.id == way), None)
    if loop is not None and structure.coolant is not None and solution.coolant is not None:
        return np.asarray(l_min(loop_flow(solved, loop)))
    if structure.air is None or solution.air is None or way not in structure.air.circuit:
        raise KeyError(way)
    starts = start_edges(structure.air, way)
    mass = solution.air.mass_flow[:, starts].sum(axis=1)
    tail, head = structure.air.tail_nodes[starts[0]], structure.air.head_nodes[starts[0]]
    inlet = np.where(mass >= 0.0, solution.temperature[:, tail], solution.temperature[:, head])
    return np.asarray(m3_h(np.abs(mass) / air_density(inlet, solved.network.states.pressure_pa)))
