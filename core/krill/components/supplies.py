"""Power supplies: which of them carries a part, and what they lose at a load."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.classes import classes
from krill.components.figure_table import Values
from krill.document.build import Build
from krill.document.part_base import Part
from krill.document.parts import Supply

Array = NDArray[np.float64]

#: loss over rating = a + b x + c x^2 at the load share x, of a supply of good efficiency (fit to its class's efficiencies at
#: 10, 20, 50 and 100 %; value from memory)
LOSS_CURVE = (0.0231, 0.0081, 0.1175)
#: the load share that a supply's efficiency is stated at
STATED_AT = 0.5


def carriers(build: Build, part: Part) -> list[Supply]:
    """The supplies that share a part's load: the one that feeds it, else those of its machine, else all of them.

    What has its own plug in the wall loads none.
    """
    if any(feed.id == part.feed and feed.kind == "mains" for feed in build.feeds):
        return []
    supplies = [other for other in build.parts if isinstance(other, Supply)]
    feeding = [supply for supply in supplies if supply.id == part.feed]
    return feeding or [supply for supply in supplies if supply.machine == part.machine] or supplies


def loss_w(supply: Supply, load_w: Array, values: Values) -> Array:
    """What a supply turns into heat at a load, W.

    Its class's curve over the load, laid through the efficiency that is stated for half load; without a rating nobody
    knows the share, and that efficiency holds throughout.
    """
    half = 1.0 / values(f"{supply.id}/efficiency") - 1.0
    if not values.has(f"{supply.id}/rating_w"):
        return np.asarray(load_w * half)
    rating = values(f"{supply.id}/rating_w")
    known = classes().get(supply.class_ or "")
    curve = LOSS_CURVE if known is None else known.loss_curve or LOSS_CURVE
    share = load_w / rating
    return np.asarray(rating * _at(curve, share) * STATED_AT * half / _at(curve, np.asarray(STATED_AT)))


def _at(curve: Sequence[float], share: Array) -> Array:
    a, b, c = curve
    return np.asarray(a + b * share + c * share**2)
