"""What runs taught, for the eye and for the document: each figure before and after, what is left over, one sentence."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.calibration import Calibration, LearntFrom, Moved, Unknown
from krill.numerics.beyond_laplace import Moments
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.model import Model
from krill.runs.linearised import Readings, rms
from krill.runs.unknowns import Free

Array = NDArray[np.float64]

#: no unknown goes further than this from where it was assumed, in standard deviations
FURTHEST: Final = 4.0
#: an unknown that was moved and narrowed by less, in shares of what was assumed, is not shown
WORTH_SHOWING: Final = 0.05
MOST_KEPT: Final = 120
#: figures that the sentence names where nobody asked for any
MOST_NAMED: Final = 2
#: two unknowns of a stronger correlation cannot be parted by the readings
NOT_PARTED: Final = 0.6


@dataclass(frozen=True)
class LearntUnknown:
    """One thing learnt, as factors on what was assumed: its 90 % before, its value and 90 % after."""

    id: str
    name: str
    chosen: bool
    assumed_low: float
    assumed_high: float
    factor: float
    low: float
    high: float
    says: str


@dataclass(frozen=True)
class Residual:
    """One reading of one run: measured less predicted, before and after, K, and what it is known to."""

    run: str
    role: str
    name: str
    before_k: float
    after_k: float
    half_k: float


@dataclass(frozen=True)
class FromOthers:
    """A run predicted from the others: root mean square of what it is off, K, as assumed and as learnt."""

    run: str
    assumed_k: float
    learnt_k: float | None


@dataclass(frozen=True)
class NotParted:
    """Two unknowns that the readings know only together."""

    first: str
    second: str
    correlation: float


@dataclass(frozen=True)
class Learning:
    """What runs teach, for the eye and for the document."""

    sentence: str
    unknowns: list[LearntUnknown]
    residuals: list[Residual]
    from_others: list[FromOthers]
    not_parted: list[NotParted]
    rms_before_k: float
    rms_after_k: float
    calibration: Calibration


def learning(
    free: list[Free],
    found: Moments,
    start: list[Readings],
    after: list[Readings],
    others: list[FromOthers],
    runs: list[LearntFrom],
) -> Learning:
    """The posterior ``found`` of the unknowns ``free``, by the runs' readings before (``start``) and ``after``."""
    spread = np.sqrt(np.maximum(np.diag(found.covariance), 1e-12))
    before = np.array([unknown.spread for unknown in free])
    worth = np.abs(found.x) / before + (1.0 - spread / before)
    table = Model.of(start[-1].ran.as_kept).table
    kept = _kept(free, worth, table)
    unknowns = [_unknown(free[j], float(found.x[j]), table) for j in kept]
    told = [j for j in kept if free[j].chosen or worth[j] > WORTH_SHOWING]
    shown = [
        _shown(free[j], found.x[j], spread[j]) for j in sorted(told, key=lambda j: (not free[j].chosen, -worth[j]))
    ]
    rms_before = _together([rms(r, r.measured - r.predicted) for r in start])
    rms_after = _together([rms(r, r.measured - r.predicted) for r in after])
    calibration = Calibration(
        runs=runs,
        unknowns=unknowns,
        covariance=[[float(found.covariance[i, j]) for j in kept] for i in kept],
        places=[role for role in dict.fromkeys(role for r in after for role in r.roles)],
    )
    return Learning(
        _sentence(shown, others, rms_before, rms_after),
        shown,
        [residual for r0, r in zip(start, after, strict=True) for residual in _residuals(r0, r)],
        others,
        _not_parted(free, found.covariance, kept),
        rms_before,
        rms_after,
        calibration,
    )


def _kept(free: list[Free], worth: Array, table: FigureTable) -> list[int]:
    """Unknowns of the newest revision, and what was asked for.

    Those that were hardly narrowed stay too: what is known of a sum of many lies in how they vary together.
    """
    own = [
        j
        for j, unknown in enumerate(free)
        if unknown.chosen or any(unknown.moves(address, table) for address in unknown.powers)
    ]
    return sorted(sorted(own, key=lambda j: (not free[j].chosen, -worth[j]))[:MOST_KEPT])


def _unknown(free: Free, mean: float, table: FigureTable) -> Unknown:
    """An unknown as the document keeps it."""
    moves = [
        Moved(address=address, power=power, at=table.figures[address].value)
        for address, power in free.powers.items()
        if free.moves(address, table)
    ]
    return Unknown(
        id=free.id[:200], name=free.name[:200], moves=moves, assumed=free.spread, mean=mean, chosen=free.chosen
    )


def _residuals(start: Readings, after: Readings) -> list[Residual]:
    """What the readings of one run are off, before and after."""
    halves = np.sqrt(np.diag(after.covariance)) * QUANTILE_90
    before, left = start.measured - start.predicted, after.measured - after.predicted
    read = zip(after.roles, after.names, before, left, halves, strict=True)
    return [Residual(after.ran.name, role, name, float(b), float(a), float(h)) for role, name, b, a, h in read]


def _together(values: list[float]) -> float:
    return float(np.sqrt(np.mean(np.square(values)))) if values else 0.0


def _shown(free: Free, x: float, spread: float) -> LearntUnknown:
    half = QUANTILE_90 * spread
    says = ""
    if abs(x) >= (FURTHEST - 0.05) * free.spread:
        says = "at the edge of what is plausible: check the readings first"
    elif free.chosen and spread > 0.9 * free.spread:
        says = "these runs say nothing about it"
    return LearntUnknown(
        free.id,
        free.name,
        free.chosen,
        float(np.exp(-QUANTILE_90 * free.spread)),
        float(np.exp(QUANTILE_90 * free.spread)),
        float(np.exp(x)),
        float(np.exp(x - half)),
        float(np.exp(x + half)),
        says,
    )


def _not_parted(free: list[Free], covariance: Array, kept: list[int]) -> list[NotParted]:
    """Pairs with one that was asked for and that the readings cannot tell from the other."""
    spread = np.sqrt(np.maximum(np.diag(covariance), 1e-12))
    correlation = covariance / np.outer(spread, spread)
    pairs = [
        NotParted(free[i].name, free[j].name, float(correlation[i, j]))
        for n, i in enumerate(kept)
        for j in kept[n + 1 :]
        if (free[i].chosen or free[j].chosen) and abs(correlation[i, j]) > NOT_PARTED
    ]
    return sorted(pairs, key=lambda pair: -abs(pair.correlation))


def _sentence(shown: list[LearntUnknown], others: list[FromOthers], before: float, after: float) -> str:
    asked = [unknown for unknown in shown if unknown.chosen]
    told_of = asked or [u for u in shown if not u.assumed_low <= u.factor <= u.assumed_high][:MOST_NAMED]
    pieces = [f"{u.name} is {u.says}" for u in told_of if u.says and not u.chosen]
    pieces += [
        f"{u.name} {100 * abs(u.factor - 1):.0f} % {'more' if u.factor >= 1 else 'less'} than assumed"
        for u in told_of
        if not u.says
    ]
    silent = "These runs say nothing about what was asked for" if asked else "Every figure is about as assumed"
    text = "; ".join(pieces) or silent
    told = [run for run in others if run.learnt_k is not None]
    if told:
        assumed = _together([run.assumed_k for run in told])
        learnt = _together([run.learnt_k or 0.0 for run in told])
        return f"{text}; a run it has not seen is then predicted to {learnt:.1f} K, before to {assumed:.1f} K."
    met = f"its own readings are met to {after:.1f} K, before to {before:.1f} K"
    return f"{text}; {met}. A second run would say how far this carries."
