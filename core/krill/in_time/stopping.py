"""Off or stopped, in time: how many minutes each limit takes once a mover or a feed is off at full load."""

from typing import Final

import numpy as np

from krill.document.build import Build
from krill.in_time.crossing import first_at_least
from krill.in_time.legs import Leg
from krill.in_time.march import Marched
from krill.in_time.result import LimitMet, StoppedInTime, StoppedMinutes
from krill.in_time.run import march
from krill.networks.states import Case
from krill.prediction.answer.lasting import no_state
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.solving import network_of, solve_cases
from krill.prediction.predict import cases_of
from krill.prediction.questions.stopped import stopped

#: so long each case is followed, min, and every so many seconds it is looked at
LOOKED_MIN: Final = 60.0
GRID_S: Final = 2.0
#: error of a step, K: minutes to a limit want no more
TOLERANCE_K: Final = 0.05
#: a place that gives up watts sits at its limit: so much under it counts as met, K
MET_K: Final = 0.05


def stopped_in_time(build: Build, workload: str, room_c: float | None = None) -> StoppedInTime:
    """Every case from the machine as it had settled, all in one batch; a machine that settles in no state is not looked at.

    DocumentRefused names a load that is not there.
    """
    settled = stopped(build, workload, room_c)
    as_built = cases_of(build, [workload], room_c)[0]
    off = list(dict.fromkeys(frozenset(one.stopped) for one in settled.cases))
    cases = [Case(as_built.workload, as_built.room_c, as_built.altitude_m, stands) for stands in off]
    if not cases:
        return StoppedInTime(settled=settled, looked_min=LOOKED_MIN, minutes=[])
    start = solve_cases(build, [as_built] * len(cases))
    if no_state(start, 0) is not None:
        unknown = [StoppedMinutes(address=one.address, met=[]) for one in settled.cases]
        return StoppedInTime(settled=settled, looked_min=0.0, minutes=unknown)
    network = network_of(build, cases)
    leg = Leg(tuple(cases), LOOKED_MIN, bursts=False)
    track = march(network, [leg], Marched(start.solution.temperature.copy()), tolerance_k=TOLERANCE_K)
    times = np.arange(0.0, 60 * LOOKED_MIN + GRID_S, GRID_S)
    met: list[list[LimitMet]] = [[] for _ in cases]
    for address, (place, _) in build.place_owners().items():
        _, limit_c = lowest_limit(place)
        if limit_c is None or address not in network.structure.node_of:
            continue
        T = track.at(times, [network.structure.node_of[address]])[:, :, 0]
        for at, minutes in enumerate(first_at_least(times / 60, T, limit_c - MET_K)):
            if not np.isnan(minutes):
                met[at].append(
                    LimitMet(address=address, name=place.name or address, limit_c=limit_c, minutes=float(minutes))
                )
    return StoppedInTime(
        settled=settled,
        looked_min=LOOKED_MIN,
        minutes=[
            StoppedMinutes(
                address=one.address, met=sorted(met[off.index(frozenset(one.stopped))], key=lambda limit: limit.minutes)
            )
            for one in settled.cases
        ],
    )
