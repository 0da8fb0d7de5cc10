"""What the model itself may be off of a part's rise over the room, beside the doubts of its figures.

Laws hold checked cases to a few per cent; a machine that is described by classes is further off than its figures say.
By how much is found from the rows of the accuracy page (``tools/model_error.py``), not chosen.
"""

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.networks.structure import PlaceRoute
from krill.prediction.answer.origins import GUESSES, body_origin, layer_origin

Array = NDArray[np.float64]

#: half widths of 90 % as shares of the rise: of what was measured (estimate), and of what is described by classes
MEASURED_SHARE = 0.05
DESCRIBED_SHARE = 0.15


def share_of_rise(table: FigureTable, route: PlaceRoute, T: Array, room_c: float) -> float:
    """Half width as a share of the rise, between both by how much of the rise rests on guesses; ``T`` (node,)."""
    rise = float(T[route.layers[0].inner] if route.layers else room_c) - room_c
    steps = [(layers[0], abs(float(T[layers[0].inner] - T[layers[0].outer]))) for layers in route.steps]
    guessed = sum(drop for layer, drop in steps if layer_origin(table, route.place, layer) in GUESSES)
    rest = max(abs(rise) - sum(drop for _, drop in steps), 0.0)
    whole = max(sum(drop for _, drop in steps) + rest, 1e-9)
    share = (guessed + rest * _end_is_guessed(table, route)) / whole
    return float(np.hypot(MEASURED_SHARE, share * np.sqrt(DESCRIBED_SHARE**2 - MEASURED_SHARE**2)))


def _end_is_guessed(table: FigureTable, route: PlaceRoute) -> bool:
    """Whether what carries the heat on from the route's end is described by classes: radiators, the box, a body."""
    if route.body is not None:
        return body_origin(table, route.body) in GUESSES
    if route.loop is not None:
        known = [part.id for part in table.build.parts if part.kind == "radiator"]
        return any(table.figures[f"{part}/factor"].origin in GUESSES for part in known)
    return True
