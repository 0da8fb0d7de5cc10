"""What each channel of a log is: by its unit first, then by its name, then by how it behaves; and which sensors are dead."""

import re
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.logs.clock import ROW_NAME
from krill.logs.log import Log
from krill.logs.units import QUANTITY, unit_of
from krill.logs.words import plain, says

Array = NDArray[np.float64]

#: figures at which sensors that are not there stand, as written (common practice)
DEAD_AT: Final = (0.0, 127.0, -127.0, 127.5, 128.0, -128.0, 255.0, -55.0, -40.0, 65535.0, 6553.5)
#: share of a dead sensor's rows that stand at its figure
STANDS: Final = 0.98
#: parts in the order in which a name with several of them is read: a GPU's memory is memory, a pump's loop a pump
PARTS: Final = (
    "wall",
    "fan",
    "pump",
    "regulators",
    "memory",
    "drive",
    "supply",
    "graphics",
    "processor",
    "room",
    "coolant",
    "box",
)
#: what a word says of a channel that no unit tells, in the order of asking
_BY_WORD: Final = ("temperature", "speed", "flow", "level", "clock", "power", "duty", "load", "voltage")
_OWN_UNIT: Final = {
    "temperature": "°C",
    "speed": "rpm",
    "flow": "l/min",
    "level": "dBA",
    "clock": "MHz",
    "power": "W",
    "duty": "%",
    "load": "%",
    "voltage": "V",
}
#: parts that a channel without any word of a quantity has a temperature of
_WARM: Final = ("processor", "graphics", "memory", "drive", "regulators", "supply", "room", "coolant", "box")
#: what a temperature near a machine may read, °C
LIKELY_C: Final = (-20.0, 130.0)


@dataclass(frozen=True)
class Channel:
    """A channel: its unit, what it measures, of which part ("" where no word tells), whether its sensor is dead, and why so.

    ``ask`` is a question where nothing tells what its figures are.
    """

    name: str
    unit: str
    written: str
    quantity: str
    part: str
    reason: str
    dead: bool = False
    ask: str = ""


def channels_of(log: Log) -> list[Channel]:
    """Every channel of a log, in its order."""
    found = [
        _channel(name, unit, written, log.values[:, i], state=log.states[i])
        for i, (name, unit, written) in enumerate(zip(log.names, log.units, log.written, strict=True))
    ]
    return _dead_told(found, log)


def quantity_of(name: str, unit: str) -> tuple[str, str]:
    """What a channel measures and why, by unit and name alone; "unknown" where neither tells."""
    text = plain(name)
    by_unit = QUANTITY.get(unit)
    if by_unit == "share":
        return _share(text), f"by its unit {unit}"
    if by_unit == "power" and says("limit", text):
        return "limit", "by its unit W and a word for a limit"
    if by_unit is not None:
        return by_unit, f"by its unit {unit}"
    if unit:
        return "other", f"by its unit {unit}"
    for quantity in _BY_WORD:
        if says(quantity, text):
            return quantity, "by its name; no unit is written"
    return "unknown", "neither unit nor name tells"


def part_of(name: str, quantity: str) -> str:
    """The part that a name speaks of, "" where it names none."""
    text = plain(name)
    said = [part for part in PARTS if says(part, text)]
    if quantity == "temperature":
        said = [part for part in said if part not in ("wall", "fan")] or said
        if "room" in said and ("coolant" in said or "supply" in said):
            said.remove("room")
    if quantity in ("speed", "duty"):
        movers = [part for part in said if part in ("fan", "pump")]
        return movers[-1] if movers else (said[0] if said else "")
    if quantity == "flow":
        return "coolant"
    return said[0] if said else ""


def _share(text: str) -> str:
    if says("humidity", text):
        return "humidity"
    return "duty" if says("duty", text) or says("fan", text) or says("pump", text) else "load"


def _channel(name: str, unit: str, written: str, values: Array, *, state: bool) -> Channel:
    if state:
        quantity = "limit state" if says("limit", plain(name)) else "state"
        return Channel(name, "", "", quantity, part_of(name, quantity), "its cells are yes and no")
    if ROW_NAME.match(name.strip()) and np.all(np.diff(values) >= 0):
        return Channel(name, "", written, "row number", "", "it counts the rows")
    if written and unit_of(written) is None:
        ask = f"the unit '{written}' is not known; say what these figures are"
        return Channel(name, "", written, "unknown", part_of(name, ""), "its unit is not known", ask=ask)
    quantity, reason = quantity_of(name, unit)
    if quantity == "unknown":
        quantity, reason = _by_part(name, values)
    if quantity == "unknown":
        ask = "neither unit nor name tells what these figures are; say it"
        return Channel(name, "", written, quantity, part_of(name, ""), reason, ask=ask)
    return _likely(
        Channel(name, unit or _OWN_UNIT.get(quantity, ""), written, quantity, part_of(name, quantity), reason), values
    )


def _by_part(name: str, values: Array) -> tuple[str, str]:
    """A part without a word of what is read of it: a temperature where the figures may be one."""
    text = plain(name)
    if any(says(part, text) for part in ("fan", "pump")) and np.nanmedian(values) > LIKELY_C[1]:
        return "speed", "by its name and the size of its figures; no unit is written"
    low, high = np.nanquantile(values, (0.01, 0.99))
    warm = any(says(part, text) for part in _WARM) and LIKELY_C[0] <= low and high <= LIKELY_C[1]
    if warm and not says("fan", text) and low > 5.0:
        return "temperature", "by its name and the size of its figures; no unit is written"
    return "unknown", "neither unit nor name tells"


def _likely(channel: Channel, values: Array) -> Channel:
    """A temperature that no unit tells is asked about where its figures would be none in °C."""
    if channel.quantity != "temperature" or channel.written:
        return channel
    if (
        not np.isfinite(values).any()
        or float(np.nanquantile(values, 0.99)) <= LIKELY_C[1]
        or _stands_at(values) is not None
    ):
        return channel
    ask = f"no unit is written and {float(np.nanmax(values)):.0f} would be hot in °C; say the unit"
    reason = "a temperature by its name in a unit that is not told"
    return replace(channel, unit="", quantity="unknown", reason=reason, ask=ask)


def _dead_told(channels: list[Channel], log: Log) -> list[Channel]:
    """Channels of temperature that stand at a figure of absent sensors while others move."""
    temperatures = [i for i, c in enumerate(channels) if c.quantity == "temperature"]
    moving = [i for i in temperatures if np.ptp(log.values[np.isfinite(log.values[:, i]), i]) > 0.0]
    found = list(channels)
    for index in temperatures:
        unit = unit_of(log.written[index])
        raw = log.values[:, index] if unit is None else (log.values[:, index] - unit.offset) / unit.factor
        stood = _stands_at(raw)
        if stood is not None and any(i != index for i in moving):
            reason = f"it stands at {stood:g} while others move: a sensor that is not there"
            found[index] = replace(channels[index], reason=reason, dead=True)
    return found


def _stands_at(values: Array) -> float | None:
    """The figure of an absent sensor that a channel stands at."""
    finite = values[np.isfinite(values)]
    if not finite.size:
        return None
    middle = float(np.median(finite))
    return middle if _absent(middle) and np.mean(np.abs(finite - middle) < 0.05) >= STANDS else None


def _absent(value: float) -> bool:
    return bool(np.min(np.abs(np.array(DEAD_AT) - value)) < 0.06)


def is_core(name: str) -> bool:
    """Whether a name is of one core of many."""
    return re.search(r"\b(core|kern|coeur|nucleo|rdzen)\w* ?#?\d", plain(name)) is not None
