"""Drops of a route, hop by hop from its place to the room: they add up exactly."""

import numpy as np
from numpy.typing import NDArray

from krill.networks.structure import PlaceRoute
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.hop_laws import layer_law
from krill.prediction.answer.origins import body_origin, layer_origin
from krill.prediction.answer.result import HopDrop, Law
from krill.prediction.answer.route_watts import mean_coolant, outer_temperature, step_watts, stream_inlet, stream_start
from krill.prediction.answer.shared import loop_watts, lowest_coolant, zone_watts
from krill.prediction.answer.solving import Solved, room_of

Array = NDArray[np.float64]


class _Told:
    """Hops as they are told one after the other, each with its share of the whole rise."""

    def __init__(self, rise: float) -> None:
        self.rise = max(rise, 1e-9)
        self.hops: list[HopDrop] = []

    def add(
        self, address: str, name: str, kind: str, drop: float, watts: float, origin: str = "", law: Law | None = None
    ) -> None:
        share = drop / self.rise
        self.hops.append(
            HopDrop(
                address=address, name=name, kind=kind, drop_k=drop, watts=watts, share=share, origin=origin, law=law
            )
        )


def route_hops(solved: Solved, row: int, route: PlaceRoute) -> list[HopDrop]:
    """Drops from the place to the room; they add up to its temperature over the room exactly."""
    hottest = solved.solution.temperature[row, solved.structure.node_of[route.place.id]]
    told = _Told(float(hottest) - room_of(solved, row))
    _layer_hops(solved, row, route, told)
    if route.body is not None:
        _body_hops(solved, row, route.body, told)
    elif route.loop is not None:
        _coolant_hops(solved, row, route, route.loop, told)
    elif route.stream is not None:
        _stream_hops(solved, row, route, told)
    elif route.zone is not None:
        _zone_hop(solved, row, route.zone, told)
    return told.hops


def _layer_hops(solved: Solved, row: int, route: PlaceRoute, told: _Told) -> None:
    """Every layer of the route; side by side ones as one step, weighed by their watts."""
    T = solved.solution.temperature[row]
    weights: list[float] = []
    for step in route.steps:
        each = step_watts(solved, row, route, step)
        if step[0].kind == "contact":  # what comes through one contact leaves through others, too
            each = weights if len(weights) == len(step) else [sum(weights) or _place_watts(solved, row, route)]
        weights = each
        whole = sum(each)
        parts = [w / whole for w in each] if abs(whole) > 1e-12 else [1.0 / len(step)] * len(step)
        drop = sum(
            part * (float(T[layer.inner]) - outer_temperature(solved, row, route, layer))
            for part, layer in zip(parts, step, strict=True)
        )
        first = step[0]
        origin = layer_origin(solved.table, route.place, first)
        told.add(first.address, first.name, first.kind, drop, whole, origin, layer_law(solved, first))


def _coolant_hops(solved: Solved, row: int, route: PlaceRoute, loop: str, told: _Told) -> None:
    """The coolant here over the coldest of its loop, and that over the room."""
    lowest, watts = lowest_coolant(solved, row, loop), loop_watts(solved, row, loop)
    here = mean_coolant(solved, row, route) - lowest
    told.add(f"{route.place.id}/coolant-here", "Coolant here", "coolant", here, watts)
    told.add(f"{loop}/over-room", "Coolant over room", "shared", lowest - room_of(solved, row), watts)


def _zone_hop(solved: Solved, row: int, zone: str, told: _Told) -> None:
    air = float(solved.solution.temperature[row, solved.structure.zone_nodes[zone]])
    over = air - room_of(solved, row)
    told.add(f"{zone}/over-room", "Air over room", "shared", over, zone_watts(solved, row, zone))


def _place_watts(solved: Solved, row: int, route: PlaceRoute) -> float:
    return float(solved.solution.power[row, solved.structure.node_of[route.place.id]])


def _body_hops(solved: Solved, row: int, body: str, told: _Told) -> None:
    """A body over the air that takes most of its heat, and that air over the room."""
    T, room = solved.solution.temperature[row], room_of(solved, row)
    ways = body_ways(solved, row, body)
    main = max(ways, key=lambda way: (way.side in ("outside", "stream"), way.side == "inside", way.watts))
    part = solved.build.part(body)
    name = f"{part.name or body} over its air"
    temperature = float(T[solved.structure.body_nodes[body]])
    told.add(
        f"{body}/over-air",
        name,
        "body",
        temperature - main.air_c,
        sum(w.watts for w in ways),
        body_origin(solved.table, body),
        main.law,
    )
    if abs(main.air_c - room) > 1e-9:
        told.add(f"{main.air}/over-room", "Air over room", "shared", main.air_c - room, main.watts)


def _stream_hops(solved: Solved, row: int, route: PlaceRoute, told: _Told) -> None:
    """What warmed the air before it came to the part, and where it came from."""
    zone, start = stream_start(solved, row, route)
    inlet, room = stream_inlet(solved, row, route), room_of(solved, row)
    watts = float(solved.solution.power[row, solved.structure.node_of[route.place.id]])
    told.add(f"{route.place.id}/air-here", "Air here", "air-here", inlet - start, watts)
    told.add(f"{zone}/over-room", "Air over room", "shared", start - room, watts)
