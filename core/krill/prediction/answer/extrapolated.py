"""Kelvins of a place's rise that stand on a law outside the range it was made for, at the central figures."""

from typing import Final

from krill.components.law_doubt import UNPUBLISHED
from krill.document.geometry import stand_of
from krill.document.solids import Sink
from krill.networks.structure import Layer, PlaceRoute
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.solving import Solved
from krill.units import l_min

#: l/min through a plate, share of a cooler's rated air flow, C of a pipe's vapour, m/s past bare parts: where their laws hold
PLATE_L_MIN: Final = (0.3, 6.0)
COOLER_SHARE: Final = (0.05, 2.0)
VAPOUR_C: Final = (20.0, 150.0)
MOVING_M_S: Final = (0.0, 3.0)


def beyond(value: float, valid: tuple[float, float]) -> bool:
    """Whether a figure lies outside a law's range."""
    return not valid[0] <= value <= valid[1]


def extrapolated_k(solved: Solved, case: int, route: PlaceRoute) -> float:
    """What the laws used outside their range carry of a place's rise: hops, and sides of the body that it ends in."""
    row = solved.central(case)
    T = solved.solution.temperature[row]
    hops = [
        abs(float(T[layer.inner] - T[layer.outer]))
        for layer in route.layers
        if layer.kind in ("plate", "stream", "air", "pipes") and _layer_beyond(solved, row, route, layer)
    ]
    return sum(hops) + (_body_k(solved, row, route.body) if route.body is not None else 0.0)


def _layer_beyond(solved: Solved, row: int, route: PlaceRoute, layer: Layer) -> bool:
    if layer.kind == "plate":
        return beyond(_plate_flow(solved, row, route), PLATE_L_MIN)
    if layer.kind == "stream":
        share = _share_of_rated(solved, row, route.stream)
        return share is not None and beyond(share, COOLER_SHARE)
    if layer.kind == "air":
        speed = _speed_past(solved, row, route.zone)
        return speed is not None and beyond(speed, MOVING_M_S)
    T = solved.solution.temperature[row]
    return any(
        beyond(float(link.vapour(T)), VAPOUR_C)
        for link in solved.network.pattern.pipes
        if link.layer.inner == layer.inner
    )


def _plate_flow(solved: Solved, row: int, route: PlaceRoute) -> float:
    flow = solved.solution.coolant
    if flow is None or route.loop is None or route.edge is None:
        return 0.0
    density = float(solved.coolants[route.loop].density[row])
    return l_min(abs(float(flow.mass_flow[row, route.edge])) / density)


def _share_of_rated(solved: Solved, row: int, edge: int | None) -> float | None:
    """Air through a cooler over its rated flow; None where nothing rates it."""
    flow, volume = solved.structure.air, solved.solution.air_volume
    if edge is None or flow is None or volume is None:
        return None
    rated = solved.figure(f"{flow.parts[edge]}/rated_airflow_m3_h", row, 0.0)
    return abs(float(volume[row, edge])) / rated if rated else None


def _speed_past(solved: Solved, row: int, zone: str | None) -> float | None:
    volume = solved.solution.air_volume
    if zone is None or volume is None:
        return None
    speed = solved.network.conductances.zone_air.velocity(zone, volume)
    return None if speed is None else float(speed[row])


def _body_k(solved: Solved, row: int, body: str) -> float:
    """Of a body's rise over what it stands in: the part that sides outside their law's range carry.

    The doubt of fins that no published law is made for is drawn with them.
    """
    part = solved.build.part(body)
    drawn = isinstance(part, Sink) and stand_of(solved.build, part) in UNPUBLISHED
    ways = [way for way in body_ways(solved, row, body) if not (drawn and way.side == "outside")]
    whole = sum(abs(way.watts) for way in ways) or 1.0
    face_c = float(solved.solution.temperature[row, solved.structure.body_nodes[body]])
    return sum(abs(way.watts) / whole * abs(face_c - way.air_c) for way in ways if not way.law.inside)
