"""A posterior that is not quite normal: Laplace's is kept where draws weighed by the model itself agree, else corrected.

Only directions in which the readings teach something are looked at (the likelihood-informed subspace of Cui et al., Inverse
Problems 30, 2014, from memory); in all others the posterior is the prior. There adaptive importance sampling (population Monte
Carlo, Cappé et al. 2004, from memory) gives mean and covariance. A second summit far from the likeliest is not looked for.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cholesky, solve_triangular

from krill.numerics.importance import Proposal, counting, normalised, weighed_moments
from krill.numerics.sampling import normal_draws

Array = NDArray[np.float64]

#: a direction counts where the readings say at least so much beside the prior (ratio of precisions), and at most so many do
INFORMED: Final = 0.05
MOST_DIRECTIONS: Final = 8
#: draws that tell whether it is normal, and the share of them that must count for that: below it the likeliest lies a third
#: of a deviation off the mean (measured on readings that go with the exponential of an unknown)
TRIED: Final = 64
NEAR_NORMAL: Final = 0.90
#: draws go no further beyond the likeliest, in deviations of the prior
FURTHEST: Final = 4.0
#: rounds and draws of the correction, and draws that must count in the end for it to be believed
ROUNDS: Final = 3
DRAWS: Final = 160
COUNTING: Final = 30.0


@dataclass(frozen=True)
class Moments:
    """Mean (unknown,), covariance (unknown, unknown), the share of Laplace's own draws that counted, and whether the
    moments are Laplace's or corrected ones."""

    x: Array
    covariance: Array
    counted: float
    corrected: bool


@dataclass(frozen=True)
class Taught:
    """The directions that readings teach: ``across`` (unknown, direction) of one prior deviation each, Laplace's
    ``mode`` (direction,) and ``variance`` (direction,) in it."""

    across: Array
    mode: Array
    variance: Array

    @classmethod
    def by(cls, slopes: Array, noise: Array, prior: Array, x: Array) -> "Taught":
        root = cholesky(prior, lower=True)
        seen = solve_triangular(cholesky(noise, lower=True), slopes @ root, lower=True)
        _, strength, rows = np.linalg.svd(seen, full_matrices=False)
        told = np.flatnonzero(strength**2 >= INFORMED)[:MOST_DIRECTIONS]
        whitened = solve_triangular(root, x, lower=True)
        return cls(root @ rows[told].T, rows[told] @ whitened, 1.0 / (1.0 + strength[told] ** 2))


class _StandardNormal:
    """The prior along the directions taught, no further from zero than the likeliest and ``FURTHEST`` more."""

    def __init__(self, mode: Array) -> None:
        self.furthest = np.abs(mode) + FURTHEST

    def sample(self, rng: np.random.Generator, count: int) -> Array:
        return rng.standard_normal((count, self.furthest.size))

    def log_density(self, x: Array) -> Array:
        inside = np.all(np.abs(x) <= self.furthest, axis=1)
        return np.where(inside, -0.5 * np.sum(x**2, axis=1), -np.inf)


def beyond_laplace(
    values: Callable[[Array], Array],
    measured: Array,
    noise: Array,
    prior: Array,
    laplace: tuple[Array, Array, Array],
    seed: int = 1,
) -> Moments:
    """Moments of the posterior of unknowns with prior N(0, ``prior``) and readings with ``noise``.

    ``laplace``: likeliest unknowns, their covariance and the slopes (reading, unknown) there; ``values`` gives
    readings (draw, reading) of unknowns (draw, unknown), NaN where the model has none.
    """
    x, covariance, slopes = laplace
    taught = Taught.by(slopes, noise, prior, x)
    if not taught.mode.size:
        return Moments(x, covariance, 1.0, False)
    weigh = np.linalg.inv(noise)

    def likelihood(z: Array) -> Array:
        off = measured - values(x + (z - taught.mode) @ taught.across.T)
        found = -0.5 * np.einsum("di,ij,dj->d", off, weigh, off)
        return np.where(np.isfinite(found), found, -np.inf)

    counted = _counted_of_laplace(likelihood, taught, seed)
    if counted >= NEAR_NORMAL:
        return Moments(x, covariance, counted, False)
    found = _weighed(likelihood, taught, seed)
    if found is None:
        return Moments(x, covariance, counted, False)
    mean, spread = found
    bent = taught.across @ (spread - np.diag(taught.variance)) @ taught.across.T
    return Moments(x + taught.across @ (mean - taught.mode), covariance + bent, counted, True)


def _counted_of_laplace(likelihood: Callable[[Array], Array], taught: Taught, seed: int) -> float:
    """Share of draws of Laplace's normal that count once they are weighed by the model: 1 where it is linear."""
    normal = np.stack([normal_draws(seed, f"direction {i}", TRIED) for i in range(taught.mode.size)], axis=1)
    z = taught.mode + normal * np.sqrt(taught.variance)
    weights = normalised(likelihood(z) - 0.5 * np.sum(z**2, axis=1) + 0.5 * np.sum(normal**2, axis=1))
    return counting(weights) / TRIED


def _weighed(likelihood: Callable[[Array], Array], taught: Taught, seed: int) -> tuple[Array, Array] | None:
    """Mean and covariance along the directions, all rounds together; None where too few draws count."""
    rng = np.random.default_rng(seed)
    proposal = Proposal(_StandardNormal(taught.mode), taught.mode, 2.0 * np.diag(taught.variance))
    drawn, weighed = [], []
    for _ in range(ROUNDS):
        z = proposal.sample(rng, DRAWS)
        log_weights = likelihood(z) + proposal.log_ratio(z)
        drawn.append(z)
        weighed.append(log_weights)
        proposal = proposal.fitted(z, log_weights)
    z, weights = np.concatenate(drawn[1:]), normalised(np.concatenate(weighed[1:]))
    return None if counting(weights) < COUNTING else weighed_moments(z, weights)
