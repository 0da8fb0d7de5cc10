"""The measured line in its predicted band: what lies beside it, since when, and on which part of its way."""

from collections.abc import Iterator
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.in_time.result import TimeCurve
from krill.watching.expected import READ_K, Expected
from krill.watching.lasting import lasts_until_now
from krill.watching.load import LoadSpan
from krill.watching.result import OutOfBand
from krill.watching.samples import Samples

Array = NDArray[np.float64]

#: what lies beside its band for so many minutes is told
TOLD_MIN: Final = 3.0
#: and by this share of its half width: of eight parts with 90 % bands one lies beside its own more often than not
BEYOND: Final = 0.6
#: bands are held against from so many minutes of the load on
FROM_MIN: Final = 2.0
#: of what a place is off, its coolant or air explains it from this share on
EXPLAINS: Final = 0.6


def out_of_band(expected: Expected, samples: Samples, load: LoadSpan) -> list[OutOfBand]:
    """Temperatures that lie beside their band now, the furthest first."""
    found = list(_out(expected, samples, load))
    return sorted(found, key=lambda one: -max(one.now_c - one.high_c, one.low_c - one.now_c))


def _out(expected: Expected, samples: Samples, load: LoadSpan) -> Iterator[OutOfBand]:
    for role in samples.roles:
        curve = expected.curve(role)
        measured = samples.steady(role)
        if curve is None or measured is None or curve.low_c is None or curve.high_c is None:
            continue
        rows = load.rows(samples) & (samples.time_s >= load.on_s + 60.0 * FROM_MIN)
        if not rows.any():
            continue
        minutes = (samples.time_s[rows] - load.on_s) / 60.0
        shift = room_shift(expected, samples, rows)
        low, high = (np.interp(minutes, expected.forecast.minutes, end) + shift for end in (curve.low_c, curve.high_c))
        own = measured[rows]
        spare = READ_K + BEYOND * (high - low) / 2.0
        beside = (own > high + spare) | (own < low - spare)
        since = lasts_until_now(minutes, beside)
        if since is not None and minutes[-1] - since >= TOLD_MIN:
            now, ends = float(own[-1]), (float(low[-1]), float(high[-1]))
            says = _says(expected, samples, load, curve, now, ends)
            yield OutOfBand(
                address=curve.address,
                name=curve.name,
                now_c=now,
                low_c=ends[0],
                high_c=ends[1],
                since_min=since,
                says=says,
            )


def room_shift(expected: Expected, samples: Samples, rows: NDArray[np.bool_]) -> Array | float:
    """By how much the room stands over the one that was forecast, K."""
    room = samples.steady("room/air")
    return 0.0 if room is None else np.asarray(room[rows] - expected.forecast.room_c)


def _says(
    expected: Expected, samples: Samples, load: LoadSpan, curve: TimeCurve, now: float, ends: tuple[float, float]
) -> str:
    """How far it lies beside its band, and whether what cools it does, too."""
    warmer = now > ends[1]
    far = now - ends[1] if warmer else ends[0] - now
    text = f"{curve.name} is {far:.1f} K {'above' if warmer else 'below'} its predicted band"
    if curve.kind != "place":
        return text
    own = _beyond(expected, samples, load, curve, f"{curve.address}/temperature")
    coolant = [one for one in expected.forecast.curves if one.kind == "coolant"]
    carriers = [_beyond(expected, samples, load, one, f"{one.address}/coolant_hot") for one in coolant]
    known = [one for one in carriers if one is not None]
    if not known or own is None:
        return text
    beyond = max(known, key=abs)
    if beyond * own > 0 and abs(beyond) >= EXPLAINS * abs(own):
        return text + ("; so is the coolant: look at radiator, fans and air" if warmer else "; so is the coolant")
    return text + "; the coolant is as predicted: look at its own path (plate, paste, mount)"


def _beyond(expected: Expected, samples: Samples, load: LoadSpan, curve: TimeCurve, role: str) -> float | None:
    """Kelvins of the last reading over the middle of the prediction."""
    measured = samples.steady(role)
    rows = load.rows(samples)
    if measured is None or not rows.any():
        return None
    minute = (samples.time_s[rows][-1] - load.on_s) / 60.0
    shift = room_shift(expected, samples, rows)
    last = shift if isinstance(shift, float) else float(shift[-1])
    return float(measured[rows][-1] - np.interp(minute, expected.forecast.minutes, curve.c) - last)
