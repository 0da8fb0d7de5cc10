"""Sinks, panels and heat pipes of a solved build: where their heat goes, how warm they are to touch, what is left."""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.materials import mass_of, touch_limit
from krill.components.flat_faces import OTHER_SIDE, film_number
from krill.components.heat_pipes import DRY_SHARE, WALL_SHARE, WICK_M, PipeGroup, PipeLimits, pipe_limits
from krill.components.panels import side_loss
from krill.components.radiator_table import REFERENCE_AIR
from krill.components.sinks import driven_loss, still_loss
from krill.document.geometry import stand_of
from krill.document.solids import Lie, Panel, Sink
from krill.networks.bodies import BodyModel
from krill.networks.pattern import BodySide, PipeLink
from krill.physics.conduction import fin_efficiency
from krill.physics.correlation import REGISTRY
from krill.prediction.answer.hop_laws import driven_law, seam_law, still_law
from krill.prediction.answer.result import BodyResult, BodyWay, PipeLimit, PipeResult, TouchCheck
from krill.prediction.answer.solving import Solved, drawn_band

Array = NDArray[np.float64]
#: from this share of its limit a pipe is called near it
NEAR_LIMIT = 0.8
_PLATE_LAW: dict[Lie, tuple[str, str]] = {
    "vertical": ("nusselt_vertical_plate", "rayleigh_on_height"),
    "facing_up": ("nusselt_facing_up", "rayleigh_on_area"),
    "facing_down": ("nusselt_facing_down", "rayleigh_on_area"),
}


def at(value: Array, row: int) -> float:
    """A figure of one sample, of an array (batch,) or a scalar."""
    flat = np.atleast_1d(value)
    return float(flat[row if flat.shape[0] > 1 else 0])


def body_results(solved: Solved, case: int) -> list[BodyResult]:
    """Every sink and panel of the build in its order."""
    row = solved.central(case)
    return [_body(solved, row, model) for model in solved.network.conductances.bodies.values()]


def _body(solved: Solved, row: int, model: BodyModel) -> BodyResult:
    part, T = model.part, solved.solution.temperature[row]
    node = solved.structure.body_nodes[part.id]
    room = float(T[solved.network.pattern.given[0]])
    ways = body_ways(solved, row, part.id)
    nodes = [node, *(contact.node for contact in model.contacts)]
    hottest = float(T[nodes].max())
    hottest_band = drawn_band(solved, row, solved.solution.temperature[:, nodes].max(axis=1))
    fins = model.fins
    efficiency = None
    if fins is not None:
        film = max((way.film_w_m2k for way in ways if way.side in ("outside", "stream")), default=0.0)
        efficiency = fin_share(solved, row, part.id, film)
    return BodyResult(
        address=part.id,
        name=part.name or part.id,
        kind="sink" if isinstance(part, Sink) else "panel",
        stands=stand_of(solved.build, part) if isinstance(part, Sink) else model.lie,
        temperature_c=float(T[node]),
        over_room_k=float(T[node]) - room,
        hottest_c=hottest,
        hottest_band_c=hottest_band,
        watts=sum(way.watts for way in ways),
        fins=None if fins is None else at(fins.count, row),
        spacing_mm=None if fins is None else 1000 * at(fins.spacing, row),
        fin_efficiency=efficiency,
        mass_g=1000 * mass_of(part.material, at(fins.metal_volume if fins else model.back.metal_volume, row)),
        emissivity=at(model.back.emissivity, row),
        width_mm=1000 * at(model.back.width, row),
        height_mm=1000 * at(model.back.height, row),
        base_mm=1000 * at(model.back.thickness, row),
        fin_height_mm=None if fins is None else 1000 * at(fins.height, row),
        fin_thickness_mm=None if fins is None else 1000 * at(fins.thickness, row),
        ways=ways,
        touch=_touch(part, hottest if hottest_band is None else hottest_band.high),
    )


def fin_share(solved: Solved, row: int, body: str, film: float) -> float:
    """Efficiency of a sink's fins at a film, W/m2K."""
    fins = solved.network.conductances.bodies[body].fins
    assert fins is not None
    return at(fin_efficiency(film, fins.conductivity, fins.thickness, fins.height + fins.thickness / 2), row)


def _touch(part: Sink | Panel, hottest: float) -> TouchCheck | None:
    """A face holds where the upper end of its band does: a hand knows no middle."""
    if part.touched_for is None:
        return None
    limit = touch_limit(part.material, part.touched_for)
    says: Literal["holds", "too hot", "unknown"] = "unknown"
    if limit is not None:
        says = "holds" if hottest <= limit else "too hot"
    return TouchCheck(contact=part.touched_for, limit_c=limit, says=says)


def body_ways(solved: Solved, row: int, body: str) -> list[BodyWay]:
    """What each side of a body gives to its air."""
    model, T = solved.network.conductances.bodies[body], solved.solution.temperature[row]
    node = solved.structure.body_nodes[body]
    zone_of = {number: zone for zone, number in solved.structure.zone_nodes.items()}
    ways = [
        _still_way(solved, row, model, side, zone_of[side.zone], float(T[node]), float(T[side.zone]))
        for side in solved.network.pattern.sides
        if side.body.id == body
    ]
    return ways + _driven_ways(solved, row, model) + _joined_ways(solved, row, body)


def _joined_ways(solved: Solved, row: int, body: str) -> list[BodyWay]:
    """What goes over seams into other bodies."""
    T, nodes = solved.solution.temperature[row], solved.structure.body_nodes
    bonds = solved.network.conductances.bonds
    found: list[BodyWay] = []
    for index, bond in enumerate(solved.build.bonds):
        if body not in (bond.first, bond.second):
            continue
        other = bond.second if body == bond.first else bond.first
        watts = at(bonds[:, index], row) * float(T[nodes[body]] - T[nodes[other]])
        found.append(
            BodyWay(
                side="joined",
                air=other,
                air_c=float(T[nodes[other]]),
                watts=watts,
                convection_w=0.0,
                radiation_w=0.0,
                film_w_m2k=0.0,
                law=seam_law(),
            )
        )
    return found


def _still_way(
    solved: Solved, row: int, model: BodyModel, of_body: BodySide, zone: str, face_c: float, air_c: float
) -> BodyWay:
    side, moving = of_body.side, solved.network.conductances.moving_past(of_body, solved.solution.air)
    velocity = None if moving is None else np.asarray(at(moving, row))
    pressure = solved.network.states.pressure_pa[row]
    face, air, dT = np.asarray(face_c), np.asarray(air_c), face_c - air_c
    if side == "outside" and model.fins is not None:
        loss = still_loss(model.fins, face, air, pressure)
        law = still_law(model.fins.stand, bool(np.atleast_1d(loss.inside)[0]))
        convection, radiation, film = at(loss.channels + loss.flanks, row), at(loss.radiation, row), at(loss.film, row)
    else:
        flat = side_loss(model.back, side, face, air, pressure, velocity)
        convection, radiation = at(flat.convection, row), at(flat.radiation, row)
        film = convection / at(model.back.area, row)
        lie: Lie = model.lie if side == "outside" else OTHER_SIDE[model.lie]
        law = still_law(lie, _plate_inside(model, row, lie, face, air))
    return BodyWay(
        side="outside" if side == "outside" else "inside",
        air=zone,
        air_c=air_c,
        watts=(convection + radiation) * dT,
        convection_w=convection * dT,
        radiation_w=radiation * dT,
        film_w_m2k=film,
        law=law,
    )


def _plate_inside(model: BodyModel, row: int, lie: Lie, face: Array, air: Array) -> bool:
    back = model.back
    function, name = _PLATE_LAW[lie]
    number = film_number(lie, back.upright, back.area_over_perimeter, face, air)
    return bool(REGISTRY[function].inside(**{name: at(number, row)}))


def _driven_ways(solved: Solved, row: int, model: BodyModel) -> list[BodyWay]:
    part = model.part
    found: list[BodyWay] = []
    flow, air, pattern = solved.structure.air, solved.solution.air, solved.network.pattern
    for index, stream in enumerate(pattern.streams):
        if stream.part != part.id or flow is None or air is None or not isinstance(part, Sink) or model.fins is None:
            continue
        T = solved.solution.temperature[row]
        forward = air.mass_flow[row, stream.edge] >= 0
        inlet = float(T[flow.tail_nodes[stream.edge] if forward else flow.head_nodes[stream.edge]])
        watts = float(solved.solution.conductance.streams[row, index]) * (float(T[stream.face]) - inlet)
        watts += float(solved.link_heat[row, pattern.still_link(index)])
        volume = air.mass_flow[:, stream.edge] / REFERENCE_AIR
        loss = driven_loss(part, model.fins, solved.network.values, volume)
        found.append(
            BodyWay(
                side="stream",
                air=flow.circuit[stream.edge],
                air_c=inlet,
                watts=watts,
                convection_w=watts,
                radiation_w=0.0,
                film_w_m2k=at(loss.film, row),
                law=driven_law(bool(np.atleast_1d(loss.inside)[0])),
            )
        )
    return found


def pipe_results(solved: Solved, case: int) -> list[PipeResult]:
    """Every group of heat pipes in the order of the routes."""
    row = solved.central(case)
    conductances, pattern = solved.network.conductances, solved.network.pattern
    return [
        _pipe(solved, row, link, group, float(solved.link_heat[row, pattern.pipe_link(index)]))
        for index, (link, group) in enumerate(zip(pattern.pipes, conductances.pipes, strict=True))
    ]


def _pipe(solved: Solved, row: int, link: PipeLink, group: PipeGroup, watts: float) -> PipeResult:
    T, part = solved.solution.temperature[row], group.pipe.part
    vapour = float(link.vapour(T))
    limits = pipe_limits(group.pipe, vapour)
    each, uneven = least_of(limits, row), at(group.pipe.uneven, row)
    binding = min(each, key=lambda name: each[name])
    busiest, limit = watts / part.count * uneven, each[binding]
    share = busiest / limit
    wet = at(group.conductance(np.asarray(vapour)), row) * (float(T[link.layer.inner]) - float(T[link.layer.outer]))
    dry = wet * uneven / part.count > limit * (1.0 + 0.01 * DRY_SHARE)
    return PipeResult(
        address=part.id,
        name=part.name or part.id,
        place=link.route.place.id,
        count=part.count,
        group_w=watts,
        busiest_w=busiest,
        limit_w=limit,
        share=share,
        share_band=drawn_band(solved, row, _shares(solved, link, group)),
        binding=binding,
        limits=[PipeLimit(name=name, watts=value) for name, value in each.items()],
        vapour_c=vapour,
        lift_mm=1000 * at(group.pipe.lift, row),
        state="dried out" if dry else "near its limit" if share > NEAR_LIMIT else "works",
        resistance_k_w=at(group.resistance(np.asarray(vapour)), row),
        diameter_mm=1000 * at(group.pipe.diameter, row),
        flat_mm=None if group.pipe.flat is None else 1000 * at(group.pipe.flat, row),
        wall_mm=1000 * WALL_SHARE * at(group.pipe.diameter, row),
        wick_mm=1000 * WICK_M[part.wick],
        evaporator_mm=1000 * at(group.pipe.evaporator, row),
        adiabatic_mm=1000 * at(group.pipe.adiabatic, row),
        condenser_mm=1000 * at(group.pipe.condenser, row),
        bends=part.bends,
    )


def _shares(solved: Solved, link: PipeLink, group: PipeGroup) -> Array:
    """Share of its limit that a group of pipes carries, (batch,)."""
    T, index = solved.solution.temperature, solved.network.pattern.pipes.index(link)
    carried = solved.link_heat[:, solved.network.pattern.pipe_link(index)]
    return np.asarray(carried / group.limit(link.vapour(T)))


def least_of(limits: PipeLimits, row: int) -> dict[str, float]:
    """Each limit of one sample, W."""
    return {name: at(value, row) for name, value in limits.each().items()}
