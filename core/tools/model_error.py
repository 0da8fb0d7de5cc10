"""Finds what the model may be off for machines described by classes, from the temperature rows of the accuracy page.

The rule: each case weighs one, however many rows it has. A residual is Student's t with four degrees of freedom (Lange,
Little and Taylor 1989: practice figures hold blunders) about zero; its 90 % half width is made of the inputs', practice's
and the model's own, a share of the rise. The share is the likeliest; each case is held against what the others alone give,
and the most that they give is used.
"""

from dataclasses import dataclass

import numpy as np
from accuracy_rows import Residual, Row
from scipy import stats
from scipy.optimize import minimize_scalar

DEGREES = 4
MOST = 0.6


@dataclass(frozen=True)
class FoundShare:
    """The likeliest share, those with one case left out, and how much of what was left out lies inside."""

    share: float
    without: dict[str, float]
    held: float

    @property
    def cautious(self) -> float:
        """What is used: the most that any of them would give, as so few cases can be told."""
        return max(self.without.values())

    def sentence(self) -> str:
        return (
            f"Model error of machines described by classes, found from the temperature rows with what practice leaves open "
            f"of its own cases, to 5 %: {_fives(self.share)} % of the rise by all {len(self.without)} cases, "
            f"{_fives(self.cautious)} % at most with one of them left out, which is used. "
            f"Of what was left out {100 * self.held:.0f} % lies in its 90 % band."
        )


def _fives(share: float) -> int:
    """Per cent to the nearest five: more is not told by so few cases."""
    return 5 * round(20 * share)


def found_share(rows: list[Row]) -> FoundShare:
    residuals = [(row.case, row.inside.residual) for row in rows if row.inside.residual is not None]
    cases = sorted({case for case, _ in residuals})
    without = {case: _likeliest([r for r in residuals if r[0] != case]) for case in cases}
    held = [np.mean([_holds(r, without[case]) for name, r in residuals if name == case]) for case in cases]
    return FoundShare(_likeliest(residuals), without, float(np.mean(held)))


def _likeliest(residuals: list[tuple[str, Residual]]) -> float:
    cases = [case for case, _ in residuals]

    ninety = stats.t.ppf(0.95, DEGREES)

    def against(share: float) -> float:
        return -sum(
            float(stats.t.logpdf(r.off, DEGREES, 0.0, _half(r, share) / ninety)) / cases.count(case)
            for case, r in residuals
        )

    return float(minimize_scalar(against, bounds=(0.0, MOST), method="bounded").x)


def _half(residual: Residual, share: float) -> float:
    return float(np.sqrt(residual.inputs**2 + residual.practice**2 + (share * residual.rise) ** 2))


def _holds(residual: Residual, share: float) -> bool:
    return abs(residual.off) <= _half(residual, share)
