"""Less air gets through: coolant or box air begin to rise anew though watts, speeds, flow and room stay as they were.

Under steady watts every temperature of a linear network is a sum of exponentials that began with the load, near to the one
that is forecast, and follows the room; a resistance that changes on the way adds one that begins later. All are fitted by
least squares with what is known of their amplitudes, the later one at every half minute, and it counts where it takes most of
what the others leave.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, leaves
from krill.document.parts import Cooler, Fan, Filter, Opening, Radiator
from krill.runs.rises import followed_by
from krill.watching.expected import Expected
from krill.watching.following import speed_shares
from krill.watching.load import LoadSpan
from krill.watching.movers import Failed
from krill.watching.samples import Samples, filled

Array = NDArray[np.float64]

#: readings are taken together over so many seconds; looked at from so long after the load came on, over so long at least
BIN_S, FROM_S, LEAST_S = 10.0, 60.0, 300.0
#: constants of what began with the load, and of what began later, s
CONSTANTS_S: Final = np.array([30.0, 90.0, 250.0, 700.0, 2000.0, 6000.0])
LATER_S: Final = np.array([90.0, 240.0, 600.0])
#: amplitudes beside the forecast are thought to be below this, K (standard deviation)
AMPLITUDE_K: Final = 6.0
#: the forecast's rise is thought to be right to such a factor, in size and in time
FACTORS, SLOWER = 0.5, (0.7, 1.0, 1.4)
#: the room is followed with these constants, s: mostly the middle one, the others by such a share
ROOM_S, ROOM_SHARE = (60.0, 400.0, 1500.0), 0.7
#: a later rise is looked for at every so many seconds, with so many seconds of it seen
EVERY_S, SEEN_S = 30.0, 60.0
#: it counts from this rise seen so far on, K, and once it takes this many times what is left per reading
LEAST_RISE_K, TAKES = 0.45, 55.0
#: what is put in stayed as it was: within these shares
STAYED: Final = {"power": 0.05, "speed": 0.03, "flow": 0.06}


def air_way_failed(expected: Expected, samples: Samples, load: LoadSpan) -> Failed | None:
    """The filter, else the opening, of the first path of air with a fan, where a later rise is found."""
    in_the_way = what_clogs(expected.build)
    if not in_the_way:
        return None
    begun = [
        since
        for role in samples.roles
        if role.endswith(("/coolant_hot", "/air"))
        and role != "room/air"
        and (since := _later_rise(expected, samples, role, load)) is not None
        and _all_stayed(expected, samples, load, since)
    ]
    return Failed("filter-clogs", tuple(in_the_way[:1]), min(begun)) if begun else None


def what_clogs(build: Build) -> list[str]:
    """Filters, else openings, of paths that a fan drives; those before a radiator or cooler first."""
    parts = {part.id: part for part in build.parts}
    ways = [[parts[i] for i in leaves(path.elements) if i in parts] for path in build.air_paths]
    driven = [way for way in ways if any(isinstance(part, Fan) for part in way)]
    driven.sort(key=lambda way: not any(isinstance(part, Radiator | Cooler) for part in way))
    found = [next((p.id for kind in (Filter, Opening) for p in way if isinstance(p, kind)), None) for way in driven]
    return list(dict.fromkeys(one for one in found if one is not None))


def _binned(samples: Samples, load: LoadSpan, burst_s: float, values: Array) -> tuple[Array, Array]:
    """Seconds of the load and means over ``BIN_S`` of one or more channels, (sample, channel)."""
    rows = load.rows(samples) & (samples.time_s >= load.on_s + FROM_S + burst_s)
    since = samples.time_s[rows] - load.on_s
    if since.size == 0:
        return since, values[rows]
    place = ((since - since[0]) / BIN_S).astype(int)
    count = np.bincount(place)
    full = count >= 0.6 * np.median(count[count > 0])
    means = [np.bincount(place, column)[full] / count[full] for column in [since, *values[rows].T]]
    return means[0], np.stack(means[1:], axis=1)


def _later_rise(expected: Expected, samples: Samples, role: str, load: LoadSpan) -> float | None:
    """When a rise began later than the load, on the run's clock; None where none stands out."""
    values, curve = samples.of(role), expected.curve(role)
    assert values is not None
    t, y = _binned(samples, load, expected.burst_ends_s, np.column_stack([filled(values), _rooms(samples)]))
    if t.size < LEAST_S / BIN_S:
        return None
    starts = np.arange(t[0] + 120.0, t[-1] - SEEN_S, EVERY_S)
    if not starts.size:
        return None
    own, followed = y[:, 0], y[:, 1:]
    noise = max(float(np.mean(np.diff(own, 2) ** 2) / 6.0), 1e-6)
    columns = [
        np.ones((len(t), 1)),
        np.exp(-t[:, None] / CONSTANTS_S),
        np.delete(followed, 1, axis=1) - followed[:, 1:2],
    ]
    known = [np.full(1, np.inf), np.full(len(CONSTANTS_S), AMPLITUDE_K), np.full(2, ROOM_SHARE)]
    if curve is not None:
        minutes, c = np.array(expected.forecast.minutes), np.array(curve.c)
        columns += [np.interp(t / 60.0 / slower, minutes, c)[:, None] - expected.forecast.room_c for slower in SLOWER]
        known += [np.full(len(SLOWER), FACTORS)]
    later = np.maximum(t[:, None, None] - starts[None, :, None], 0.0)
    shapes = (1.0 - np.exp(-later / LATER_S)).reshape(len(t), -1)
    found = _stands_out(np.hstack(columns), np.concatenate(known), own - followed[:, 1], shapes, noise)
    return None if found is None else load.on_s + float(starts[found // len(LATER_S)])


def _rooms(samples: Samples) -> Array:
    """The room as something follows it with each of ``ROOM_S``, C (sample, constant)."""
    room = samples.steady("room/air")
    if room is None:
        return np.zeros((len(samples.time_s), len(ROOM_S)))
    since = samples.time_s - samples.time_s[0]
    now_and_then = np.arange(0.0, since[-1] + BIN_S, BIN_S)
    followed = followed_by(now_and_then, np.interp(now_and_then, since, room), np.array(ROOM_S), float(room[0]))
    return np.stack([np.interp(since, now_and_then, own) for own in followed], axis=1)


def _stands_out(base: Array, known: Array, y: Array, shapes: Array, noise: float) -> int | None:
    """Which shape takes most of what the base leaves of the readings, where it takes enough; None where none does.

    ``known`` are standard deviations of the base's amplitudes.
    """
    # what is known stands as rows below the readings
    rows = np.diag(np.sqrt(noise) / known)
    q, _ = np.linalg.qr(np.vstack([base, rows]))
    below = np.zeros((base.shape[1], shapes.shape[1]))
    left = np.concatenate([y, below[:, 0]])
    left = left - q @ (q.T @ left)
    own = np.vstack([shapes, below])
    own = own - q @ (q.T @ own)
    size = np.maximum((own**2).sum(axis=0), 1e-9)
    amplitude = (left @ own) / size
    takes = np.where(amplitude * shapes[-1] >= LEAST_RISE_K, amplitude**2 * size, 0.0)
    best = int(np.argmax(takes))
    rest = max(float(left @ left) - takes[best], 0.0) / max(len(y) - base.shape[1] - 1, 1)
    return best if takes[best] >= TAKES * max(rest, noise) else None


def _all_stayed(expected: Expected, samples: Samples, load: LoadSpan, since_s: float) -> bool:
    """Whether watts, speeds and flows are now what they were before the rise; of speeds that follow what is asked of them."""
    before = (samples.time_s >= since_s - 120.0) & (samples.time_s < since_s - 10.0) & load.rows(samples)
    after = (samples.time_s >= since_s) & load.rows(samples)
    for statistic, share in STAYED.items():
        told = speed_shares(expected, samples) if statistic == "speed" else samples.with_statistic(statistic)
        for values in told.values():
            was = float(np.median(values[before])) if before.any() else 0.0
            large = was > (8.0 if statistic == "power" else 0.0)
            if large and np.mean(np.abs(values[after] / was - 1.0) > share) > 0.2:
                return False
    return True
