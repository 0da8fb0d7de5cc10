"""Warnings with their reasons: what a designer must not overlook in a prediction."""

import itertools
from collections.abc import Iterator

from krill.document.build import leaves
from krill.document.parts import Fan, Plate, Pump, Radiator, Source, Supply
from krill.prediction.places import room_of
from krill.prediction.result import AirElement, LoopResult, Notice, PlaceResult, SoundResult
from krill.prediction.solving import Solved

COOLANT_LIMIT_C = 60.0
LOW_FLOW_L_MIN = 0.5
FACE_VELOCITY_TABLE = (0.5, 3.0)
SUPPLY_HEADROOM = 0.8


def notices_of(
    solved: Solved,
    case: int,
    places: list[PlaceResult],
    loops: list[LoopResult],
    air: list[AirElement],
    sound: SoundResult,
) -> list[Notice]:
    """Every notice of one workload, gravest first."""
    found = [
        *_places(places),
        *_loops(solved, loops),
        *_air(solved, air),
        *_sound(sound),
        *_supply(solved, case),
        *_movers(solved, case),
        *_metals(solved),
    ]
    return sorted(found, key=lambda notice: notice["level"] != "warning")


def _warning(address: str, text: str) -> Notice:
    return {"level": "warning", "address": address, "text": text}


def _note(address: str, text: str) -> Notice:
    return {"level": "note", "address": address, "text": text}


def _places(places: list[PlaceResult]) -> Iterator[Notice]:
    for place in places:
        if place["status"] == "too hot":
            yield _warning(place["address"], f"{place['name']} is too hot: {place['because']}.")
        elif place["status"] == "unknown":
            yield _note(place["address"], f"{place['name']}: {place['because']}.")


def _loops(solved: Solved, loops: list[LoopResult]) -> Iterator[Notice]:
    for loop in loops:
        if loop["highest_c"] > COOLANT_LIMIT_C:
            yield _warning(loop["address"], f"Coolant reaches {loop['highest_c']:.0f} °C; pumps and soft tube are made "
                           f"for {COOLANT_LIMIT_C:.0f} °C (class-typical).")  # fmt: skip
        if loop["flow_l_min"] < LOW_FLOW_L_MIN:
            yield _warning(loop["address"], f"Only {loop['flow_l_min']:.2f} l/min: plates and radiator lose much below "
                           f"{LOW_FLOW_L_MIN} l/min.")  # fmt: skip
        for curve in loop["pumps"]:
            highest = float(solved.network.values(f"{curve['address']}/highest_kpa", 1e9).flat[0]) / 1000
            shutoff = curve["points"][0][1]
            if shutoff > highest:
                yield _warning(curve["address"], f"Shut-off head {shutoff:.0f} kPa is over the {highest:.0f} kPa that "
                               "the pump's class is made for; look at the fittings, too.")  # fmt: skip
            if curve["speed_share"] < 0.01:
                yield _warning(curve["address"], "The pump stands still: its loop carries no heat away.")


def _air(solved: Solved, air: list[AirElement]) -> Iterator[Notice]:
    for element in air:
        if element["kind"] == "fan" and element["airflow_m3_h"] < -0.01:
            yield _warning(element["address"], f"{element['name']} is pushed backwards: {-element['airflow_m3_h']:.0f} "
                           "m³/h run against it.")  # fmt: skip
    for part in solved.build.parts:
        if isinstance(part, Radiator):
            yield from _radiator(part, air)


def _radiator(part: Radiator, air: list[AirElement]) -> Iterator[Notice]:
    for element in air:
        if element["address"] == part.id:
            face = part.sections * 0.96 * (float(part.section_mm) / 1000) ** 2
            velocity = abs(element["airflow_m3_h"]) / 3600 / face
            low, high = FACE_VELOCITY_TABLE
            if not low <= velocity <= high:
                yield _note(part.id, f"Face velocity {velocity:.2f} m/s lies outside the class table ({low:g} to {high:g} "
                            "m/s): its figures are extrapolated.")  # fmt: skip


def _sound(sound: SoundResult) -> Iterator[Notice]:
    ceiling = sound["ceiling_dba"]
    if ceiling is not None and sound["total_dba"] > ceiling:
        yield _warning("sound", f"{sound['total_dba']:.1f} dBA at {sound['at_m']:g} m is over the ceiling of "
                       f"{ceiling:g} dBA.")  # fmt: skip


def _supply(solved: Solved, case: int) -> Iterator[Notice]:
    row = solved.central(case)
    states = solved.network.states
    load = sum(float(states.watts(part.id)[row]) for part in solved.build.parts if isinstance(part, Source))
    for part in states.movers:
        load += float(states.mover_watts(part, solved.solution.speeds[part.id]).flat[0])
    for supply in solved.build.parts:
        if isinstance(supply, Supply) and supply.rating_w is not None:
            rating = float(solved.network.values(f"{supply.id}/rating_w").flat[0])
            if load > rating:
                yield _warning(supply.id, f"{load:.0f} W are asked of a supply rated {rating:.0f} W.")
            elif load > SUPPLY_HEADROOM * rating:
                yield _note(supply.id, f"{load:.0f} W of {rating:.0f} W: little headroom is left for bursts.")


def _movers(solved: Solved, case: int) -> Iterator[Notice]:
    workload = solved.cases[case].workload
    placed = {item for path in solved.build.air_paths for item in leaves(path.elements)}
    placed |= {item for loop in solved.build.loops for item in leaves(loop.elements)}
    for mover in solved.network.states.movers:
        command = workload.movers.get(mover.id)
        name = mover.name or mover.id
        if mover.id not in placed:
            yield _note(mover.id, f"{name} sits in no loop and no air path: it moves nothing.")
        if command is None:
            yield _note(mover.id, f"{name} has no command in this workload: it runs at full speed.")
        speed = float(solved.solution.speeds[mover.id][solved.central(case)])
        if isinstance(mover, Fan) and speed == 0.0 and command is not None and not command.off:
            yield _warning(mover.id, f"{name} is told less than its start duty: it stands still.")
        if isinstance(mover, Fan | Pump) and mover.curve is not None and _dips(mover.curve):
            yield _note(mover.id, f"{name}: the stall dip of its curve is solved on the falling envelope.")


def _dips(curve: list[tuple[int | float, int | float]]) -> bool:
    heads = [head for _, head in curve]
    return any(b > a for a, b in itertools.pairwise(heads))


def _metals(solved: Solved) -> Iterator[Notice]:
    for loop in solved.build.loops:
        wetted = [solved.build.part(item) for item in leaves(loop.elements)]
        metals = {part.metal for part in wetted if isinstance(part, Plate | Radiator)}
        if "aluminium" in metals and metals & {"copper", "nickel"}:
            yield _warning(loop.id, "Aluminium and copper are wetted by one coolant: they corrode each other.")
    room = room_of(solved, solved.central(0))
    if room < 5.0:
        yield _note("room", f"The room is {room:.0f} °C: check the coolant's freezing point.")
