"""What the rows of the accuracy page share: a row, a band in words, and whether a prediction meets practice."""

from dataclasses import dataclass
from typing import Any

from krill.document.reading import read_object
from krill.prediction.predict import predict

SAMPLES = 1000
Json = dict[str, Any]


@dataclass(frozen=True)
class Row:
    case: str
    quantity: str
    predicted: str
    practice: str
    inside: str  # yes | bands only | no
    reason: str = ""


def place(prediction: Any, name: str) -> Any:
    return next(p for p in prediction.workloads[0].places if p.address == name)


def asked(raw: dict[str, Any], workload: str, samples: int = SAMPLES) -> Any:
    return predict(read_object(raw), [workload], samples=samples)


def band(found: Any) -> str:
    return f"{found.temperature_c:.0f} ({found.band_c.low:.0f} to {found.band_c.high:.0f}) °C"


def against(found: Any, low: float, high: float) -> str:
    """Whether the predicted centre lies in the practice band, or the two bands only meet."""
    if low <= found.temperature_c <= high:
        return "yes"
    return "bands only" if found.band_c.low <= high and found.band_c.high >= low else "no"


def yes_no(fits: bool) -> str:
    return "yes" if fits else "no"
