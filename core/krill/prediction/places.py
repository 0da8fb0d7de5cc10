"""Temperatures, margins and drops of every place, and the terraces that they stand on."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from krill.document.figures import detail
from krill.document.parts import Place
from krill.networks.pattern import own_weight
from krill.networks.structure import Layer, PlaceRoute, steps_of
from krill.numerics.sampling import band_90
from krill.prediction.bodies import body_ways
from krill.prediction.hop_laws import layer_law
from krill.prediction.result import Band, HopDrop, Law, PlaceResult, SideWay, Status, Terrace
from krill.prediction.solving import Solved
from krill.units import l_min

Array = NDArray[np.float64]

GUESSES = ("estimate", "rule_of_thumb", "class")


def place_results(solved: Solved, case: int) -> list[PlaceResult]:
    """One result for each route of the build, in its order."""
    return [_place(solved, case, route) for route in solved.structure.routes]


def room_of(solved: Solved, row: int) -> float:
    """Temperature of the first outside zone: what "over room" refers to."""
    return float(solved.solution.temperature[row, solved.network.pattern.given[0]])


def _place(solved: Solved, case: int, route: PlaceRoute) -> PlaceResult:
    row = solved.central(case)
    node = solved.structure.node_names.index(route.place.id)
    temperature = float(solved.solution.temperature[row, node])
    band = _band(solved, case, route.place.id)
    limit_kind, limit_c = lowest_limit(route.place)
    margin = None if limit_c is None else limit_c - temperature
    margin_band: Band | None = None
    if limit_c is not None and band is not None:
        margin_band = {"low": limit_c - band["high"], "high": limit_c - band["low"]}
    status, because = status_of(margin, margin_band, float(solved.build.brief.margin_wanted_k))
    hops = _hops(solved, row, route)
    return {
        "address": route.place.id,
        "name": route.place.name or route.place.id,
        "source": route.source,
        "watts": float(solved.solution.power[row, node]),
        "temperature_c": temperature,
        "temperature_kind": route.place.temperature_kind,
        "over_room_k": temperature - room_of(solved, row),
        "band_c": band,
        "limit_kind": limit_kind,
        "limit_c": limit_c,
        "margin_k": margin,
        "margin_band_k": margin_band,
        "status": status,
        "because": because,
        "terrace": route.body
        or route.loop
        or route.zone
        or (stream_start(solved, row, route)[0] if route.stream is not None else ""),
        "hops": hops,
        "side_ways": _side_ways(solved, row, route.place.id),
    }


def _side_ways(solved: Solved, row: int, place: str) -> list[SideWay]:
    """What leaves a place beside its named way."""
    found: list[SideWay] = []
    for other in solved.structure.side_routes:
        if other.place.id == place:
            first = steps_of(other)[0]
            watts = sum(step_watts(solved, row, other, first))
            found.append({"address": other.layers[-1].address, "name": other.layers[-1].name, "watts": watts})
    return found


def _band(solved: Solved, case: int, place: str) -> Band | None:
    if solved.samples == 0:
        return None
    low, high = band_90(solved.place_samples(case, place))
    return {"low": float(low), "high": float(high)}


def lowest_limit(place: Place) -> tuple[str | None, float | None]:
    """The limit that is reached first."""
    limits = [(float(detail(x.at_c).value), x.kind) for x in place.limits]
    if not limits:
        return None, None
    at, kind = min(limits)
    return kind, at


def status_of(margin: float | None, band: Band | None, wanted: float) -> tuple[Status, str]:
    """holds: lower end of the margin's band reaches the margin wanted; too hot: the whole band is over the limit."""
    if margin is None:
        return "unknown", "no limit is given for this part"
    low, high = (margin, margin) if band is None else (band["low"], band["high"])
    if low >= wanted:
        return "holds", f"at least {low:.1f} K are left, {wanted:g} K are wanted"
    if high < 0:
        return "too hot", f"even the upper end of the band is {-high:.1f} K over the limit"
    return "tight", f"the lower end of the margin is {low:.1f} K, {wanted:g} K are wanted".replace("-", "−")


def _hops(solved: Solved, row: int, route: PlaceRoute) -> list[HopDrop]:
    """Drops from the place to the room; they add up to its temperature over the room exactly."""
    T = solved.solution.temperature[row]
    room = room_of(solved, row)
    total = max(float(T[solved.structure.node_names.index(route.place.id)]) - room, 1e-9)
    hops: list[HopDrop] = []

    def add(address: str, name: str, kind: str, drop: float, watts: float, origin: str, law: Law | None = None) -> None:
        hops.append(
            {"address": address, "name": name, "kind": kind, "drop_k": drop, "watts": watts, "share": drop / total,
             "origin": origin, "law": law}
        )  # fmt: skip

    weights: list[float] = []
    for step in steps_of(route):
        each = step_watts(solved, row, route, step)
        if step[0].kind == "contact":  # what comes through one contact leaves through others, too
            each = weights if len(weights) == len(step) else [sum(weights) or _place_watts(solved, row, route)]
        weights = each
        whole = sum(each)
        parts = [w / whole for w in each] if abs(whole) > 1e-12 else [1.0 / len(step)] * len(step)
        drop = sum(
            part * (float(T[layer.inner]) - _outer_temperature(solved, row, route, layer))
            for part, layer in zip(parts, step, strict=True)
        )
        add(step[0].address, step[0].name, step[0].kind, drop, whole, layer_origin(solved, route.place, step[0]),
            layer_law(solved, step[0]))  # fmt: skip
    if route.body is not None:
        _body_hops(solved, row, route.body, add)
    elif route.loop is not None:
        lowest = lowest_coolant(solved, row, route.loop)
        watts = loop_watts(solved, row, route.loop)
        add(f"{route.place.id}/coolant-here", "Coolant here", "coolant", _mean_coolant(solved, row, route) - lowest,
            watts, "")  # fmt: skip
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
    main = max(ways, key=lambda way: (way["side"] in ("outside", "stream"), way["side"] == "inside", way["watts"]))
    part = solved.build.part(body)
    name = f"{part.name or body} over its air"
    temperature = float(T[solved.structure.body_nodes[body]])
    add(f"{body}/over-air", name, "body", temperature - main["air_c"], sum(w["watts"] for w in ways),
        body_origin(solved, body), main["law"])  # fmt: skip
    if abs(main["air_c"] - room) > 1e-9:
        add(f"{main['air']}/over-room", "Air over room", "shared", main["air_c"] - room, main["watts"], "")


def _outer_temperature(solved: Solved, row: int, route: PlaceRoute, layer: Layer) -> float:
    if layer.kind == "plate":
        return _mean_coolant(solved, row, route)
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


def _stream_hops(solved: Solved, row: int, route: PlaceRoute, add: Callable[..., None]) -> None:
    """What warmed the air before it came to the part, and where it came from."""
    zone, start = stream_start(solved, row, route)
    inlet, room = stream_inlet(solved, row, route), room_of(solved, row)
    watts = float(solved.solution.power[row, solved.structure.node_names.index(route.place.id)])
    add(f"{route.place.id}/air-here", "Air here", "air-here", inlet - start, watts, "")
    add(f"{zone}/over-room", "Air over room", "shared", start - room, watts, "")


def step_watts(solved: Solved, row: int, route: PlaceRoute, step: list[Layer]) -> list[float]:
    """Watts through each layer of a step."""
    T = solved.solution.temperature[row]
    drops = [float(T[layer.inner]) - _outer_temperature(solved, row, route, layer) for layer in step]
    return [_layer_watts(solved, row, route, layer, drop) for layer, drop in zip(step, drops, strict=True)]


def _layer_watts(solved: Solved, row: int, route: PlaceRoute, layer: Layer, drop: float) -> float:
    pattern, G = solved.network.pattern, solved.solution.conductance
    if layer.kind == "pipes":
        index = next(i for i, link in enumerate(pattern.pipes) if link.layer is layer)
        return float(solved.link_heat[row, len(pattern.walls) + len(pattern.sides) + index])
    if layer.kind == "plate":
        index = next(i for i, hop in enumerate(pattern.plates) if hop.route is route)
        return at_row(G.plates, row, index) * drop
    if layer.kind == "stream":
        index = next(i for i, stream in enumerate(pattern.streams) if stream.route is route)
        return at_row(G.streams, row, index) * drop
    index = next(i for i, (_, other) in enumerate(pattern.layers) if other is layer)
    return at_row(G.layers, row, index) * drop


def at_row(values: Array, row: int, column: int) -> float:
    """One figure of an array (batch or 1, item)."""
    return float(values[row if values.shape[0] > 1 else 0, column])


_LAYER_FIELDS = {
    "hot_core": ("hot_core_mm2k_w", "chip_area_mm2"),
    "package": ("package_k_w",),
    "chip": ("chip_mm2k_w", "chip_area_mm2"),
    "joint": ("joint_mm2k_w", "chip_area_mm2"),
    "lid": ("lid_area_mm2", "lid_thickness_mm"),
}


def layer_addresses(solved: Solved, place: Place, layer: Layer) -> list[str]:
    """Addresses of the figures that a layer's resistance comes from."""
    if layer.hop is None:
        return [f"{place.id}/{field}" for field in _LAYER_FIELDS[layer.kind]]
    owner = layer.part or layer.hop.part or layer.hop.id
    return [
        address
        for address in solved.table.by_owner.get(owner, [])
        if address.split("/")[1].endswith(("mm2k_w", "k_w", "coverage", "factor", "w_mk", "thickness_mm", "base_mm"))
    ]


def body_origin(solved: Solved, body: str) -> str:
    """The weakest origin among the figures that decide what a body gives off."""
    fields = ("emissivity", "factor", "fin_height_mm", "fin_pitch_mm", "width_mm")
    found = [
        solved.table.figures[f"{body}/{field}"].origin for field in fields if f"{body}/{field}" in solved.table.figures
    ]
    return next((origin for origin in GUESSES if origin in found), "class")


def layer_origin(solved: Solved, place: Place, layer: Layer) -> str:
    """The weakest origin among the figures of a layer."""
    origins = [
        solved.table.figures[address].origin
        for address in layer_addresses(solved, place, layer)
        if address in solved.table.figures
    ]
    return next((origin for origin in GUESSES if origin in origins), origins[0] if origins else "class")


def _mean_coolant(solved: Solved, row: int, route: PlaceRoute) -> float:
    """Mean coolant in the plate that a route ends in: what plates are rated on."""
    flow, edge = solved.structure.coolant, route.edge
    assert flow is not None
    assert edge is not None
    pattern, solution = solved.network.pattern, solved.solution
    index = next(i for i, hop in enumerate(pattern.plates) if hop.route is route)
    G = at_row(solution.conductance.plates, row, index)
    C = solution.streams[0][row, edge]
    own = float(own_weight(np.asarray(G), np.asarray(C)))
    T = solution.temperature[row]
    inlet = flow.tail_nodes[edge] if C >= 0 else flow.head_nodes[edge]
    return float((1 - own) * T[inlet] + own * T[flow.active_nodes[edge]])


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
            total += float(solved.link_heat[row, len(solved.network.pattern.walls) + index])
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
            watts = sum(way["watts"] for way in body_ways(solved, row, body))
            found.append({"address": body, "kind": "body", "name": solved.build.part(body).name or body, "temperature_c": T,
                          "over_room_k": T - room, "watts": watts, "detail": ""})  # fmt: skip
    for loop in solved.build.loops:
        lowest = lowest_coolant(solved, row, loop.id)
        if loop.id in used:
            detail = f"{l_min(_loop_flow(solved, row, loop.id)):.1f} l/min"
            found.append({"address": loop.id, "kind": "coolant", "name": loop.name or loop.id, "temperature_c": lowest,
                          "over_room_k": lowest - room, "watts": loop_watts(solved, row, loop.id), "detail": detail})  # fmt: skip
    for zone in solved.build.zones:
        if zone.id in used:
            T = float(solved.solution.temperature[row, solved.structure.zone_nodes[zone.id]])
            found.append({"address": zone.id, "kind": "air", "name": zone.name or zone.id, "temperature_c": T,
                          "over_room_k": T - room, "watts": zone_watts(solved, row, zone.id), "detail": ""})  # fmt: skip
    return found


def _loop_flow(solved: Solved, row: int, loop: str) -> float:
    """Volume flow through a loop's first edge, m3/s."""
    flow, solution = solved.structure.coolant, solved.solution
    assert flow is not None
    assert solution.coolant is not None
    first = flow.circuit.index(loop)
    return float(solution.coolant.mass_flow[row, first]) / 1000.0
