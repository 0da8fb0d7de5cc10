"""Loops, air paths and zones of a solution: flows, drops, temperatures, operating points."""

import numpy as np
from numpy.typing import NDArray

from krill.components.edges import Medium, MoverEdges, PipeEdges, PowerEdges, one_row
from krill.materials.fluids import coolant
from krill.networks.structure import FlowStructure
from krill.physics.atmosphere import air_density
from krill.prediction.places import loop_nodes, room_of
from krill.prediction.result import AirElement, LoopElement, LoopResult, PumpCurve, ZoneResult
from krill.prediction.solving import Solved
from krill.units import l_min, m3_h

Array = NDArray[np.float64]

CURVE_SHARES = np.linspace(0.0, 1.6, 17)


def _ends(solved: Solved, flow: FlowStructure, edge: int, row: int, mass_flow: float) -> tuple[float, float]:
    """Inlet and outlet temperature of an edge in its direction of flow."""
    tail, head = flow.graph.tail[edge], flow.graph.head[edge]
    T = solved.solution.temperature[row]
    inlet = float(T[flow.junction_nodes[tail if mass_flow >= 0 else head]])
    active = flow.active_nodes[edge]
    return inlet, float(T[active]) if active >= 0 else inlet


def loop_results(solved: Solved, case: int) -> list[LoopResult]:
    """Every loop with its elements in flow order, pump curves and the loop's own curve."""
    flow, solution, row = solved.structure.coolant, solved.solution, solved.central(case)
    if flow is None or solution.coolant is None:
        return []
    results: list[LoopResult] = []
    for loop in solved.build.loops:
        edges = [i for i, circuit in enumerate(flow.circuit) if circuit == loop.id]
        T = solution.temperature[row, loop_nodes(solved, loop.id)]
        state = coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(float(np.mean(T)))
        density = float(state.density)
        elements: list[LoopElement] = []
        for edge in edges:
            part = solved.build.part(flow.parts[edge])
            mass_flow = float(solution.coolant.mass_flow[row, edge])
            inlet, outlet = _ends(solved, flow, edge, row, mass_flow)
            elements.append({"address": part.id, "kind": part.kind, "name": part.name or part.id,
                             "flow_l_min": l_min(mass_flow / density),
                             "drop_kpa": float(solution.coolant.drop[row, edge]) / 1000,
                             "inlet_c": inlet, "outlet_c": outlet})  # fmt: skip
        mixture = loop.coolant.fluid.replace("_", " ")
        share = f" {100 * float(loop.coolant.mass_share):.0f} % by mass" if loop.coolant.mass_share else ""
        medium = Medium(np.full((1, flow.graph.edges), density), np.full((1, flow.graph.edges), float(state.viscosity)))
        results.append({"address": loop.id, "name": loop.name or loop.id, "coolant": mixture + share,
                        "flow_l_min": elements[0]["flow_l_min"], "lowest_c": float(T.min()),
                        "highest_c": float(T.max()), "elements": elements,
                        "pumps": _pump_curves(solved, row, edges, density),
                        "loop_curve": _loop_curve(solved, row, edges, medium)})  # fmt: skip
    return results


def _pump_curves(solved: Solved, row: int, edges: list[int], density: float) -> list[PumpCurve]:
    model, solution, flow = solved.network.coolant_model, solved.solution, solved.structure.coolant
    assert model is not None
    assert flow is not None
    assert solution.coolant is not None
    curves: list[PumpCurve] = []
    for group in model.groups:
        if not isinstance(group, MoverEdges):
            continue
        for column, edge in enumerate(group.columns):
            if edge not in edges:
                continue
            speed = float(solution.speeds[flow.parts[edge]][row])
            stretch = _row(group.flow_factor, row, column) * max(speed, 1e-6)
            volume = np.linspace(0.0, 1.0, 21) * float(group.curve.free_flow[column]) * stretch
            every = np.zeros((len(volume), len(group.columns)))
            every[:, column] = volume / stretch
            head = group.curve.head(every)[0][:, column] * _row(group.pressure_factor, row, column) * speed**2
            curves.append({"address": flow.parts[edge], "speed_share": speed,
                           "flow_l_min": l_min(float(solution.coolant.mass_flow[row, edge]) / density),
                           "head_kpa": -float(solution.coolant.drop[row, edge]) / 1000,
                           "points": [(l_min(float(q)), float(h) / 1000) for q, h in zip(volume, head, strict=True)]})  # fmt: skip
    return curves


def _row(values: Array, row: int, column: int) -> float:
    return float(values[row if values.shape[0] > 1 else 0, column])


def _loop_curve(solved: Solved, row: int, edges: list[int], medium: Medium) -> list[tuple[float, float]]:
    """Pressure that the loop asks for at shares of its flow, all branches scaled alike, by the power it takes."""
    model, solution = solved.network.coolant_model, solved.solution
    assert model is not None
    assert solution.coolant is not None
    m = solution.coolant.mass_flow[row : row + 1]
    main = float(m[0, edges[0]])
    if abs(main) < 1e-9:
        return []
    density = float(medium.density[0, edges[0]])
    flow, power = CURVE_SHARES[:, None] * m, np.zeros(len(CURVE_SHARES))
    for group in model.groups:
        inside = np.isin(group.columns, edges)
        if isinstance(group, PipeEdges | PowerEdges) and inside.any():
            drop, _ = one_row(group, row).drop(flow[:, group.columns], medium.take(group.columns))
            power += np.sum((drop * m[0, group.columns])[:, inside], axis=1)
    points = [
        (l_min(float(share) * main / density), float(p) / main / 1000)
        for share, p in zip(CURVE_SHARES, power, strict=True)
    ]
    return points


def air_elements(solved: Solved, case: int) -> list[AirElement]:
    """Every element of every air path with its solved flow; volume flow at the inlet's density."""
    flow, solution, row = solved.structure.air, solved.solution, solved.central(case)
    if flow is None or solution.air is None:
        return []
    pressure = float(np.broadcast_to(solved.network.states.pressure_pa, (solution.temperature.shape[0],))[row])
    found: list[AirElement] = []
    for edge, part_id in enumerate(flow.parts):
        part = solved.build.part(part_id)
        mass_flow = float(solution.air.mass_flow[row, edge])
        inlet, outlet = _ends(solved, flow, edge, row, mass_flow)
        speed = float(solution.speeds[part_id][row]) if part_id in solution.speeds else None
        found.append({"address": part_id, "kind": part.kind, "name": part.name or part_id,
                      "path": flow.circuit[edge], "airflow_m3_h": m3_h(mass_flow / float(air_density(inlet, pressure))),
                      "drop_pa": float(solution.air.drop[row, edge]), "inlet_c": inlet, "outlet_c": outlet,
                      "speed_share": speed})  # fmt: skip
    return found


def zone_results(solved: Solved, case: int) -> list[ZoneResult]:
    """Temperature and pressure of every zone; the pressure is over the outside, unknown where no air moves."""
    row, flow = solved.central(case), solved.structure.air
    room = room_of(solved, row)
    found: list[ZoneResult] = []
    for zone in solved.build.zones:
        node = solved.structure.zone_nodes[zone.id]
        T = float(solved.solution.temperature[row, node])
        pressure = None
        if flow is not None and solved.solution.air is not None and node in flow.junction_nodes:
            pressure = float(solved.solution.air.pressure[row, int(np.flatnonzero(flow.junction_nodes == node)[0])])
        found.append({"address": zone.id, "name": zone.name or zone.id, "kind": zone.kind, "temperature_c": T,
                      "over_room_k": T - room, "pressure_pa": pressure})  # fmt: skip
    return found
