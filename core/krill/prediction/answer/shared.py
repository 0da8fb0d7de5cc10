"""What several places share: coolant of a loop, air of a zone, bodies; and the watts through each."""

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Loop, Zone
from krill.document.part_base import Part
from krill.networks.flow_structure import LEAK, FlowStructure
from krill.physics.properties import FluidState
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.result import Terrace, TerraceKind
from krill.prediction.answer.route_watts import step_watts, stream_start
from krill.prediction.answer.solving import Solved, at_row, room_of
from krill.units import l_min

Array = NDArray[np.float64]


def loop_nodes(solved: Solved, loop: str) -> list[int]:
    """Heat nodes of a loop: its junctions and its elements' outlets."""
    flow = solved.structure.coolant
    assert flow is not None
    return flow.nodes_of(loop)


def loop_coolant(solved: Solved, loop: Loop) -> FluidState:
    """What fills a loop at its mean temperature, (batch,)."""
    return solved.coolants[loop.id]


def loop_flow(solved: Solved, loop: Loop) -> Array:
    """Volume flow that leaves the start of a loop, its branches added, m3/s (batch,)."""
    flow, solution = solved.structure.coolant, solved.solution.coolant
    assert flow is not None
    assert solution is not None
    mass = solution.mass_flow[:, start_edges(flow, loop.id)].sum(axis=1)
    return np.asarray(mass / loop_coolant(solved, loop).density)


def start_edges(flow: FlowStructure, way: str) -> list[int]:
    """Edges that leave the start of a loop or air path."""
    edges = [edge for edge in flow.edges_of(way) if not flow.parts[edge].endswith(LEAK)]
    return [edge for edge in edges if flow.graph.tail[edge] == flow.graph.tail[edges[0]]]


def lowest_coolant(solved: Solved, row: int, loop: str) -> float:
    return float(np.min(solved.solution.temperature[row, loop_nodes(solved, loop)]))


def loop_watts(solved: Solved, row: int, loop: str) -> float:
    """Heat that the radiators of a loop give to air: sources on its plates and pump watts."""
    flow, pattern = solved.structure.coolant, solved.network.pattern
    assert flow is not None
    total = 0.0
    for index, link in enumerate(pattern.radiators):
        if flow.circuit[link.coolant_edge] == loop:
            total += radiator_watts(solved, row, index)
    return total


def radiator_watts(solved: Solved, row: int, index: int) -> float:
    """Heat from coolant to air in one radiator, W."""
    link, solution = solved.network.pattern.radiators[index], solved.solution
    coolant, air = solved.structure.coolant, solved.structure.air
    assert coolant is not None
    assert air is not None
    T = solution.temperature[row]
    ends = []
    for flow, edge, stream in (
        (coolant, link.coolant_edge, solution.streams[0]),
        (air, link.air_edge, solution.streams[1]),
    ):
        ends.append(float(T[flow.tail_nodes[edge] if stream[row, edge] >= 0 else flow.head_nodes[edge]]))
    beside = float(solved.link_heat[row, solved.network.pattern.radiator_link(index)])
    return at_row(solution.conductance.radiators, row, index) * (ends[0] - ends[1]) + beside


def watts_put_in(solved: Solved) -> Array:
    """Watts that all sources of each row put in, (batch,); the sun is none."""
    inside = np.setdiff1d(np.arange(solved.structure.nodes), solved.network.pattern.given)
    sun = sum(solved.network.states.sun_watts().values(), np.zeros(1))
    return np.asarray(solved.solution.power[:, inside].sum(axis=1) - sun)


def zone_watts(solved: Solved, row: int, zone: str) -> float:
    """Heat that sources give to a zone's air or to the streams that come from it, W."""
    total = 0.0
    for route in solved.structure.all_routes:
        if route.zone == zone or (route.stream is not None and stream_start(solved, row, route)[0] == zone):
            total += sum(step_watts(solved, row, route, [route.layers[-1]]))
    for index, side in enumerate(solved.network.pattern.sides):
        if side.zone == solved.structure.zone_nodes[zone]:
            total += float(solved.link_heat[row, solved.network.pattern.side_link(index)])
    return total


def terraces(solved: Solved, case: int) -> list[Terrace]:
    """What several sources share: bodies, the lowest coolant of each loop, the air of each box."""
    row = solved.central(case)
    routes = solved.structure.routes
    used = {r.body or r.loop or r.zone or stream_start(solved, row, r)[0] for r in routes}
    bodies = [_body_terrace(solved, row, body) for body in solved.structure.body_nodes if body in used]
    loops = [_loop_terrace(solved, row, loop) for loop in solved.build.loops if loop.id in used]
    zones = [_zone_terrace(solved, row, zone) for zone in solved.build.zones if zone.id in used]
    return [*bodies, *loops, *zones]


def _terrace(
    solved: Solved, row: int, kind: TerraceKind, item: Part | Loop | Zone, T: float, watts: float, detail: str = ""
) -> Terrace:
    over, name = T - room_of(solved, row), item.name or item.id
    return Terrace(address=item.id, kind=kind, name=name, temperature_c=T, over_room_k=over, watts=watts, detail=detail)


def _body_terrace(solved: Solved, row: int, body: str) -> Terrace:
    T = float(solved.solution.temperature[row, solved.structure.body_nodes[body]])
    watts = sum(way.watts for way in body_ways(solved, row, body))
    return _terrace(solved, row, "body", solved.build.part(body), T, watts)


def _loop_terrace(solved: Solved, row: int, loop: Loop) -> Terrace:
    T, watts = lowest_coolant(solved, row, loop.id), loop_watts(solved, row, loop.id)
    detail = f"{l_min(float(loop_flow(solved, loop)[row])):.1f} l/min"
    return _terrace(solved, row, "coolant", loop, T, watts, detail)


def _zone_terrace(solved: Solved, row: int, zone: Zone) -> Terrace:
    T = float(solved.solution.temperature[row, solved.structure.zone_nodes[zone.id]])
    return _terrace(solved, row, "air", zone, T, zone_watts(solved, row, zone.id))
