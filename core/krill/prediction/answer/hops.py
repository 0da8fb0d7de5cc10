"""Drops of a route, hop by hop from its place to the room: they add up exactly."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from krill.networks.structure import PlaceRoute, steps_of
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.hop_laws import layer_law
from krill.prediction.answer.origins import body_origin, layer_origin
from krill.prediction.answer.result import HopDrop, Law
from krill.prediction.answer.route_watts import mean_coolant, outer_temperature, step_watts, stream_inlet, stream_start
from krill.prediction.answer.shared import loop_watts, lowest_coolant, zone_watts
from krill.prediction.answer.solving import Solved, room_of

Array = NDArray[np.float64]


def route_hops(solved: Solved, row: int, route: PlaceRoute) -> list[HopDrop]:
    """Drops from the place to the room; they add up to its temperature over the room exactly."""
    T = solved.solution.temperature[row]
    room = room_of(solved, row)
    total = max(float(T[solved.structure.node_names.index(route.place.id)]) - room, 1e-9)
    hops: list[HopDrop] = []

    def add(address: str, name: str, kind: str, drop: float, watts: float, origin: str, law: Law | None = None) -> None:
        hops.append(
            HopDrop(
                address=address,
                name=name,
                kind=kind,
                drop_k=drop,
                watts=watts,
                share=drop / total,
                origin=origin,
                law=law,
            )
        )

    weights: list[float] = []
    for step in steps_of(route):
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
        add(
            step[0].address,
            step[0].name,
            step[0].kind,
            drop,
            whole,
            layer_origin(solved, route.place, step[0]),
            layer_law(solved, step[0]),
        )
    if route.body is not None:
        _body_hops(solved, row, route.body, add)
    elif route.loop is not None:
        lowest = lowest_coolant(solved, row, route.loop)
        watts = loop_watts(solved, row, route.loop)
        add(
            f"{route.place.id}/coolant-here",
            "Coolant here",
            "coolant",
            mean_coolant(solved, row, route) - lowest,
            watts,
            "",
        )
        add(f"{route.loop}/over-room", "Coolant over room", "shared", lowest - room, watts, "")
    elif route.stream is not None:
        _stream_hops(solved, row, route, add)
    elif route.zone is not None:
        zone = float(T[solved.structure.zone_nodes[route.zone]])
        add(f"{route.zone}/over-room", "Air over room", "shared", zone - room, zone_watts(solved, row, route.zone), "")
    return hops


def _place_watts(solved: Solved, row: int, route: PlaceRoute) -> float:
    return float(solved.solution.power[row, solved.structure.node_names.index(route.place.id)])


def _body_hops(solved: Solved, row: int, body: str, add: Callable[..., None]) -> None:
    """A body over the air that takes most of its heat, and that air over the room."""
    T, room = solved.solution.temperature[row], room_of(solved, row)
    ways = body_ways(solved, row, body)
    main = max(ways, key=lambda way: (way.side in ("outside", "stream"), way.side == "inside", way.watts))
    part = solved.build.part(body)
    name = f"{part.name or body} over its air"
    temperature = float(T[solved.structure.body_nodes[body]])
    add(
        f"{body}/over-air",
        name,
        "body",
        temperature - main.air_c,
        sum(w.watts for w in ways),
        body_origin(solved, body),
        main.law,
    )
    if abs(main.air_c - room) > 1e-9:
        add(f"{main.air}/over-room", "Air over room", "shared", main.air_c - room, main.watts, "")


def _stream_hops(solved: Solved, row: int, route: PlaceRoute, add: Callable[..., None]) -> None:
    """What warmed the air before it came to the part, and where it came from."""
    zone, start = stream_start(solved, row, route)
    inlet, room = stream_inlet(solved, row, route), room_of(solved, row)
    watts = float(solved.solution.power[row, solved.structure.node_names.index(route.place.id)])
    add(f"{route.place.id}/air-here", "Air here", "air-here", inlet - start, watts, "")
    add(f"{zone}/over-room", "Air over room", "shared", start - room, watts, "")
