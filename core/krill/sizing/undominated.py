"""The undominated rows of a table of costs: no other is as good everywhere and better somewhere."""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def undominated(costs: Array) -> NDArray[np.bool_]:
    """Mask of the undominated rows, all columns to be small (row, column); a NaN counts as the worst. Equals both stay.

    Rows are visited from the least sum of ranks, so most are struck by the first few.
    """
    table = np.where(np.isnan(costs), np.inf, costs)
    alive = np.ones(table.shape[0], dtype=bool)
    ranks = np.argsort(np.argsort(table, axis=0), axis=0).sum(axis=1)
    for row in np.argsort(ranks):
        if not alive[row]:
            continue
        as_good = np.all(table[row] <= table, axis=1)
        better = np.any(table[row] < table, axis=1)
        alive &= ~(as_good & better)
    return alive
