"""The forecast of a load in time: curves with bands, when limits are met, how long a test must last, what is held back."""

from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.in_time.bursts import burst_holds
from krill.in_time.constants import named_nodes, time_constants
from krill.in_time.crossing import first_at_least, goes_to, peaks, stays_within
from krill.in_time.flatter import with_slopes
from krill.in_time.held_back import gives_up, held_back
from krill.in_time.hops import hop_times, hops_in_time
from krill.in_time.hunting import hunting_of
from krill.in_time.legs import Bursts, Leg
from krill.in_time.result import CurveKind, HopInTime, InTime, Phase, TimeConstant, TimeCurve
from krill.in_time.run import COLD, Asked, Cycle, Ran, run_in_time
from krill.in_time.words import sentence_of
from krill.numerics.sampling import band_90
from krill.prediction.answer.doubt import place_samples_of
from krill.prediction.answer.places import HELD_K, lowest_limit, status_of
from krill.prediction.answer.result import Band, Status
from krill.prediction.answer.solving import room_of
from krill.prediction.answer.sound import levels_at
from krill.prediction.predict import CERTIFIES

Array = NDArray[np.float64]

#: minutes before the load that are shown, and what is settled
LEAD_MIN: Final = 10.0
WITHIN_K: Final = 1.0
#: of a place held at its limit so much under it counts as met, K
MET_K: Final = 0.02
#: what rises by less has no share to tell, K
LEAST_RISE_K: Final = 0.5
SHOWN_MIN: Final = 30.0


def forecast_in_time(build: Build, asked: Asked) -> InTime:
    """DocumentRefused names a load that is not there or a state that no machine stays in; NotConverged what swings."""
    ran = run_in_time(build, asked)
    times = output_times(asked.minutes, asked.cycle)
    constants = time_constants(ran.settled, asked.workload)
    at = hop_times(asked.minutes, _turns(ran))
    hops = hops_in_time(ran, at)
    curves = [_curve(ran, times, constants, hops, *named) for named in named_nodes(ran.settled)]
    sound = _sound(ran, times)
    quiet, loud = _ends(ran, sound[:, 1:])
    load = ran.settled.cases[0].workload
    hunting = hunting_of(ran.track, ran.network.states) if asked.cycle is None else []
    slowest = max(curves, key=lambda curve: curve.within_1k_min)
    bursts = burst_holds(ran)
    return InTime(
        workload=load.id,
        name=load.name or load.id,
        room_c=room_of(ran.settled, 0),
        before=asked.before,
        on_min=None if asked.cycle is None else asked.cycle.on_min,
        off_min=None if asked.cycle is None else asked.cycle.off_min,
        samples=asked.samples,
        minutes=(times / 60).tolist(),
        hop_minutes=(at / 60).tolist(),
        curves=curves,
        sound_dba=sound[:, 0].tolist(),
        sound_low_dba=quiet,
        sound_high_dba=loud,
        ceiling_dba=None if load.sound_ceiling_dba is None else float(load.sound_ceiling_dba),
        phases=_phases(ran),
        bursts=bursts,
        held_back=held_back(ran),
        hunting=hunting if asked.samples else with_slopes(ran, hunting),
        constants=constants,
        slowest=slowest.name,
        minutes_needed=slowest.within_1k_min,
        share_at_30=slowest.share_at_30,
        sentence=sentence_of(slowest, bursts, "part" if asked.cycle is None else "peak"),
        certifies=CERTIFIES,
    )


def output_times(minutes: float, cycle: Cycle | None = None) -> Array:
    """Seconds at which curves are told: before the load, close together after it came on, then wider; 0 among them, and
    every moment at which a load comes or goes.
    """
    end = 60.0 * minutes
    fast = np.concatenate([[-60.0 * LEAD_MIN, -1e-3, 0.0], np.geomspace(0.1, min(60.0, end), 40)])
    slow = np.linspace(min(60.0, end), end, 241)[1:] if end > 60.0 else np.empty(0)
    told = np.concatenate([fast, slow])
    return told if cycle is None else np.union1d(told, _switched(cycle, minutes))


def _switched(cycle: Cycle, minutes: float) -> Array:
    """Seconds at which a load comes or goes, its beginning and the end of the time among them."""
    return 60.0 * np.cumsum([0.0, *(lasts for _, lasts in cycle.legs(minutes))])


def _at(ran: Ran, times: Array, nodes: list[int]) -> Array:
    """Temperatures at output times, (time, batch, node); before the load those of the state that it came on over."""
    found = ran.track.at(np.maximum(times, 0.0), nodes)
    if ran.asked.before != COLD:
        found[times < 0.0] = ran.before.solution.temperature[:, nodes]
    return found


def _curve(
    ran: Ran,
    times: Array,
    constants: list[TimeConstant],
    hops: dict[str, list[HopInTime]],
    address: str,
    name: str,
    kind: CurveKind,
    nodes: list[int],
) -> TimeCurve:
    T = _at(ran, times, nodes).max(axis=2)
    settled = ran.settled.solution.temperature[:, nodes].max(axis=1)
    loaded = times >= 0.0
    comes = _comes(ran)
    if comes is not None:
        settled = goes_to(peaks(times, T, comes))
    limit_c, drawn, ends = None, T[:, 1:], settled[1:]
    if kind == "place":
        place, _ = ran.settled.build.place_owners()[address]
        _, limit_c = lowest_limit(place)
        if ran.asked.samples:
            drawn = place_samples_of(ran.settled, 0, address, drawn)
            ends = place_samples_of(ran.settled, 0, address, ends)
            if place.throttles and limit_c is not None:
                drawn, ends = np.minimum(drawn, limit_c), np.minimum(ends, limit_c)
    low, high = band_90(ends) if ran.asked.samples else (settled[0], settled[0])
    band = Band(low=float(low), high=float(high)) if ran.asked.samples else None
    coolest, warmest = _ends(ran, drawn)
    shown_s, shown = (times[loaded], T[loaded, 0]) if comes is None else (comes[1:], peaks(times, T, comes)[:, 0])
    within = stays_within(shown_s / 60, shown, float(settled[0]), WITHIN_K)
    first = T[np.flatnonzero(loaded)[0], 0]
    rise = float(settled[0] - first)
    at_30 = float(np.interp(60 * SHOWN_MIN, shown_s, shown))
    return TimeCurve(
        address=address,
        name=name,
        kind=kind,
        c=T[:, 0].tolist(),
        low_c=coolest,
        high_c=warmest,
        limit_c=limit_c,
        status=None if kind != "place" else _status(ran, address, limit_c, float(settled[0]), band),
        settles_c=float(settled[0]),
        settles_band_c=band,
        limit_min=_met(times[loaded], T[loaded, :1], limit_c),
        limit_share=None if limit_c is None or not ran.asked.samples else _share_met(drawn[loaded], limit_c),
        within_1k_min=_later(ran, shown[-1] - settled[0], constants) if within is None else within,
        share_at_30=None if abs(rise) < LEAST_RISE_K else (at_30 - float(first)) / rise,
        hops=hops.get(address, []),
    )


def _comes(ran: Ran) -> Array | None:
    """Seconds at which a load that comes and goes comes, and the end of the last whole time; None of one that stays."""
    cycle = ran.asked.cycle
    if cycle is None:
        return None
    whole = max(int(ran.asked.minutes / cycle.minutes + 1e-9), 1)
    return np.asarray(np.minimum(60.0 * cycle.minutes * np.arange(whole + 1), ran.ends_s))


def _ends(ran: Ran, drawn: Array) -> tuple[list[float] | None, list[float] | None]:
    """Both ends of the band of draws at each time, (time, draw); None without draws."""
    if not ran.asked.samples:
        return None, None
    low, high = band_90(drawn, axis=1)
    return low.tolist(), high.tolist()


def _met(times: Array, T: Array, limit_c: float | None) -> float | None:
    at = np.nan if limit_c is None else float(first_at_least(times / 60, T, limit_c - MET_K)[0])
    return None if np.isnan(at) else at


def _share_met(drawn: Array, limit_c: float) -> float:
    return float(np.mean((drawn >= limit_c - MET_K).any(axis=0)))


def _status(ran: Ran, address: str, limit_c: float | None, settles: float, band: Band | None) -> Status:
    place, source = ran.settled.build.place_owners()[address]
    if limit_c is not None and place.throttles and settles >= limit_c - HELD_K and gives_up(ran, source.id):
        return "throttled"
    margin = None if limit_c is None else limit_c - settles
    of_margin = None if limit_c is None or band is None else Band(low=limit_c - band.high, high=limit_c - band.low)
    return status_of(margin, of_margin, float(ran.settled.build.brief.margin_wanted_k))[0]


def _later(ran: Ran, missing: float, constants: list[TimeConstant]) -> float:
    """Minutes at which what still misses at the end has come within a kelvin, by the slowest constant of all."""
    slowest = max([one.seconds for one in constants], default=60.0)
    return ran.asked.minutes + slowest / 60 * float(np.log(max(abs(missing) / WITHIN_K, 1.0)))


def _sound(ran: Ran, times: Array) -> Array:
    """Level at the listener, dBA (time, batch), by the speeds of the moments around."""
    known, moments = ran.track.times, ran.track.moments
    batch = len(moments[0].T)
    steady = all(np.allclose(m.speeds[k], moments[0].speeds[k]) for m in moments for k in m.speeds)
    levels = [levels_at(ran.settled, slice(None), moment.speeds) for moment in (moments[:1] if steady else moments)]
    if steady:
        found = np.broadcast_to(levels[0], (len(times), batch)).copy()
    else:
        stacked = np.stack(levels)
        found = np.stack([np.interp(np.maximum(times, 0.0), known, stacked[:, row]) for row in range(batch)], axis=1)
    if ran.asked.before != COLD:
        found[times < 0.0] = levels_at(ran.before, slice(None), ran.before.solution.speeds)
    return found


def _turns(ran: Ran) -> list[float]:
    """Seconds at which watts turn: where a burst ends, where a load comes or goes."""
    if ran.asked.cycle is not None:
        return [float(at) for at in _switched(ran.asked.cycle, ran.asked.minutes)]
    return [kink for kink in _kinks(ran) if 0.0 < kink < ran.ends_s]


def _kinks(ran: Ran) -> list[float]:
    leg = Leg((ran.settled.cases[0],), ran.asked.minutes)
    return Bursts(ran.settled.network.states, leg, ran.before.network.states).kinks()


def _phases(ran: Ran) -> list[Phase]:
    """Before the load, its bursts, and what is sustained after them; of one that comes and goes each time on and off."""
    if ran.asked.cycle is not None:
        at = _switched(ran.asked.cycle, ran.asked.minutes) / 60
        turns = [("on" if k % 2 == 0 else "off", float(a), float(b)) for k, (a, b) in enumerate(pairwise(at))]
        named = [(_before_name(ran), -LEAD_MIN, 0.0), *turns]
        return [Phase(name=name, begins_min=a, ends_min=b) for name, a, b in named]
    ends = min(max(_kinks(ran), default=0.0) / 60, ran.asked.minutes)
    named = [(_before_name(ran), -LEAD_MIN, 0.0), ("burst", 0.0, ends), ("sustained", ends, ran.asked.minutes)]
    return [Phase(name=name, begins_min=a, ends_min=b) for name, a, b in named if b > a]


def _before_name(ran: Ran) -> str:
    return "off" if ran.asked.before == COLD else ran.before.cases[0].workload.name or ran.before.cases[0].workload.id
