"""Watts and temperatures along a route."""

import numpy as np
from numpy.typing import NDArray

from krill.networks.blocks import own_weight
from krill.networks.structure import Layer, PlaceRoute, layer_key
from krill.prediction.answer.solving import Solved, at_row

Array = NDArray[np.float64]


def outer_temperature(solved: Solved, row: int, route: PlaceRoute, layer: Layer) -> float:
    if layer.kind == "plate":
        return mean_coolant(solved, row, route)
    if layer.kind == "stream":
        return stream_inlet(solved, row, route)
    return float(solved.solution.temperature[row, layer.outer])


def stream_inlet(solved: Solved, row: int, route: PlaceRoute) -> float:
    """Air that enters the part which a route gives its heat to."""
    flow, edge, air = solved.structure.air, route.stream, solved.solution.air
    assert flow is not None
    assert edge is not None
    assert air is not None
    node = flow.tail_nodes[edge] if air.mass_flow[row, edge] >= 0 else flow.head_nodes[edge]
    return float(solved.solution.temperature[row, node])


def stream_start(solved: Solved, row: int, route: PlaceRoute) -> tuple[str, float]:
    """The zone that a route's air comes from, at whichever end of its path, and that zone's temperature."""
    flow, edge, air = solved.structure.air, route.stream, solved.solution.air
    assert flow is not None
    assert edge is not None
    assert air is not None
    path = next(p for p in solved.build.air_paths if p.id == flow.circuit[edge])
    zone = path.start if air.mass_flow[row, edge] >= 0 else path.end
    return zone, float(solved.solution.temperature[row, solved.structure.zone_nodes[zone]])


def step_watts(solved: Solved, row: int, route: PlaceRoute, step: list[Layer]) -> list[float]:
    """Watts through each layer of a step."""
    T = solved.solution.temperature[row]
    return [
        _layer_watts(solved, row, layer, float(T[layer.inner]) - outer_temperature(solved, row, route, layer))
        for layer in step
    ]


def _layer_watts(solved: Solved, row: int, layer: Layer, drop: float) -> float:
    pattern, G = solved.network.pattern, solved.solution.conductance
    column = pattern.column_of[layer_key(layer)]
    if layer.kind == "pipes":
        return float(solved.link_heat[row, pattern.pipe_link(column)])
    if layer.kind == "stream":
        beside = float(solved.link_heat[row, pattern.still_link(column)])
        return at_row(G.streams, row, column) * drop + beside
    of_kind = {"plate": G.plates}.get(layer.kind, G.layers)
    return at_row(of_kind, row, column) * drop


def mean_coolant(solved: Solved, row: int, route: PlaceRoute) -> float:
    """Mean coolant in the plate that a route ends in: what plates are rated on."""
    flow, edge = solved.structure.coolant, route.edge
    assert flow is not None
    assert edge is not None
    solution, column = solved.solution, solved.network.pattern.column_of[layer_key(route.layers[-1])]
    G = at_row(solution.conductance.plates, row, column)
    C = solution.streams[0][row, edge]
    own = float(own_weight(np.asarray(G), np.asarray(C)))
    T = solution.temperature[row]
    inlet = flow.tail_nodes[edge] if C >= 0 else flow.head_nodes[edge]
    return float((1 - own) * T[inlet] + own * T[flow.active_nodes[edge]])
