"""A calibration laid over the figures of a build: where their values stand, and how they are drawn together."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.calibration import Calibration
from krill.numerics.sampling import QUANTILE_90, Tolerance, normal_draws

Array = NDArray[np.float64]

#: a figure that stands further than this share from where it was learnt belongs to another part
SAME_SHARE = 1e-6
#: an unknown whose spread has come down to this share of what was assumed was taught something
TAUGHT = 0.8
#: no draw of a factor is less than this share of the learnt one
LEAST = 0.1


def stands_at(value: float, at: float) -> bool:
    """Whether a figure still stands where something was learnt about it."""
    return abs(value - at) <= SAME_SHARE * abs(at)


@dataclass(frozen=True)
class Learnt:
    """Factors of figures, ln (figure,), and the root of their joint covariance (figure, unknown).

    ``taught`` are the figures that the runs told something about; others are drawn along with them.
    """

    addresses: list[str]
    mean: Array
    root: Array
    keys: list[str]
    taught: frozenset[str]

    @classmethod
    def of(cls, calibration: Calibration, stated: dict[str, float]) -> "Learnt":
        """Of the figures that still stand where they stood; ``stated`` SI by address."""
        known = [
            moved.address
            for unknown in calibration.unknowns
            for moved in unknown.moves
            if stands_at(stated.get(moved.address, np.inf), moved.at)
        ]
        addresses = list(dict.fromkeys(known))
        powers = np.zeros((len(addresses), len(calibration.unknowns)))
        row_of = {address: row for row, address in enumerate(addresses)}
        for column, unknown in enumerate(calibration.unknowns):
            for moved in unknown.moves:
                if moved.address in row_of:
                    powers[row_of[moved.address], column] = float(moved.power)
        mean = np.array([float(unknown.mean) for unknown in calibration.unknowns])
        covariance = np.array(calibration.covariance, dtype=float)
        values, vectors = np.linalg.eigh((covariance + covariance.T) / 2)
        # the symmetric root: each unknown keeps a draw of its own, which moves little when others are added
        root = (vectors * np.sqrt(np.maximum(values, 0.0))) @ vectors.T
        spread = np.sqrt(np.maximum(np.diag(covariance), 0.0))
        told = [u.chosen or s <= TAUGHT * float(u.assumed) for u, s in zip(calibration.unknowns, spread, strict=True)]
        taught = frozenset(a for a, row in zip(addresses, powers, strict=True) if np.any(row[told]))
        return cls(addresses, powers @ mean, powers @ root, [u.id for u in calibration.unknowns], taught)

    def factors(self) -> dict[str, tuple[float, Tolerance]]:
        """Factor of each figure and half widths of its 90 % interval, as shares of the figure's learnt value."""
        spread = QUANTILE_90 * np.sqrt(np.sum(self.root**2, axis=1))
        return {
            address: (float(np.exp(mean)), Tolerance(float(1 - np.exp(-half)), float(np.expm1(half))))
            for address, mean, half in zip(self.addresses, self.mean, spread, strict=True)
        }

    def deviates(self, seed: int, count: int) -> dict[str, Array]:
        """Factors about the learnt value of each figure, drawn together, (count,).

        Linear in the factors: resistances in series add up, so what is known of their sum alone stays known in each draw.
        """
        normal = np.stack([normal_draws(seed, f"calibration/{key}", count) for key in self.keys])
        drawn = np.maximum(1.0 + self.root @ normal, LEAST)
        return dict(zip(self.addresses, drawn, strict=True))
