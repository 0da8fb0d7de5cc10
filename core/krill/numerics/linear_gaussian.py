"""Linear models with normal priors and normal noise, many at once: what each says, and how well it explains the data."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class LinearModels:
    """Candidates y = X b + noise: ``X`` (model, sample, term), one normal prior of b with ``mean`` (term,) and
    ``precision`` (term, term)."""

    X: Array
    mean: Array
    precision: Array


@dataclass(frozen=True)
class Posterior:
    """Of each model: ``mean`` (model, term), ``covariance`` (model, term, term), ``log_evidence`` (model,), relative."""

    mean: Array
    covariance: Array
    log_evidence: Array


def posterior(models: LinearModels, y: Array, variance: Array) -> Posterior:
    """Bayes' rule of linear models (Bishop 2006, 3.49 to 3.51, 3.86); ``variance`` (sample,) of the noise.

    The evidence leaves out what all models share.
    """
    scaled = models.X / np.sqrt(variance)[None, :, None]
    of_data = np.swapaxes(scaled, 1, 2) @ scaled
    pull = np.einsum("mnk,n->mk", scaled, y / np.sqrt(variance)) + models.precision @ models.mean
    precision = of_data + models.precision
    covariance = np.asarray(np.linalg.inv(precision), float)
    mean = np.einsum("mkl,ml->mk", covariance, pull)
    prior_square = models.mean @ models.precision @ models.mean
    explained = np.einsum("mk,mk->m", mean, pull)
    half_logs = np.linalg.slogdet(models.precision)[1] - np.linalg.slogdet(precision)[1]
    return Posterior(mean, covariance, 0.5 * (explained - prior_square + half_logs))
