"""What several places share: coolant of a loop, air of a zone, bodies; and the watts through each."""

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Loop
from krill.materials.fluids import coolant
from krill.networks.flow_structure import LEAK, FlowStructure
from krill.physics.properties import FluidState
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.result import Terrace
from krill.prediction.answer.route_watts import step_watts, stream_start
from krill.prediction.answer.solving import Solved, at_row, room_of
from krill.units import l_min

Array = NDArray[np.float64]


def loop_nodes(solved: Solved, loop: str) -> list[int]:
    """Heat nodes of a loop: its junctions and its elements' outlets."""
    flow = solved.structure.coolant
    assert flow is not None
    nodes: set[int] = set()
    for edge, circuit in enumerate(flow.circuit):
        if circuit == loop:
            nodes |= {int(flow.tail_nodes[edge]), int(flow.head_nodes[edge])}
            if flow.active_nodes[edge] >= 0:
                nodes.add(int(flow.active_nodes[edge]))
    return sorted(nodes)


def loop_coolant(solved: Solved, loop: Loop) -> FluidState:
    """What fills a loop at its mean temperature, (batch,)."""
    mean = np.mean(solved.solution.temperature[:, loop_nodes(solved, loop.id)], axis=1)
    return coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(mean)


def loop_flow(solved: Solved, loop: Loop) -> Array:
    """Volume flow that leaves the start of a loop, its branches added, m3/s (batch,)."""
    flow, solution = solved.structure.coolant, solved.solution.coolant
    assert flow is not None
    assert solution is not None
    mass = solution.mass_flow[:, start_edges(flow, loop.id)].sum(axis=1)
    return np.asarray(mass / loop_coolant(solved, loop).density)


def start_edges(flow: FlowStructure, way: str) -> list[int]:
    """Edges that leave the start of a loop or air path."""
    edges = [
        edge for edge, circuit in enumerate(flow.circuit) if circuit == way and not flow.parts[edge].endswith(LEAK)
    ]
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
    return at_row(solution.conductance.radiators, row, index) * (ends[0] - ends[1])


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
    """What several sources share: the lowest coolant of each loop and the air of each box."""
    row = solved.central(case)
    room = room_of(solved, row)
    found: list[Terrace] = []
    routes = solved.structure.routes
    used = {r.body or r.loop or r.zone or stream_start(solved, row, r)[0] for r in routes}
    for body, node in solved.structure.body_nodes.items():
        if body in used:
            T = float(solved.solution.temperature[row, node])
            watts = sum(way.watts for way in body_ways(solved, row, body))
            found.append(
                Terrace(
                    address=body,
                    kind="body",
                    name=solved.build.part(body).name or body,
                    temperature_c=T,
                    over_room_k=T - room,
                    watts=watts,
                    detail="",
                )
            )
    for loop in solved.build.loops:
        lowest = lowest_coolant(solved, row, loop.id)
        if loop.id in used:
            detail = f"{l_min(float(loop_flow(solved, loop)[row])):.1f} l/min"
            found.append(
                Terrace(
                    address=loop.id,
                    kind="coolant",
                    name=loop.name or loop.id,
                    temperature_c=lowest,
                    over_room_k=lowest - room,
                    watts=loop_watts(solved, row, loop.id),
                    detail=detail,
                )
            )
    for zone in solved.build.zones:
        if zone.id in used:
            T = float(solved.solution.temperature[row, solved.structure.zone_nodes[zone.id]])
            found.append(
                Terrace(
                    address=zone.id,
                    kind="air",
                    name=zone.name or zone.id,
                    temperature_c=T,
                    over_room_k=T - room,
                    watts=zone_watts(solved, row, zone.id),
                    detail="",
                )
            )
    return found
