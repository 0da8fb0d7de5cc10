"""What was read beside temperatures, held against what the build as it stands would show: flow, speed, watts, sound, words."""

from collections.abc import Callable
from dataclasses import dataclass
from math import log10
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.parts import Opening
from krill.numerics.sampling import band_90
from krill.physics.atmosphere import air_density
from krill.prediction.answer.shared import loop_flow, watts_put_in
from krill.prediction.answer.solving import Solved
from krill.prediction.answer.sound import total_levels
from krill.runs.as_run import nodes_of
from krill.runs.quantities_read import SCORES, quantity_read, statistic_of
from krill.runs.run_document import Reading
from krill.units import l_min

Array = NDArray[np.float64]

#: what a reading of a quantity may be off: share of it, and at the least (half width of 90 %; common practice)
READING_DOUBT: Final[dict[str, tuple[float, float]]] = {
    "speed": (0.02, 20.0),
    "duty": (0.02, 2.0),
    "power": (0.05, 1.0),
    "wall_power": (0.03, 2.0),
    "flow": (0.1, 0.05),
    "air_speed": (0.25, 0.1),
    "level": (0.0, 2.0),
}
#: a hand meter in the middle of an opening reads this much over the mean of its area (common practice)
PROFILE: Final = 1.2
#: surfaces by what a hand says of them, C (common practice; a hand is lifted off bare metal of some 50)
FELT_C: Final = {"cool": (-50.0, 33.0), "warm": (33.0, 50.0), "too hot to hold": (50.0, 200.0)}
FELT_DOUBT_K: Final = 4.0
#: what passes an opening at less speed than this does not move smoke, m/s (common practice)
STILL_M_S: Final = 0.1

AS_PREDICTED, NOTED = "as predicted", "noted"


@dataclass(frozen=True)
class QuantityVerdict:
    """One quantity that was read, in its unit; a prediction where the build makes one, else it is ``noted``."""

    role: str
    name: str
    unit: str
    predicted: float | None
    predicted_low: float | None
    predicted_high: float | None
    measured: float | None
    word: str | None
    half_width: float
    conclusion: str  # as predicted | more than predicted | less than predicted | otherwise than predicted | noted
    because: str


def hold_quantities(solved: Solved, readings: list[Reading]) -> list[QuantityVerdict]:
    """Every quantity that is no temperature of the build, once a role; ``solved`` is the build as it stands, with draws."""
    found = []
    under_load = [r for r in readings if r.load_on]
    for role in dict.fromkeys(r.role for r in under_load):
        own = [r for r in under_load if r.role == role]
        if nodes_of(solved, role) is not None and quantity_read(role).unit == "°C":
            continue
        if role == "room/air":
            continue
        found.append(_word(solved, own[-1]) if own[-1].word is not None else _figure(solved, role, own))
    return found


def _figure(solved: Solved, role: str, own: list[Reading]) -> QuantityVerdict:
    statistic, quantity = statistic_of(role), quantity_read(role)
    measured = float(np.mean([_at_listener(solved, r) for r in own]))
    share, least = READING_DOUBT.get(statistic, (0.0, 0.0))
    half = max(share * abs(measured), least)
    name = f"{name_of_address(solved, role)}, {quantity.name}".removeprefix(", ")
    values = predicted_of(solved, role)
    if values is None:
        return QuantityVerdict(role, name, quantity.unit, None, None, None, measured, None, half, NOTED, "")
    central = float(values[0])
    low, high = (float(x) for x in band_90(values[1:])) if solved.samples else (central, central)
    conclusion, because = _held(measured, half, low, high, quantity.unit)
    return QuantityVerdict(role, name, quantity.unit, central, low, high, measured, None, half, conclusion, because)


def _held(measured: float, half: float, low: float, high: float, unit: str) -> tuple[str, str]:
    if measured - half > high:
        return "more than predicted", f"{_short(measured - high)} {unit} above the band"
    if measured + half < low:
        return "less than predicted", f"{_short(low - measured)} {unit} below the band"
    return AS_PREDICTED, ""


def _short(value: float) -> str:
    return f"{value:.0f}" if abs(value) >= 20 else f"{value:.1f}"


def _at_listener(solved: Solved, reading: Reading) -> float:
    """A figure as read; sound brought to the listener's distance by the square law."""
    value = float(reading.value or 0.0)
    if statistic_of(reading.role) != "level" or reading.at_m is None:
        return value
    return value - 20.0 * log10(float(solved.build.brief.listener_m) / float(reading.at_m))


def _word(solved: Solved, reading: Reading) -> QuantityVerdict:
    statistic, word = statistic_of(reading.role), reading.word or ""
    name = f"{name_of_address(solved, reading.role)}, {quantity_read(reading.role).name}"
    conclusion, because = NOTED, ""
    if statistic == "smoke":
        conclusion, because = _smoke(solved, reading)
    if statistic == "felt":
        conclusion, because = _felt(solved, reading)
    return QuantityVerdict(reading.role, name, "", None, None, None, None, word, 0.0, conclusion, because)


def _smoke(solved: Solved, reading: Reading) -> tuple[str, str]:
    """Which way air goes through an opening to the room, against the smoke that somebody saw."""
    speed = _through(solved, reading.role.rpartition("/")[0])
    if speed is None:
        return NOTED, "no such opening to the room"
    into = float(speed[0])
    predicted = "still" if abs(into) < STILL_M_S else "drawn in" if into > 0 else "blown out"
    if reading.word == predicted:
        return AS_PREDICTED, ""
    return "otherwise than predicted", f"{predicted} at {abs(into):.1f} m/s by the model"


def _felt(solved: Solved, reading: Reading) -> tuple[str, str]:
    address = reading.role.rpartition("/")[0]
    nodes = nodes_of(solved, f"{address}/touch")
    if nodes is None:
        return NOTED, ""
    surface = float(solved.solution.temperature[0, nodes[0]])
    low, high = FELT_C[reading.word or "warm"]
    if low - FELT_DOUBT_K <= surface <= high + FELT_DOUBT_K:
        return AS_PREDICTED, ""
    return "otherwise than predicted", f"{surface:.0f} °C by the model"


def predicted_of(solved: Solved, role: str) -> Array | None:
    """What a role would show in every row, in the unit of its reading (batch,); None where the build says nothing of it."""
    address, _, statistic = role.rpartition("/")
    reader = _READERS.get(statistic)
    values = None if reader is None else reader(solved, address)
    return None if values is None else np.broadcast_to(values, (solved.network.values.batch,))


def _flow(solved: Solved, address: str) -> Array | None:
    loop = next((loop for loop in solved.build.loops if loop.id == address), None)
    return None if loop is None else np.asarray(l_min(loop_flow(solved, loop)))


def _speed(solved: Solved, address: str) -> Array | None:
    if address not in solved.solution.speeds:
        return None
    return np.asarray(solved.solution.speeds[address] * solved.network.values(f"{address}/rated_rpm"))


def _duty(solved: Solved, address: str) -> Array | None:
    speeds = solved.solution.speeds
    return None if address not in speeds else np.asarray(100.0 * speeds[address])


def _watts(solved: Solved, address: str) -> Array | None:
    known = any(part.id == address for part in solved.build.heat_sources())
    return solved.network.states.watts(address) if known else None


def _all_watts(solved: Solved, _: str) -> Array | None:
    return watts_put_in(solved)


def _level(solved: Solved, _: str) -> Array | None:
    return total_levels(solved)


def _air_speed(solved: Solved, address: str) -> Array | None:
    speed = _through(solved, address)
    return None if speed is None else np.abs(speed) * PROFILE


def _through(solved: Solved, address: str) -> Array | None:
    """Mean air speed through an opening's area, m/s (batch,), above 0 as its path goes from outside in."""
    flow, air = solved.structure.air, solved.solution.air
    part = next((part for part in solved.build.parts if part.id == address), None)
    if flow is None or air is None or not isinstance(part, Opening) or address not in flow.parts:
        return None
    edge = flow.parts.index(address)
    area = solved.network.values(f"{address}/area_cm2")
    path = next(path for path in solved.build.air_paths if path.id == flow.circuit[edge])
    outside = {zone.id for zone in solved.build.zones if zone.kind == "outside"}
    sign = 1.0 if path.start in outside else -1.0
    density = air_density(solved.solution.temperature[:, flow.tail_nodes[edge]], solved.network.states.pressure_pa)
    return np.asarray(sign * air.mass_flow[:, edge] / density / area)


_READERS: Final[dict[str, Callable[[Solved, str], Array | None]]] = {
    "flow": _flow,
    "speed": _speed,
    "duty": _duty,
    "power": _watts,
    "wall_power": _all_watts,
    "level": _level,
    "air_speed": _air_speed,
}


def name_of_address(solved: Solved, role: str) -> str:
    """What the address of a role is called in the words of the build; nothing of a score or of sound."""
    address = role.rpartition("/")[0]
    named = {item.id: item.name for item in [*solved.build.parts, *solved.build.loops, *solved.build.zones]}
    owner = solved.build.place_owners().get(address)
    if owner:
        return owner[0].name or address
    return named.get(address) or ("" if statistic_of(role) in (*SCORES, "level", "wall_power") else address)
