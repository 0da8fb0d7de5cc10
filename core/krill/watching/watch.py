"""A run while it goes on: everything that its samples so far say."""

from collections.abc import Sequence
from typing import Final

import numpy as np

from krill.watching.air_way import air_way_failed
from krill.watching.arrivals import Arrival
from krill.watching.band import out_of_band
from krill.watching.expected import Expected
from krill.watching.held import held_back, room_drifts
from krill.watching.kinds import KINDS
from krill.watching.limits import alarms
from krill.watching.load import LoadSpan, load_span
from krill.watching.movers import Failed, failed_movers
from krill.watching.result import Alarm, Finding, OutOfBand, Settling, Watched
from krill.watching.samples import Samples
from krill.watching.sensors import failed_sensors
from krill.watching.settling import settlings
from krill.watching.words import STOPS, named, told

#: what changes the flows or the watts: temperatures that rise anew after it follow from it
CAUSES: Final = frozenset({"pump-stops", "fan-stalls", "air-lock", "filter-clogs", "supply-sags", "feed-lost"})
_LIES: Final = frozenset({"sensor-stuck", "sensors-swapped"})
#: a chip that is held back so long before or after such a failure is so by itself, s
BEFORE_S: Final = 5.0


def failures(
    expected: Expected, samples: Samples, load: LoadSpan | None, arrived: Sequence[Arrival] = ()
) -> list[Failed]:
    """Everything that failed so far, causes before what follows from them."""
    found = failed_movers(expected, samples) + failed_sensors(expected, samples, load)
    if load is not None:
        found += held_back(expected, samples, load)
        drifts = room_drifts(samples, load)
        found += [] if drifts is None else [drifts]
        if not any(one.kind in CAUSES or one.kind == "throttles" for one in found):
            clogs = air_way_failed(expected, samples, load)
            found += [] if clogs is None else [clogs]
    found += [Failed(one.kind, (), one.at_s) for one in arrived]
    return sorted(found, key=lambda one: (_follows(one, found), KINDS.index(one.kind), one.since_s))


def _follows(one: Failed, found: Sequence[Failed]) -> bool:
    """Whether another failure explains it."""
    causes = [other for other in found if other.kind in CAUSES and other is not one]
    return one.kind == "throttles" and any(cause.since_s <= one.since_s + BEFORE_S for cause in causes)


def watch(expected: Expected, samples: Samples, arrived: Sequence[Arrival] = (), settles: bool = True) -> Watched:
    """What is told of a run. Needs at least one sample; ``settles`` off leaves out what takes longest."""
    load = load_span(expected, samples)
    found = failures(expected, samples, load, arrived)
    begins = 0.0 if load is None else load.on_s
    told_of = [_finding(expected, one, found, begins) for one in found]
    room = samples.steady("room/air")
    causes = [one for one in found if one.kind in CAUSES]
    near = [] if load is None else alarms(expected, samples, load, bool(causes))
    lie = {role.rpartition("/")[0] for one in found if one.kind in _LIES for role in one.on}
    beside = [] if load is None or causes else out_of_band(expected, samples, load)
    off = [one for one in beside if one.address not in lie]
    moved = [one.since_s for one in found if one.kind in CAUSES or one.kind == "throttles"]
    last = max([since for since in moved if since > begins], default=begins)
    stops = any(one.kind in STOPS for one in causes)
    settling = settlings(expected, samples, load, last) if settles and load is not None and not stops else []
    return Watched(
        load_on_min=None if load is None else begins / 60.0,
        minutes=0.0 if load is None else ((load.off_s or samples.now_s) - begins) / 60.0,
        load_ended=load is not None and load.off_s is not None,
        room_c=None if room is None else float(np.median(room[-5:])),
        findings=told_of,
        alarms=near,
        off=off,
        settling=settling,
        sentence=sentence(load, told_of, near, off, settling),
    )


def _finding(expected: Expected, one: Failed, found: Sequence[Failed], begins_s: float) -> Finding:
    return Finding(
        kind=one.kind,
        on=list(one.on),
        name=named(expected.build, one),
        says=told(expected.build, one),
        since_min=(one.since_s - begins_s) / 60.0,
        follows=_follows(one, found),
        stop=one.kind in STOPS,
    )


def sentence(
    load: LoadSpan | None,
    findings: Sequence[Finding],
    near: Sequence[Alarm],
    off: Sequence[OutOfBand],
    settling: Sequence[Settling],
) -> str:
    """The one thing to know now."""
    if load is None:
        return findings[0].says if findings else "Waiting for the load."
    urgent = [finding.says for finding in findings if finding.stop and load.off_s is None]
    urgent += [alarm.says for alarm in near]
    urgent += [finding.says for finding in findings]
    if urgent:
        return urgent[0]
    if load.off_s is not None:
        return "The load has ended. End the run to keep it and see the verdict."
    if off:
        return f"{off[0].says}."
    if settling:
        return f"{settling[0].name}: {settling[0].says}."
    return "The load is on; every temperature is in its predicted band."
