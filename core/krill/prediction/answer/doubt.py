"""What is not known of a place: draws of its figures, and beside them what the model itself may be off."""

import numpy as np
from numpy.typing import NDArray

from krill.numerics.sampling import QUANTILE_90, normal_draws
from krill.prediction.answer.extrapolated import extrapolated_k
from krill.prediction.answer.model_error import share_of_rise
from krill.prediction.answer.solving import Solved

Array = NDArray[np.float64]

#: half width of 90 % of what a law may be off beyond the range it was made for (estimate)
EXTRAPOLATED_SHARE = 0.25
#: share of the model's error that is not the same in another workload than in the one it was learnt in (estimate)
LEFT_BY_RUNS = 0.5


def place_samples(solved: Solved, case: int, place: str) -> Array:
    """Drawn temperatures of a place with the model's own error, C (samples,)."""
    return place_samples_of(
        solved, case, place, solved.solution.temperature[solved.drawn(case), solved.structure.node_of[place]]
    )


def place_samples_of(solved: Solved, case: int, place: str, drawn_c: Array) -> Array:
    """Drawn temperatures of a place at other times of a case, C (..., samples), with the model's own error."""
    room = solved.solution.temperature[solved.drawn(case), solved.network.pattern.given[0]]
    normal = normal_draws(solved.seed, f"model/{place}", solved.samples)
    return np.asarray(room + (drawn_c - room) * (1.0 + model_share(solved, case, place) / QUANTILE_90 * normal))


def _left_open(solved: Solved, place: str) -> float:
    """What runs that read a place have left of the model's error there; all of it where none did."""
    known = solved.build.calibration
    return LEFT_BY_RUNS if known is not None and f"{place}/temperature" in known.places else 1.0


def model_share(solved: Solved, case: int, place: str) -> float:
    """Half width of what the model may be off at a place, as a share of its rise."""
    T = solved.solution.temperature[solved.central(case)]
    room_c = float(T[solved.network.pattern.given[0]])
    route = next(route for route in solved.structure.routes if route.place.id == place)
    share = share_of_rise(solved.table, route, T, room_c) * _left_open(solved, place)
    rise = abs(float(T[solved.structure.node_of[place]]) - room_c)
    beyond = min(extrapolated_k(solved, case, route), rise) / rise if rise > 0.0 else 0.0
    return float(np.hypot(share, EXTRAPOLATED_SHARE * beyond))
