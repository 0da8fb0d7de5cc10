"""Typed readings: what a person read off, with a wider band, on the same road to a verdict."""

from dataclasses import dataclass

from krill.runs.measured import MeasuredRun
from krill.runs.verdict import BAND_OF_READING_K, Measured

RISING_K = 1.0
WINDOW_MIN = 30.0


@dataclass(frozen=True)
class TypedReading:
    """Minute of the run, role, kind (now, highest, mean), value, and whether the load was still on."""

    minute: float
    role: str
    kind: str
    value: float
    load_on: bool


def measured_from_readings(readings: list[TypedReading]) -> MeasuredRun:
    """One measured value a role from its last reading under load, and a sentence for each left out.

    A mean is preferred to a reading of the moment, that to a highest one. Where the last two readings of the moment
    still differ, the band is widened by the difference: the part was not settled.
    """
    measured: list[Measured] = []
    excluded: list[str] = []
    for role in dict.fromkeys(reading.role for reading in readings):
        own = [reading for reading in readings if reading.role == role]
        under_load = [reading for reading in own if reading.load_on]
        late = len(own) - len(under_load)
        if late:
            excluded.append(f"{role}: {late} read after the load ended")
        if not under_load:
            continue
        kind = next(kind for kind in ("mean", "now", "highest") if any(r.kind == kind for r in under_load))
        same = sorted((r for r in under_load if r.kind == kind), key=lambda r: r.minute)
        half = BAND_OF_READING_K[kind]
        drift = same[-1].value - same[-2].value if len(same) > 1 and kind == "now" else 0.0
        rising = abs(drift) > RISING_K and same[-1].minute - same[-2].minute < WINDOW_MIN
        if rising:
            half += abs(drift)
            excluded.append(f"{role}: still {'rising' if drift > 0 else 'falling'} between the last two readings")
        if kind == "highest":
            excluded.append(f"{role}: a highest reading lies above the mean; its band is wide")
        measured.append(Measured(role, same[-1].value, half, not rising))
    return MeasuredRun(measured, excluded)
