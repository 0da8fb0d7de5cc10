"""What can fail while a test runs, by name."""

from typing import Final, Literal, get_args

FailureKind = Literal[
    "pump-stops",
    "fan-stalls",
    "air-lock",
    "filter-clogs",
    "sensor-stuck",
    "sensors-swapped",
    "throttles",
    "room-drifts",
    "supply-sags",
    "feed-lost",
    "samples-dropped",
    "samples-doubled",
    "clock-jumps",
    "logger-restarts",
]
#: in the order in which one explains another: a feed that is lost stops its fans, a stopped pump makes a chip throttle
KINDS: Final[tuple[FailureKind, ...]] = get_args(FailureKind)
WORDS: Final[dict[FailureKind, str]] = {
    "pump-stops": "The pump stops",
    "fan-stalls": "A fan stalls",
    "air-lock": "Air locks the loop",
    "filter-clogs": "A filter clogs",
    "sensor-stuck": "A sensor is stuck",
    "sensors-swapped": "Two sensors are swapped",
    "throttles": "A chip is held back",
    "room-drifts": "The room drifts",
    "supply-sags": "The supply sags",
    "feed-lost": "A feed is lost",
    "samples-dropped": "Samples are lost",
    "samples-doubled": "Samples come twice",
    "clock-jumps": "A clock is set",
    "logger-restarts": "The logger restarts",
}
