"""What may be read of a machine besides its build's figures: units, ranges, scores and words, by the end of a role."""

from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class ReadQuantity:
    """Unit and range of what a person may type; ``name`` in words, ``words`` instead of figures where it is felt or seen."""

    unit: str
    least: float
    most: float
    name: str
    words: tuple[str, ...] = ()


_CELSIUS: Final = ("°C", -50.0, 200.0)

#: by the last piece of a role, ``address/statistic``
READ: Final[dict[str, ReadQuantity]] = {
    "temperature": ReadQuantity(*_CELSIUS, "temperature"),
    "coolant_hot": ReadQuantity(*_CELSIUS, "coolant, hottest"),
    "coolant_cold": ReadQuantity(*_CELSIUS, "coolant, coolest"),
    "air": ReadQuantity(*_CELSIUS, "air"),
    "touch": ReadQuantity(*_CELSIUS, "surface"),
    "power": ReadQuantity("W", 0.0, 5_000.0, "watts"),
    "limit": ReadQuantity("W", 0.0, 5_000.0, "power limit"),
    "wall_power": ReadQuantity("W", 0.0, 5_000.0, "watts at the wall"),
    "speed": ReadQuantity("rpm", 0.0, 30_000.0, "speed"),
    "duty": ReadQuantity("%", 0.0, 100.0, "duty"),
    "level": ReadQuantity("dBA", 0.0, 120.0, "sound"),
    "flow": ReadQuantity("l/min", 0.0, 500.0, "flow"),
    "air_speed": ReadQuantity("m/s", 0.0, 30.0, "air speed"),
    "pressure": ReadQuantity("Pa", 0.0, 500_000.0, "pressure"),
    "clock": ReadQuantity("MHz", 0.0, 10_000.0, "clock"),
    "jobs_per_hour": ReadQuantity("jobs/h", 0.0, 1e9, "jobs per hour"),
    "frames_mean": ReadQuantity("frames/s", 0.0, 1e5, "frames per second, mean"),
    "frames_low": ReadQuantity("frames/s", 0.0, 1e5, "frames per second, lowest 1 %"),
    "seconds_per_job": ReadQuantity("s", 0.0, 1e7, "seconds per job"),
    "score": ReadQuantity("", 0.0, 1e12, "score"),
    "felt": ReadQuantity("", 0.0, 0.0, "to the hand", ("cool", "warm", "too hot to hold")),
    "heard": ReadQuantity("", 0.0, 0.0, "to the ear", ("quiet", "whistles", "rattles")),
    "grip": ReadQuantity("", 0.0, 0.0, "between two fingers", ("firm", "soft")),
    "smoke": ReadQuantity("", 0.0, 0.0, "smoke", ("drawn in", "still", "blown out")),
}

WARM: Final = ("temperature", "coolant_hot", "coolant_cold", "air", "touch")
#: scores, and whether more of one is better; of a bare score it is asked once
SCORES: Final[dict[str, bool | None]] = {
    "jobs_per_hour": True,
    "frames_mean": True,
    "frames_low": True,
    "seconds_per_job": False,
    "score": None,
}


def statistic_of(role: str) -> str:
    """The last piece of a role."""
    return role.rpartition("/")[2]


def quantity_read(role: str) -> ReadQuantity:
    """Unit and range of a role; one that is not known reads a temperature."""
    return READ.get(statistic_of(role), READ["temperature"])
