"""How far over the figures the bands of a structure reach, linearised: shares of the rise, for every row of a batch.

What is not known of a machine moves a part in proportion to its rise; one set of draws serves all candidates of a structure.
"""

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.networks.states import Case
from krill.numerics.sampling import band_90
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.solving import Solved, room_of, try_cases

Array = NDArray[np.float64]

DRAWS = 80
#: shares are taken of a rise of this at least, K
LEAST_RISE_K = 2.0


def half_shares(build: Build, cases: list[Case]) -> Array:
    """(case, place with a limit): the hot half of a place's 90 % band over its rise; the mean where a case does not settle."""
    solved = try_cases(build, cases, DRAWS)
    places = _limited(solved)
    found = np.full((len(cases), len(places)), np.nan)
    for index in range(len(cases)):
        row = solved.central(index)
        if not np.isfinite(solved.solution.temperature[solved.drawn(index)]).all():
            continue
        for column, place in enumerate(places):
            _, high = band_90(place_samples(solved, index, place))
            central = float(solved.solution.temperature[row, solved.structure.node_of[place]])
            rise = max(abs(central - room_of(solved, row)), LEAST_RISE_K)
            found[index, column] = (float(high) - central) / rise
    return np.where(np.isnan(found), np.nanmean(found) if np.isfinite(found).any() else 0.0, found)


def halves(solved: Solved, shares: Array) -> Array:
    """How far below its figure the margin of every row may be, K (batch, place with a limit), by its structure's shares."""
    nodes = [solved.structure.node_of[place] for place in _limited(solved)]
    T = solved.solution.temperature
    rise = np.abs(T[:, nodes] - T[:, solved.network.pattern.given[:1]])
    return np.asarray(rise * np.repeat(shares, solved.stride, axis=0))


def _limited(solved: Solved) -> list[str]:
    """Places with a limit, in the order of their margins."""
    return [route.place.id for route in solved.structure.routes if lowest_limit(route.place)[1] is not None]
