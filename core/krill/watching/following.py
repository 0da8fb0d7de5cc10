"""Movers that follow a temperature: what their curve asks of them at what the sensor reads, and how much of that they do."""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import FanCurve
from krill.watching.expected import Expected
from krill.watching.samples import Samples

Array = NDArray[np.float64]

#: a firmware is followed in steps of so many seconds at least
STEP_S: Final = 2.0
#: what is asked below this share of rated speed says nothing
LEAST_ASKED: Final = 0.1


def speed_shares(expected: Expected, samples: Samples) -> dict[str, Array]:
    """Speeds of movers that turn in this load: their rpm, of those that follow a sensor which is read over what it asks.

    A mover whose sensor is not read is left out.
    """
    found, asked = {}, dict[str, Array | None]()
    for mover, rpm in samples.with_statistic("speed").items():
        if expected.rpm.get(mover, 0.0) <= 0.0:
            continue
        curve = _curve(expected, mover)
        if curve is None:
            found[mover] = rpm
            continue
        key = curve.model_dump_json()
        if key not in asked:
            asked[key] = asked_of(curve, samples)
        wanted = asked[key]
        if wanted is not None:
            found[mover] = np.where(wanted > LEAST_ASKED, rpm / np.maximum(wanted, LEAST_ASKED), rpm)
    return found


def follows(expected: Expected, mover: str) -> bool:
    """Whether a mover is told a curve in this load."""
    return _curve(expected, mover) is not None


def _curve(expected: Expected, mover: str) -> FanCurve | None:
    command = expected.load.movers.get(mover)
    return None if command is None else command.curve


def asked_of(curve: FanCurve, samples: Samples) -> Array | None:
    """Duty that a firmware asks by its curve, hysteresis and ramps, (sample,); None where its sensor is not read."""
    read = next(
        (
            T
            for kind in ("coolant_hot", "temperature", "air")
            if (T := samples.steady(f"{curve.sensor}/{kind}")) is not None
        ),
        None,
    )
    if read is None:
        return None
    since = samples.time_s - samples.time_s[0]
    step = max(STEP_S, samples.step_s)
    grid = np.arange(0.0, since[-1] + step, step)
    T = np.interp(grid, since, read)
    at, duty = np.array(curve.points, dtype=np.float64).T
    warmed, cooled = np.interp(T, at, duty), np.interp(T + float(curve.hysteresis_k), at, duty)
    up, down = (_left(float(seconds), step) for seconds in (curve.up_s, curve.down_s))
    asked = now = float(warmed[0])
    told = np.empty(len(grid))
    for row in range(len(grid)):
        asked = min(max(asked, float(warmed[row])), float(cooled[row]))
        missing = asked - now
        now = asked - missing * (up if missing > 0.0 else down)
        told[row] = now
    return np.asarray(np.interp(since, grid, told))


def _left(constant_s: float, step_s: float) -> float:
    """Which share of its way a speed has left after a step."""
    return float(np.exp(-step_s / constant_s)) if constant_s > 0.0 else 0.0
