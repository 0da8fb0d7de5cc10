"""Loops, air paths and zones of a solution: flows, drops, temperatures, operating points."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from krill.components.coolant_volumes import air_room_ml, grown_share, part_volumes
from krill.components.edges import MoverEdges
from krill.components.radiator import fins_in_words
from krill.document.build import AirPath, Loop
from krill.document.parts import Pump, Radiator
from krill.networks.flow_structure import LEAK, FlowStructure, owner
from krill.physics.atmosphere import air_density
from krill.prediction.answer.hydraulics import (
    junction_pressures,
    pressure_limit,
    top_of,
)
from krill.prediction.answer.result import AirElement, AirPathResult, LoopElement, LoopResult, PumpPoint, ZoneResult
from krill.prediction.answer.shared import loop_coolant, loop_flow, loop_nodes
from krill.prediction.answer.solving import Solved, at_row, drawn_band, room_of
from krill.units import l_min, m3_h

Array = NDArray[np.float64]

MIN_ELECTRIC_W = 0.05


def _ends(solved: Solved, flow: FlowStructure, edge: int, row: int, mass_flow: float) -> tuple[float, float]:
    """Inlet and outlet temperature of an edge in its direction of flow."""
    T = solved.solution.temperature[row]
    inlet = float(T[flow.tail_nodes[edge] if mass_flow >= 0 else flow.head_nodes[edge]])
    active = flow.active_nodes[edge]
    return inlet, float(T[active]) if active >= 0 else inlet


def loop_results(solved: Solved, case: int) -> list[LoopResult]:
    """Every loop with its elements in flow order and where its pumps work."""
    if solved.structure.coolant is None or solved.solution.coolant is None:
        return []
    return [_loop(solved, loop, solved.central(case)) for loop in solved.build.loops]


def _loop(solved: Solved, loop: Loop, row: int) -> LoopResult:
    flow = solved.structure.coolant
    assert flow is not None
    edges = flow.edges_of(loop.id)
    T = solved.solution.temperature[row, loop_nodes(solved, loop.id)]
    state = loop_coolant(solved, loop)
    density = float(state.density[row])
    elements = _loop_elements(solved, loop, row, edges, density)
    mixture = loop.coolant.fluid.replace("_", " ")
    share = f" {100 * float(loop.coolant.mass_share):.0f} % by mass" if loop.coolant.mass_share else ""
    fill_ml = sum(part.ml for part in part_volumes(solved.build, loop, solved.table))
    return LoopResult(
        address=loop.id,
        name=loop.name or loop.id,
        coolant=mixture + share,
        flow_l_min=l_min(float(loop_flow(solved, loop)[row])),
        flow_band_l_min=drawn_band(solved, row, l_min(loop_flow(solved, loop))),
        lowest_c=float(T.min()),
        highest_c=float(T.max()),
        highest_band_c=drawn_band(solved, row, solved.solution.temperature[:, loop_nodes(solved, loop.id)].max(axis=1)),
        fill_l=fill_ml / 1000,
        expansion_ml=fill_ml * grown_share(loop.coolant, float(T.max())),
        air_room_ml=air_room_ml(solved.build, loop, solved.table),
        highest_kpa=max(element.pressure_kpa for element in elements),
        air_collects_at=top_of(solved, loop),
        elements=elements,
        pumps=_pump_points(solved, row, loop.id, density),
    )


def _loop_elements(solved: Solved, loop: Loop, row: int, edges: list[int], density: float) -> list[LoopElement]:
    flow, solution = solved.structure.coolant, solved.solution.coolant
    assert flow is not None
    assert solution is not None
    pressures = junction_pressures(solved, loop, row, density)
    drops = solution.drop[row]
    spent = {edge: max(float(drops[edge] * solution.mass_flow[row, edge]), 0.0) for edge in edges}
    total = sum(spent.values()) or 1.0
    elements: list[LoopElement] = []
    for edge in edges:
        part = solved.build.part(flow.parts[edge])
        mass_flow = float(solution.mass_flow[row, edge])
        inlet, outlet = _ends(solved, flow, edge, row, mass_flow)
        limit = pressure_limit(solved, part)
        elements.append(
            LoopElement(
                address=part.id,
                kind=part.kind,
                name=part.name or part.id,
                flow_l_min=l_min(mass_flow / density),
                drop_kpa=float(drops[edge]) / 1000,
                share=spent[edge] / total,
                pressure_kpa=pressures[edge] / 1000,
                limit_kpa=None if limit is None else limit / 1000,
                inlet_c=inlet,
                outlet_c=outlet,
                detail=fins_in_words(part) if isinstance(part, Radiator) else "",
            )
        )
    return elements


def pumps_of(solved: Solved, loop: str) -> Iterator[tuple[Pump, MoverEdges, int]]:
    """The pumps of a loop, each with its group of edges and its column there."""
    flow, model = solved.structure.coolant, solved.network.coolant_model
    assert flow is not None
    assert model is not None
    for group in model.groups:
        if isinstance(group, MoverEdges):
            for column, edge in enumerate(group.columns):
                if flow.circuit[edge] == loop:
                    yield solved.build.part(flow.parts[edge]), group, column


def stretches(solved: Solved, group: MoverEdges, column: int, row: int, speed: float) -> tuple[float, float]:
    """Factors on the flows and pressures of a pump's rated curve at a speed, in the coolant that fills its loop."""
    flow = solved.structure.coolant
    assert flow is not None
    density = solved.coolants[flow.circuit[group.columns[column]]].density[row]
    of_head = at_row(group.pressure_factor, row, column) * density / at_row(group.density_ref, 0, column) * speed**2
    return at_row(group.flow_factor, row, column) * max(speed, 1e-6), float(of_head)


def _pump_points(solved: Solved, row: int, loop: str, density: float) -> list[PumpPoint]:
    solution = solved.solution
    assert solution.coolant is not None
    found: list[PumpPoint] = []
    for pump, group, column in pumps_of(solved, loop):
        edge, speed = group.columns[column], float(solution.speeds[pump.id][row])
        of_flow, of_head = stretches(solved, group, column, row, speed)
        through = float(solution.coolant.mass_flow[row, edge]) / density
        gained = -float(solution.coolant.drop[row, edge])
        electric = solved.sample(solved.network.states.mover_watts(pump, solution.speeds[pump.id]), row)
        found.append(
            PumpPoint(
                address=pump.id,
                speed_share=speed,
                flow_l_min=l_min(through),
                head_kpa=gained / 1000,
                shutoff_kpa=float(group.curve.shutoff[column]) * of_head / 1000,
                free_flow_l_min=l_min(float(group.curve.free_flow[column]) * of_flow),
                electric_w=electric,
                into_coolant_w=min(solved.figure(f"{pump.id}/coolant_share", row), 1.0) * electric,
                efficiency=max(gained * through, 0.0) / electric if electric > MIN_ELECTRIC_W else None,
            )
        )
    return found


def _pressure(solved: Solved, row: int) -> float:
    return solved.sample(solved.network.states.pressure_pa, row)


def air_elements(solved: Solved, case: int) -> list[AirElement]:
    """Every element of every air path with its solved flow; volume flow at the inlet's density."""
    flow, solution, row = solved.structure.air, solved.solution, solved.central(case)
    if flow is None or solution.air is None:
        return []
    pressure = _pressure(solved, row)
    found: list[AirElement] = []
    for edge, edge_name in enumerate(flow.parts):
        part = solved.build.part(owner(edge_name))
        leak = edge_name.endswith(LEAK)
        mass_flow = float(solution.air.mass_flow[row, edge])
        inlet, outlet = _ends(solved, flow, edge, row, mass_flow)
        speed = float(solution.speeds[edge_name][row]) if edge_name in solution.speeds else None
        found.append(
            AirElement(
                address=edge_name,
                kind="leak" if leak else part.kind,
                name=f"{part.name or part.id}{', leak' if leak else ''}",
                path=flow.circuit[edge],
                airflow_m3_h=m3_h(mass_flow / float(air_density(inlet, pressure))),
                drop_pa=float(solution.air.drop[row, edge]),
                inlet_c=inlet,
                outlet_c=outlet,
                speed_share=speed,
            )
        )
    return found


def path_results(solved: Solved, case: int) -> list[AirPathResult]:
    """What passes each air path, in the direction that the air goes."""
    flow, air, row = solved.structure.air, solved.solution.air, solved.central(case)
    if flow is None or air is None:
        return []
    return [_path(solved, path, flow, air.mass_flow[row], row) for path in solved.build.air_paths]


def _path(solved: Solved, path: AirPath, flow: FlowStructure, mass_flow: Array, row: int) -> AirPathResult:
    """The flow of a path is what leaves its start: branches beside each other at the start add up."""
    edges = [edge for edge in flow.edges_of(path.id) if not flow.parts[edge].endswith(LEAK)]
    first, last = flow.graph.tail[edges[0]], flow.graph.head[edges[-1]]
    starts = [e for e in edges if flow.graph.tail[e] == first]
    ends = [e for e in edges if flow.graph.head[e] == last]
    total = float(sum(mass_flow[e] for e in starts))
    inlet = _ends(solved, flow, starts[0], row, total)[0] if total >= 0 else _ends(solved, flow, ends[0], row, total)[0]
    leaving = ends if total >= 0 else starts
    weight = float(sum(abs(mass_flow[e]) for e in leaving)) or 1.0
    outlet = sum(abs(float(mass_flow[e])) * _ends(solved, flow, e, row, total)[1] for e in leaving) / weight
    zones = (path.start, path.end) if total >= 0 else (path.end, path.start)
    return AirPathResult(
        address=path.id,
        name=path.name or path.id,
        from_zone=zones[0],
        to_zone=zones[1],
        airflow_m3_h=m3_h(abs(total) / float(air_density(inlet, _pressure(solved, row)))),
        inlet_c=inlet,
        outlet_c=outlet if weight > 1e-9 else inlet,
        drawn_again_share=_drawn_again(solved, path),
    )


def _drawn_again(solved: Solved, path: AirPath) -> float | None:
    """The central share of a path's air that an exhaust ends with; None where none is drawn again."""
    found = [mix for mix in solved.build.recirculations if mix.intake == path.id]
    return float(solved.table.figures[f"{found[0].id}/recirculated_share"].value) if found else None


def zone_results(solved: Solved, case: int) -> list[ZoneResult]:
    """Temperature, pressure over the outside and through-flow of every zone; unknown where no air moves."""
    row, flow, air = solved.central(case), solved.structure.air, solved.solution.air
    room = room_of(solved, row)
    found: list[ZoneResult] = []
    for zone in solved.build.zones:
        node = solved.structure.zone_nodes[zone.id]
        T = float(solved.solution.temperature[row, node])
        pressure = velocity = entering = None
        if flow is not None and air is not None and node in flow.junction_nodes:
            junction = int(np.flatnonzero(flow.junction_nodes == node)[0])
            pressure = float(air.pressure[row, junction])
            volume = air.mass_flow / float(air_density(T, _pressure(solved, row)))
            into = (flow.graph.head == junction).astype(float) - (flow.graph.tail == junction)
            entering = m3_h(float(np.sum(np.maximum(into * volume[row], 0.0))))
            mean = solved.network.conductances.zone_air.velocity(zone.id, volume)
            velocity = None if mean is None else float(mean[row])
        found.append(
            ZoneResult(
                address=zone.id,
                name=zone.name or zone.id,
                kind=zone.kind,
                temperature_c=T,
                band_c=drawn_band(solved, row, solved.solution.temperature[:, node]),
                over_room_k=T - room,
                pressure_pa=pressure,
                velocity_m_s=velocity,
                in_m3_h=entering,
            )
        )
    return found
