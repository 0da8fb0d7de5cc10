"""Bounded Gauss-Newton with a Gaussian prior: the likeliest unknowns of a model that is not linear, Laplace about them."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
State = TypeVar("State")

#: a step is halved so often where it makes matters worse
HALVINGS = 8


@dataclass(frozen=True)
class Linearised(Generic[State]):
    """Values (reading,) and slopes (reading, unknown) of a model at some unknowns; ``state`` is the model's own."""

    values: Array
    slopes: Array
    state: State


@dataclass(frozen=True)
class Fit(Generic[State]):
    """Likeliest unknowns, covariance of the posterior there, the model there, and whether it stopped moving."""

    x: Array
    covariance: Array
    at: Linearised[State]
    settled: bool


def posterior_of(
    at: Linearised[State], x: Array, measured: Array, noise: Array, prior: Array, mean: Array
) -> tuple[Array, Array]:
    """Mean and covariance of the unknowns for the model as it is linear about x; exact where it is linear.

    ``noise`` covariance of the readings, ``prior`` covariance of the unknowns about ``mean``.
    """
    residual = measured - at.values + at.slopes @ (x - mean)
    open_ = at.slopes @ prior @ at.slopes.T + noise
    gain = np.linalg.solve(open_, at.slopes @ prior).T
    return np.asarray(mean + gain @ residual), np.asarray(prior - gain @ at.slopes @ prior)


def gauss_newton(
    model: Callable[[Array], Linearised[State]],
    start: Linearised[State],
    measured: Array,
    noise: Array,
    prior: Array,
    furthest: Array,
    rounds: int = 6,
    settled: float = 0.1,
    mean: Array | None = None,
) -> Fit[State]:
    """From the prior's ``mean`` (0 unless told), where the model is ``start``, no further off than ``furthest``.

    Stops when nothing moves by more than ``settled`` standard deviations of its posterior.
    """
    middle = np.zeros(prior.shape[0]) if mean is None else mean
    x, at, done = middle.copy(), start, False
    inverse_noise, inverse_prior = np.linalg.inv(noise), np.linalg.inv(prior)

    def worse(values: Array, unknowns: Array) -> float:
        off, moved = measured - values, unknowns - middle
        return float(off @ inverse_noise @ off + moved @ inverse_prior @ moved)

    covariance = prior
    for _ in range(rounds):
        wanted, covariance = posterior_of(at, x, measured, noise, prior, middle)
        step = np.clip(wanted, middle - furthest, middle + furthest) - x
        now, share = worse(at.values, x), 1.0
        for _ in range(HALVINGS):
            tried = model(x + share * step)
            if worse(tried.values, x + share * step) <= now:
                break
            share /= 2
        spread = np.sqrt(np.maximum(np.diag(covariance), 1e-300))
        x, at = x + share * step, tried
        if float(np.max(np.abs(share * step) / spread)) < settled:
            done = True
            break
    _, covariance = posterior_of(at, x, measured, noise, prior, middle)
    return Fit(x, covariance, at, done)
