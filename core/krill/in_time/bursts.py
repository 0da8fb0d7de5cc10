"""How long a burst may last: until the band of a place meets its limit less the margin that the brief wants."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Burst
from krill.document.parts import Source
from krill.in_time.crossing import first_at_least
from krill.in_time.legs import Leg, burst_ends_s
from krill.in_time.march import Marched
from krill.in_time.result import BurstHolds
from krill.in_time.run import Ran, march
from krill.networks.states import Case
from krill.numerics.sampling import band_90
from krill.prediction.answer.doubt import place_samples_of
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.solving import Solved, network_of

Array = NDArray[np.float64]

#: so long a burst is followed, s: what holds as long is no burst
LOOKED_S: Final = 600.0
GRID_S: Final = 0.5


def burst_holds(ran: Ran) -> list[BurstHolds]:
    """Of every burst of a load: from the state that the load has soaked the machine to, and from the one before it."""
    case = ran.settled.cases[0]
    return [_holds(ran, case, source, burst) for source, burst in case.workload.burst.items()]


def _holds(ran: Ran, case: Case, source: str, burst: Burst) -> BurstHolds:
    part = ran.settled.build.part(source)
    (soaked, place, at_c), (fresh, _, _) = _until(ran, case, source)
    before, load = (float(np.ravel(one.network.states.watts(source))[0]) for one in (ran.before, ran.settled))
    return BurstHolds(
        source=source,
        name=part.name or part.id,
        watts=float(burst.power_w),
        wanted_s=burst_ends_s(burst, before, load),
        soaked_s=soaked,
        fresh_s=fresh,
        looked_s=LOOKED_S,
        place=place,
        at_c=at_c,
    )


#: seconds until the first place of a source meets its level, that place and the level; None where none does
_First = tuple[float | None, str, float | None]


def _until(ran: Ran, case: Case, source: str) -> list[_First]:
    """From the machine as the load has soaked it, and from the state before: both as cases of one batch."""
    free = lasting_burst(case, source)
    samples = ran.asked.samples
    network = network_of(ran.settled.build, [free, free], samples, ran.asked.seed)
    start = np.concatenate([ran.settled.solution.temperature, ran.begun])
    track = march(network, [Leg((free, free), LOOKED_S / 60)], Marched(start))
    times = times_of_burst()
    found: list[_First] = [(None, "", None), (None, "", None)]
    for address, name, level in levels_of_burst(ran.settled, source):
        T = track.at(times, [network.structure.node_of[address]])[:, :, 0]
        for at, mine in enumerate(np.split(T, 2, axis=1)):
            upper = mine[:, 0]
            if samples:
                upper = band_90(place_samples_of(ran.settled, 0, address, mine[:, 1:]), axis=1)[1]
            met = float(first_at_least(times, upper[:, None], level)[0])
            sooner = found[at][0]
            if not np.isnan(met) and (sooner is None or met < sooner):
                found[at] = met, name, level
    return found


def lasting_burst(case: Case, source: str) -> Case:
    """A case whose source draws its burst for longer than is looked, and gives up no watts."""
    lasting = case.workload.burst[source].model_copy(
        update={"hold_s": 2 * LOOKED_S, "until": "time", "falls_over_s": None}
    )
    load = case.workload.model_copy(update={"burst": {source: lasting}})
    return replace(case, workload=load, throttles=False)


def times_of_burst() -> Array:
    """Seconds at which a burst is looked at."""
    return np.arange(0.0, LOOKED_S + GRID_S, GRID_S)


def levels_of_burst(solved: Solved, source: str) -> Iterator[tuple[str, str, float]]:
    """Places of a source (address, name) with the level that they must stay under, C: the limit less the margin wanted."""
    part = solved.build.part(source)
    wanted = float(solved.build.brief.margin_wanted_k)
    for place in part.places if isinstance(part, Source) else ():
        _, limit_c = lowest_limit(place)
        if limit_c is not None and place.id in solved.structure.node_of:
            yield place.id, place.name or place.id, limit_c - wanted
