"""Whether each row of a batch settled, and why one did not: no row is lost because another one fails."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.errors import NotConverged

Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class RowStatus:
    """``why`` has a sentence for every row that did not settle, and none for the others."""

    rows: int
    why: dict[int, str]

    @property
    def settled(self) -> Mask:
        """(batch,)"""
        found = np.ones(self.rows, dtype=bool)
        found[list(self.why)] = False
        return found

    @classmethod
    def after(cls, failed: Mask, sentence: Callable[[int], str]) -> "RowStatus":
        """The status of a solve that left some rows behind."""
        return cls(len(failed), {row: sentence(row) for row in np.flatnonzero(failed).tolist()})

    def then(self, later: "RowStatus") -> "RowStatus":
        """Both together; a row keeps the reason that it failed for first."""
        return RowStatus(self.rows, later.why | self.why) if later.why else self

    def must_settle(self, row: int) -> None:
        """NotConverged with the reason where a row did not."""
        if row in self.why:
            raise NotConverged(self.why[row])

    def must_all_settle(self) -> None:
        """NotConverged with the reason of the first row that did not."""
        if self.why:
            raise NotConverged(self.why[min(self.why)])
