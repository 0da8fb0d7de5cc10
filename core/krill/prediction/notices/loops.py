"""What can go wrong in a coolant loop: heat, flow, pressure, air, metals."""

from collections.abc import Iterator

from krill.components.coolant_parts import wetted_metals
from krill.document.build import Loop, leaves
from krill.document.part_base import Part
from krill.document.parts import Coupling, Radiator, Reservoir
from krill.materials.galvanic import WET_LIMIT_V, clashing_pair
from krill.prediction.answer.hydraulics import reservoir_below_pump
from krill.prediction.answer.result import LoopResult, Notice, PumpPoint
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.notice import note, warning

COOLANT_LIMIT_C = 60.0
LOW_FLOW_L_MIN = 0.5
STANDSTILL = 0.01
#: a running pump that moves less than this share of its free flow works against a closed end
DEAD_END_SHARE = 0.02
LOW_FILL = 0.3


def loop_notices(solved: Solved, loops: list[LoopResult]) -> Iterator[Notice]:
    """Every notice of the loops of one workload that is no matter of temperatures."""
    for loop in solved.build.loops:
        result = next(item for item in loops if item.address == loop.id)
        parts = [solved.build.part(item) for item in leaves(loop.elements)]
        if not any(isinstance(part, Radiator) for part in parts):
            yield warning(loop.id, f"{loop.name or loop.id} has no radiator: only its tubes give heat off.")
        for point in result.pumps:
            yield from _pump(solved, point)
        yield from _open(loop, parts)
        yield from _flow(result)  # after what may be its cause
        yield from _pressure(result)
        yield from _air(solved, loop, result, parts)
        yield from _metals(loop, parts)


def coolant_notices(loops: list[LoopResult]) -> Iterator[Notice]:
    """Coolant that is too warm for what it flows through, and more of it than the air above it leaves room for."""
    for loop in loops:
        if loop.highest_c > COOLANT_LIMIT_C:
            yield warning(
                loop.address,
                f"Coolant reaches {loop.highest_c:.0f} °C; pumps and soft tube are made "
                f"for {COOLANT_LIMIT_C:.0f} °C (class-typical).",
            )
        room = loop.air_room_ml
        if room is not None and loop.expansion_ml > room:
            yield warning(
                loop.address,
                f"The coolant grows by {loop.expansion_ml:.0f} ml when warm, {room:.0f} ml of air are above "
                "it: the loop comes under pressure.",
            )


def _flow(loop: LoopResult) -> Iterator[Notice]:
    if abs(loop.flow_l_min) < LOW_FLOW_L_MIN:
        yield warning(
            loop.address,
            f"Only {loop.flow_l_min:.2f} l/min: plates and radiator lose much below {LOW_FLOW_L_MIN} l/min.",
        )


def _pump(solved: Solved, point: PumpPoint) -> Iterator[Notice]:
    highest = solved.figure(f"{point.address}/highest_kpa", 0, 1e9) / 1000
    if point.shutoff_kpa > highest:
        yield warning(
            point.address,
            f"Shut-off head {point.shutoff_kpa:.0f} kPa is over the {highest:.0f} kPa that "
            "the pump's class is made for; look at the fittings, too.",
        )
    if point.speed_share < STANDSTILL:
        yield warning(point.address, "The pump stands still: its loop carries no heat away.")
    elif abs(point.flow_l_min) < DEAD_END_SHARE * point.free_flow_l_min:
        yield warning(
            point.address,
            f"The pump works against a closed end: {point.head_kpa:.0f} kPa and no flow. It "
            "warms its own coolant and can blow a fitting off.",
        )


def _open(loop: Loop, parts: list[Part]) -> Iterator[Notice]:
    for part in parts:
        if isinstance(part, Coupling) and not part.joined:
            yield warning(
                part.id,
                f"{loop.name or loop.id} is open at {part.name or part.id}: nothing flows. Never run a pump "
                "against a closed end.",
            )


def _pressure(loop: LoopResult) -> Iterator[Notice]:
    for element in loop.elements:
        limit = element.limit_kpa
        if element.kind != "pump" and limit is not None and element.pressure_kpa > limit:
            yield warning(
                element.address,
                f"{element.pressure_kpa:.0f} kPa stand at {element.name}; {limit:.0f} kPa is a sound ceiling for it.",
            )


def _air(solved: Solved, loop: Loop, result: LoopResult, parts: list[Part]) -> Iterator[Notice]:
    below = reservoir_below_pump(solved, loop)
    if below is not None:
        pump, tank, metres = below
        yield warning(
            pump,
            f"{tank} lies {1000 * metres:.0f} mm below {pump}: the pump does not fill by itself and can run "
            "dry when started. Raise the reservoir or prime the pump.",
        )
    for part in parts:
        if isinstance(part, Reservoir) and solved.figure(f"{part.id}/fill_share", 0, 1.0) < LOW_FILL:
            yield warning(
                part.id,
                f"{part.name or part.id} is filled to {100 * solved.figure(f'{part.id}/fill_share', 0):.0f} %"
                ": the pump can draw air and start dry.",
            )
    top = result.air_collects_at
    if top is not None and not isinstance(solved.build.part(top), Reservoir):
        yield note(
            top,
            f"Air collects at {solved.build.part(top).name or top}, the highest part of {loop.name or loop.id}: "
            "bleed it by tilting.",
        )


def _metals(loop: Loop, parts: list[Part]) -> Iterator[Notice]:
    pair = clashing_pair(wetted_metals(parts))
    if pair is not None:
        yield warning(
            loop.id,
            f"{pair[0].capitalize()} and {pair[1]} are wetted by one coolant and lie {pair[2]:.2f} V apart "
            f"(at most {WET_LIMIT_V} V where it is wet): they corrode each other.",
        )
