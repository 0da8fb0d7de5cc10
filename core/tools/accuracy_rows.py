"""What the rows of the accuracy page share: a row, a band in words, and whether a prediction meets practice."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from krill.document.reading import read_object
from krill.prediction.answer.model_error import DESCRIBED_SHARE
from krill.prediction.predict import predict

SAMPLES = 1000
Json = dict[str, Any]


@dataclass(frozen=True)
class Residual:
    """A predicted temperature against practice, K: how far off, what inputs and practice leave open (90 %), the rise.

    Every row is of a machine described by classes.
    """

    off: float
    inputs: float
    practice: float
    rise: float


@dataclass(frozen=True)
class Inside:
    """Whether practice is met (yes | bands only | no), and by how much where it is a temperature."""

    text: str
    residual: Residual | None = None


@dataclass(frozen=True)
class Row:
    case: str
    quantity: str
    predicted: str
    practice: str
    inside: Inside
    reason: str = ""


def place(prediction: Any, name: str) -> Any:
    return next(p for p in prediction.workloads[0].places if p.address == name)


def asked(raw: dict[str, Any], workload: str, samples: int = SAMPLES) -> Any:
    return predict(read_object(raw), [workload], samples=samples)


def band(found: Any) -> str:
    return f"{found.temperature_c:.0f} ({found.band_c.low:.0f} to {found.band_c.high:.0f}) °C"


#: what practice leaves open of its own case: a room that nobody wrote down lies between 20 and 27 °C
ROOM_UNSAID_K = 3.5


def against(found: Any, low: float, high: float, *, room_said: bool = False, watts_doubt: float = 0.0) -> Inside:
    """Whether the predicted centre lies in the practice band, or the two bands only meet.

    ``watts_doubt``: the share by which practice leaves its watts open; both widen what the residual is held against.
    """
    rise = found.over_room_k
    half = (found.band_c.high - found.band_c.low) / 2
    inputs = np.sqrt(max(half**2 - (DESCRIBED_SHARE * rise) ** 2, 0.0))
    unsaid = np.hypot(0.0 if room_said else ROOM_UNSAID_K, watts_doubt * rise)
    practice = float(np.hypot((high - low) / 2, unsaid))
    residual = Residual(found.temperature_c - (low + high) / 2, float(inputs), practice, rise)
    if low <= found.temperature_c <= high:
        return Inside("yes", residual)
    return Inside("bands only" if found.band_c.low <= high and found.band_c.high >= low else "no", residual)


def yes_no(fits: bool) -> Inside:
    return Inside("yes" if fits else "no")
