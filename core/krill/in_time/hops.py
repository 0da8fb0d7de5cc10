"""Where a place's kelvins lie at any minute: its hops by the temperatures of that moment, with the flows of the settled load."""

from collections.abc import Sequence
from dataclasses import replace
from itertools import chain, pairwise
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
#: where in a stretch between two turns of the load
AFTER_A_TURN: Final = np.array([0.0, 0.01, 0.04, 0.12, 0.3, 0.6])


def hop_times(minutes: float, turns: Sequence[float] = ()) -> Array:
    """Seconds at which hops are told: when the load comes on, closer together at first and after each of its turns, s."""
    end = 60.0 * minutes
    told = np.concatenate([[0.0], np.geomspace(min(FIRST_S, 0.5 * end), end, MARKS)])
    stretches = [a + AFTER_A_TURN * (b - a) for a, b in pairwise(np.unique([*turns, end]))]
    return np.unique(np.concatenate([told, *stretches])) if turns else told


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
