"""What runs teach about a build: a joint posterior of its figures from settled readings of one or several runs.

Every uncertain figure is an unknown with its own tolerance as prior; what somebody asks for, and what a place's own layers
may be off by the model, is so beside them with wider ones. Gauss-Newton with priors, Laplace about the likeliest, corrected by
draws where that is not normal.
"""

from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import block_diag

from krill.document.build import Build
from krill.document.calibration import LearntFrom
from krill.networks.states import Case
from krill.numerics.beyond_laplace import beyond_laplace
from krill.numerics.gauss_newton import Linearised, gauss_newton, posterior_of
from krill.prediction.answer.solving import solve_cases
from krill.runs.causes import causes_of
from krill.runs.learning import FURTHEST, FromOthers, Learning, learning
from krill.runs.linearised import Readings, central, read, rms, together_of, values_at
from krill.runs.ran import Ran
from krill.runs.unknowns import Free, can_be_learnt, of_other_revisions, unknowns_of

Array = NDArray[np.float64]

#: what moves no reading by more, at one standard deviation, is not looked for, K
SEEN_K: Final = 0.1


def calibrate(rans: list[Ran], chosen: list[str], seed: int = 1, runs: list[LearntFrom] | None = None) -> Learning:
    """Learn from loads of one or several runs; ``chosen`` are causes (by address) whose prior is widened.

    ``runs`` says where the loads are from, in their order. DocumentRefused where nothing that was read belongs to the
    build, or a cause is not one of it.
    """
    rans = [replace(ran, build=_as_assumed(ran.build), as_kept=_as_assumed(ran.as_kept)) for ran in rans]
    free = unknowns_of(central(rans[-1], seed), rans, chosen)
    free += of_other_revisions(free, [central(ran, seed) for ran in rans[:-1]], chosen)
    start, free = _that_matter([read(ran, free, np.zeros(len(free)), seed) for ran in rans], free)
    spreads = np.array([unknown.spread for unknown in free])

    def model(x: Array) -> Linearised[list[Readings]]:
        return together_of([read(ran, free, x, seed) for ran in rans])

    measured = np.concatenate([r.measured for r in start])
    noise = block_diag(*[r.covariance for r in start])
    prior = np.diag(spreads**2)
    fit = gauss_newton(model, together_of(start), measured, noise, prior, FURTHEST * spreads)

    def draws(x: Array) -> Array:
        return np.concatenate([values_at(ran, free, x, seed) for ran in rans], axis=1)

    found = beyond_laplace(draws, measured, noise, prior, (fit.x, fit.covariance, fit.at.slopes), seed)
    after = model(found.x).state if found.corrected else fit.at.state
    told = runs or [LearntFrom(run=ran.name[:200], name=ran.name[:200]) for ran in rans]
    others = [_from_others(after, start, i, found.x, spreads) for i in range(len(rans))]
    return learning(free, found, start, after, others, told)


def _as_assumed(build: Build) -> Build:
    """A build without what was learnt of it before."""
    return build.model_copy(update={"calibration": None})


def _that_matter(readings: list[Readings], free: list[Free]) -> tuple[list[Readings], list[Free]]:
    """Without the unknowns that move no reading by anything that could be seen; what was asked for stays."""
    spreads = np.array([unknown.spread for unknown in free])
    moves = np.max([np.abs(r.slopes).max(axis=0, initial=0.0) for r in readings], axis=0) * spreads
    kept = [j for j, unknown in enumerate(free) if unknown.chosen or moves[j] >= SEEN_K]
    return [replace(r, slopes=r.slopes[:, kept]) for r in readings], [free[j] for j in kept]


def _from_others(after: list[Readings], start: list[Readings], left: int, x: Array, spreads: Array) -> FromOthers:
    """A run as the others predict it, by the linearisation at what all of them teach."""
    own = after[left]
    others = [r for i, r in enumerate(after) if i != left and r.roles]
    assumed = rms(own, start[left].measured - start[left].predicted)
    if not others:
        return FromOthers(own.ran.name, assumed, None)
    measured, noise = np.concatenate([r.measured for r in others]), block_diag(*[r.covariance for r in others])
    without, _ = posterior_of(together_of(others), x, measured, noise, np.diag(spreads**2), np.zeros(x.size))
    predicted = own.predicted + own.slopes @ (without - x)
    return FromOthers(own.ran.name, assumed, rms(own, own.measured - predicted))


@dataclass(frozen=True)
class Learnable:
    """A cause that may be asked for, in words."""

    address: str
    name: str


def learnable(build: Build, workload: str) -> list[Learnable]:
    """Everything that runs of a workload may teach when it is asked for, in the order of the build."""
    load = next(item for item in build.workloads if item.id == workload)
    solved = solve_cases(build, [Case(load, 25.0, float(build.rooms[0].altitude_m))])
    return [Learnable(c.address, c.name) for c in causes_of(solved) if can_be_learnt(c)]
