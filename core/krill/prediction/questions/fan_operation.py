"""Any fan's curve against what the rest of the air network asks of it."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from krill.components.edges import EdgeGroup, ImposedFlow, Medium, MoverEdges, PipeEdges, PowerEdges, head_of, one_row
from krill.document.build import Build
from krill.errors import DocumentRefused, Problem
from krill.materials.fluids import air_viscosity
from krill.networks.flow import FlowNetwork
from krill.networks.row_status import RowStatus
from krill.physics.atmosphere import air_density
from krill.prediction.answer.circuits import air_elements
from krill.prediction.answer.result import FanOperation
from krill.prediction.answer.solving import Solved, at_row, solve_cases
from krill.prediction.predict import cases_of
from krill.units import m3_h

Array = NDArray[np.float64]

POINTS = 13
#: left of this share of its free flow an axial fan runs stalled (common practice)
STALL_SHARE = 0.35


def fan_operation(build: Build, fan: str, workload: str, room_c: float | None = None) -> FanOperation:
    """Curve, system curve and operating point of a fan in a workload.

    The system curve is the whole network solved with the fan's flow imposed, so other fans, chambers and warm columns
    are in it. DocumentRefused where the fan stands in no air path.
    """
    solved = solve_cases(build, cases_of(build, [workload], room_c))
    flow, model, solution = solved.structure.air, solved.network.air_model, solved.solution
    if flow is None or model is None or solution.air is None or fan not in flow.parts or fan not in model.movers:
        raise DocumentRefused([Problem(fan, "no fan of an air path", ", ".join(model.movers) if model else "a fan")])
    edge = flow.edge_of(fan)
    group = next(g for g in model.groups if isinstance(g, MoverEdges))
    column = list(group.columns).index(edge)
    speed = float(solution.speeds[fan][0])
    density = float(_density(solved)[0, edge])
    stretch = speed * at_row(group.flow_factor, 0, column)
    free = float(group.curve.free_flow[column]) * max(stretch, 1e-6)
    volume = np.linspace(0.0, 1.0, POINTS) * free
    head = head_of(group.curve, column, volume / max(stretch, 1e-6))
    scale = at_row(group.pressure_factor, 0, column) * density / float(at_row(group.density_ref, 0, column)) * speed**2
    asked = np.linspace(0.0, 1.15, POINTS) * max(free, 1.3 * abs(float(solution.air.mass_flow[0, edge])) / density)
    system = _system(solved, edge, asked * density)
    now = float(solution.air.mass_flow[0, edge]) / density
    elements = air_elements(solved, 0)
    path = flow.circuit[edge]
    return FanOperation(
        address=fan,
        speed_share=speed,
        rpm=speed * solved.figure(f"{fan}/rated_rpm", 0),
        airflow_m3_h=m3_h(now),
        pressure_pa=-float(solution.air.drop[0, edge]),
        stalled=bool(speed > 0.0 and now < STALL_SHARE * free),
        curve=[(m3_h(float(q)), float(scale * h)) for q, h in zip(volume, head, strict=True)],
        system=[(m3_h(float(q)), float(p)) for q, p in zip(asked, system, strict=True)],
        path=[element for element in elements if element.path == path],
    )


def _density(solved: Solved) -> Array:
    flow = solved.structure.air
    assert flow is not None
    T = solved.solution.temperature[:1, flow.tail_nodes]
    return air_density(T, solved.network.states.pressure_pa[:1, None])


def _system(solved: Solved, edge: int, mass_flow: Array) -> Array:
    """Pressure that everything but the fan asks at imposed flows, Pa."""
    flow, model, solution = solved.structure.air, solved.network.air_model, solved.solution
    assert flow is not None
    assert model is not None
    assert solution.air is not None
    groups: list[EdgeGroup] = [ImposedFlow(edge, mass_flow)]
    for group in model.groups:
        if isinstance(group, MoverEdges):
            groups += _without(model.at_speed(group, {k: v[:1] for k, v in solution.speeds.items()}), edge)
        elif isinstance(group, PipeEdges | PowerEdges):
            groups.append(one_row(group, 0))
    T = solution.temperature[:1, flow.tail_nodes]
    rows = (len(mass_flow), flow.graph.edges)
    medium = Medium(np.broadcast_to(_density(solved), rows), np.broadcast_to(air_viscosity(T), rows))
    draught = solved.network.draught(solution.temperature[:1])
    network = FlowNetwork(flow.graph, [group.columns for group in groups])
    found = network.solve(
        groups,
        medium,
        model.scale,
        np.broadcast_to(solution.air.mass_flow[:1], rows),
        None if draught is None else np.broadcast_to(draught, rows),
    )
    report = found.report
    RowStatus.after(~report.settled, lambda at: network.why_not(report, at)).must_all_settle()
    tail, head = flow.graph.tail[edge], flow.graph.head[edge]
    own = 0.0 if draught is None else float(draught[0, edge])
    return np.asarray(found.pressure[:, head] - found.pressure[:, tail] + own)


def _without(group: MoverEdges, edge: int) -> list[EdgeGroup]:
    """The other movers of a group."""
    keep = np.flatnonzero(group.columns != edge)
    if not keep.size:
        return []
    curve = group.curve
    fewer = replace(
        curve, **{f: getattr(curve, f)[keep] for f in ("knots", "pieces", "shutoff", "free_flow", "steepness")}
    )

    def columns(values: Array) -> Array:
        return values[:1, keep]

    return [
        MoverEdges(
            group.columns[keep],
            fewer,
            columns(group.speed),
            columns(group.flow_factor),
            columns(group.pressure_factor),
            columns(group.density_ref),
            columns(group.idle_slope),
        )
    ]
