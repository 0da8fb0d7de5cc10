"""Where a place's kelvins lie at any minute: its hops by the temperatures of that moment, with the flows of the settled load."""

from dataclasses import replace
from itertools import chain
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.in_time.result import HopInTime
from krill.in_time.run import Ran
from krill.prediction.answer.hops import route_hops
from krill.prediction.answer.result import HopDrop

Array = NDArray[np.float64]

#: so many minutes at which hops are told, the first of them some seconds after the load came on
MARKS: Final = 24
FIRST_S: Final = 2.0


def hop_times(minutes: float) -> Array:
    """Seconds at which hops are told: when the load comes on, and closer together at first."""
    end = 60.0 * minutes
    return np.concatenate([[0.0], np.geomspace(min(FIRST_S, 0.5 * end), end, MARKS)])


def hops_in_time(ran: Ran, times: Array) -> dict[str, list[HopInTime]]:
    """Of every place, from it to the room, in the central case; at each time they add up to what it stands over the room."""
    settled = ran.settled
    T = ran.track.at(times, list(range(settled.solution.temperature.shape[1])))
    moments = [replace(settled, solution=replace(settled.solution, temperature=now)) for now in T]
    return {
        route.place.id: _through([route_hops(moment, 0, route) for moment in moments])
        for route in settled.structure.routes
    }


def _through(moments: list[list[HopDrop]]) -> list[HopInTime]:
    """One hop each for all moments, as they stand at the end; one that another moment does not have is nothing there."""
    named = {hop.address: hop for hop in chain(moments[-1], *moments)}
    at = [{hop.address: hop.drop_k for hop in moment} for moment in moments]
    return [
        HopInTime(address=address, name=hop.name, kind=hop.kind, drop_k=[drops.get(address, 0.0) for drops in at])
        for address, hop in named.items()
    ]
