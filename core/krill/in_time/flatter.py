"""Which slope of a fan curve ends its hunting: the curve turned flatter about where it works, each run in time."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, Command, FanCurve
from krill.in_time.hunting import hunting_of, last_of
from krill.in_time.legs import Leg
from krill.in_time.march import Marched
from krill.in_time.result import Hunting
from krill.in_time.run import Ran, march
from krill.networks.states import Case, sensor_nodes
from krill.prediction.answer.solving import network_of

Array = NDArray[np.float64]

#: shares of its slope that a curve is tried at
FLATTER: Final = (0.7, 0.5, 0.35, 0.25, 0.15, 0.08)
#: swings that each is followed for
SWINGS: Final = 8.0
#: no kelvin of a sensor is told apart by a firmware below this, K
LEAST_SPAN_K: Final = 0.25

Curves = dict[str, FanCurve]


def with_slopes(ran: Ran, hunting: list[Hunting]) -> list[Hunting]:
    """What hunts, each with the slope of its curve there and the steepest that was tried and holds still, share a kelvin."""
    if not hunting:
        return []
    case = ran.settled.cases[0]
    told = {mover: command.curve for mover, command in case.workload.movers.items() if command.curve is not None}
    reads = {curve.sensor for curve in told.values() if sensor_nodes(ran.network.structure, curve.sensor)}
    swinging = {one.mover: told[one.mover] for one in hunting if one.mover in told and told[one.mover].sensor in reads}
    if not swinging:
        return hunting
    sensed = {curve.sensor: _sensed(ran, curve.sensor) for curve in swinging.values()}
    means = {sensor: float(np.mean(read)) for sensor, read in sensed.items()}
    tried = [
        with_curves(case, {mover: flatter(curve, means[curve.sensor], share) for mover, curve in swinging.items()})
        for share in FLATTER
    ]
    minutes = SWINGS * max(one.period_s for one in hunting) / 60
    found = followed(ran.settled.build, tried, ran.track.moments[-1].T[:1], minutes)
    return [
        _told(one, swinging[one.mover], sensed[swinging[one.mover].sensor], found) if one.mover in swinging else one
        for one in hunting
    ]


def _told(one: Hunting, curve: FanCurve, sensed: Array, found: list[list[Hunting]]) -> Hunting:
    slope = slope_between(curve, float(sensed.min()), float(sensed.max()))
    still = [all(other.mover != one.mover for other in hunting) for hunting in found]
    held = next((share for at, share in enumerate(FLATTER) if all(still[at:])), None)
    return replace(one, slope=slope, slope_that_ends=None if held is None else held * slope)


def followed(build: Build, cases: Sequence[Case], T: Array, minutes: float) -> list[list[Hunting]]:
    """What hunts in each case after so many minutes from T, (1 or case, node), all in one march."""
    network = network_of(build, list(cases))
    start = np.broadcast_to(T, (len(cases), T.shape[1])).copy()
    track = march(network, [Leg(tuple(cases), minutes, bursts=False)], Marched(start))
    return [hunting_of(track, network.states, row) for row in range(len(cases))]


def with_curves(case: Case, curves: Curves) -> Case:
    """A case whose movers follow curves."""
    told = {mover: Command(curve=curve) for mover, curve in curves.items()}
    return replace(case, workload=case.workload.model_copy(update={"movers": case.workload.movers | told}))


def flatter(curve: FanCurve, about_c: float, share: float) -> FanCurve:
    """A curve with a share of its slope that asks the same where its sensor is at ``about_c``."""
    at, duty = np.array(curve.points, dtype=np.float64).T
    about = float(np.interp(about_c, at, duty))
    points = [(float(T), min(max(about + share * (d - about), 0.0), 1.0)) for T, d in zip(at, duty, strict=True)]
    return curve.model_copy(update={"points": points})


def slope_between(curve: FanCurve, low_c: float, high_c: float) -> float:
    """The steepest slope of a curve between two readings of its sensor, share of duty a kelvin."""
    at, duty = np.array(curve.points, dtype=np.float64).T
    span = np.maximum(np.diff(at), LEAST_SPAN_K)
    met = (at[:-1] < max(high_c, low_c + LEAST_SPAN_K)) & (at[1:] > low_c)
    return float(np.max(np.where(met, np.diff(duty) / span, 0.0), initial=0.0))


def _sensed(ran: Ran, sensor: str) -> Array:
    """What a sensor read in the last part of a march, in the central row."""
    nodes = sensor_nodes(ran.network.structure, sensor)
    last = last_of(ran.track)
    return np.array([moment.T[0, nodes].max() for moment, late in zip(ran.track.moments, last, strict=True) if late])
