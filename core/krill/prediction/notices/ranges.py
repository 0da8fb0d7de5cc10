"""Laws that are used outside the range they were made for, at the central figures: one note a law, with all it is used on."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

from krill.prediction.answer.extrapolated import COOLER_SHARE, MOVING_M_S, PLATE_L_MIN, VAPOUR_C, beyond
from krill.prediction.answer.hop_laws import LAYER_SOURCES
from krill.prediction.answer.result import AirElement, BodyResult, LoopResult, Notice, PipeResult, ZoneResult
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.notice import note

#: a side that gives off less than this is not worth a word about its law
LITTLE_W: Final = 0.05
MOVING_AIR: Final = "Bare parts in moving air, still and moving by cubes"


@dataclass(frozen=True)
class _Use:
    """A law used outside its range."""

    address: str
    on: str
    law: str
    valid: str


def range_notices(
    solved: Solved,
    loops: list[LoopResult],
    air: list[AirElement],
    zones: list[ZoneResult],
    bodies: list[BodyResult],
    pipes: list[PipeResult],
) -> Iterator[Notice]:
    """A note for each law that is used outside its range."""
    uses: dict[str, list[_Use]] = {}
    found = [
        *_sides(bodies),
        *_plates(solved, loops),
        *_coolers(solved, air),
        *_pipes(pipes),
        *_moving_air(solved, zones),
    ]
    for use in found:
        uses.setdefault(use.law, []).append(use)
    for law, same in uses.items():
        on = ", ".join(dict.fromkeys(use.on for use in same))
        yield note(same[0].address, f"Outside the range of its law, an extrapolation: {on} ({law}; {same[0].valid}).")


def _of_layer(kind: str, address: str, on: str) -> _Use:
    name, _, valid = LAYER_SOURCES[kind]
    return _Use(address, on, name, valid)


def _sides(bodies: list[BodyResult]) -> Iterator[_Use]:
    for body in bodies:
        for way in body.ways:
            if not way.law.inside and abs(way.watts) > LITTLE_W:
                yield _Use(body.address, f"{body.name} {way.side}", way.law.name, way.law.valid)


def _plates(solved: Solved, loops: list[LoopResult]) -> Iterator[_Use]:
    pressed_on = {
        route.layers[-1].hop.part for route in solved.structure.routes if route.layers and route.layers[-1].hop
    }
    for loop in loops:
        for element in loop.elements:
            if element.address in pressed_on and beyond(abs(element.flow_l_min), PLATE_L_MIN):
                yield _of_layer("plate", element.address, element.name)


def _coolers(solved: Solved, air: list[AirElement]) -> Iterator[_Use]:
    for element in air:
        rated = 3600 * solved.figure(f"{element.address}/rated_airflow_m3_h", 0, 0.0)
        if element.kind == "cooler" and rated and beyond(abs(element.airflow_m3_h) / rated, COOLER_SHARE):
            yield _of_layer("stream", element.address, element.name)


def _pipes(pipes: list[PipeResult]) -> Iterator[_Use]:
    for pipe in pipes:
        if beyond(pipe.vapour_c, VAPOUR_C):
            yield _of_layer("pipes", pipe.address, pipe.name)


def _moving_air(solved: Solved, zones: list[ZoneResult]) -> Iterator[_Use]:
    breathed = {route.zone for route in solved.structure.routes}
    for zone in zones:
        if zone.address in breathed and zone.velocity_m_s is not None and beyond(zone.velocity_m_s, MOVING_M_S):
            yield _Use(zone.address, zone.name, MOVING_AIR, "0 to 3 m/s")
