"""Adaptive importance sampling: a few unknowns whose likelihood is dear, each draw weighed by what it explains."""

from dataclasses import dataclass
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: the heavy tails of the proposal, and the share of it that is the prior itself: nothing likely is left out
DEGREES = 4
SHARE_OF_PRIOR = 0.1
#: draws that must count before the next proposal is fitted; until then the weights are flattened
COUNTING = 12.0
WIDENED = 1.3


class Prior(Protocol):
    """Of unknowns (draw, unknown): drawn from, and its log density, -inf outside."""

    def sample(self, rng: np.random.Generator, count: int) -> Array: ...

    def log_density(self, x: Array) -> Array: ...


@dataclass(frozen=True)
class Proposal:
    """Where draws are taken: the prior itself, or Student's t about where the last ones found weight."""

    prior: Prior
    mean: Array | None = None
    covariance: Array | None = None

    def sample(self, rng: np.random.Generator, count: int) -> Array:
        """(draw, unknown): inside the prior's range, so fewer than ``count`` may come."""
        x = self.prior.sample(rng, count)
        if self.mean is not None and self.covariance is not None:
            about = _students_t(self.mean, self.covariance).rvs(count, random_state=rng)
            near = rng.random(count) >= SHARE_OF_PRIOR
            x[near] = about.reshape(count, -1)[near]
        return np.asarray(x[np.isfinite(self.prior.log_density(x))])

    def log_ratio(self, x: Array) -> Array:
        """Log of the prior over this proposal, (draw,)."""
        prior = self.prior.log_density(x)
        if self.mean is None or self.covariance is None:
            return np.zeros(len(x))
        near = np.atleast_1d(_students_t(self.mean, self.covariance).logpdf(x))
        return np.asarray(prior - np.logaddexp(np.log1p(-SHARE_OF_PRIOR) + near, np.log(SHARE_OF_PRIOR) + prior))

    def fitted(self, x: Array, log_weights: Array) -> "Proposal":
        """A proposal about the weighed draws, the weights flattened until enough of them count."""
        beta, weights = 1.0, normalised(log_weights)
        while counting(weights) < COUNTING and beta > 1e-3:
            beta *= 0.7
            weights = normalised(beta * log_weights)
        mean, covariance = weighed_moments(x, weights)
        return Proposal(self.prior, mean, WIDENED * covariance + 1e-6 * np.eye(x.shape[1]))


def _students_t(mean: Array, covariance: Array) -> Any:
    from scipy import stats  # a third of a second, and only logs that still move need it

    return stats.multivariate_t(mean, covariance, DEGREES)


def normalised(log_weights: Array) -> Array:
    weights = np.exp(log_weights - np.max(log_weights))
    return np.asarray(weights / weights.sum())


def counting(weights: Array) -> float:
    """How many draws count, of normalised weights (draw,): all where they are equal, one where one has everything."""
    return float(1 / np.sum(weights**2))


def weighed_moments(x: Array, weights: Array) -> tuple[Array, Array]:
    """Mean (unknown,) and covariance (unknown, unknown) of draws (draw, unknown) by normalised weights."""
    mean = weights @ x
    apart = x - mean
    return np.asarray(mean), np.asarray((weights[:, None] * apart).T @ apart)
