"""Linear models with normal priors against the multivariate normal, adaptive importance sampling against a known integral."""

import numpy as np
import pytest
from scipy import stats

from krill.numerics.importance import Proposal, normalised
from krill.numerics.linear_gaussian import LinearModels, posterior


def test_evidence_and_posterior_are_those_of_the_joint_normal():
    """y is normal with mean X m and covariance X S Xᵀ + V; the mean given y by conditioning (scipy)."""
    rng = np.random.default_rng(3)
    X = rng.normal(size=(4, 30, 3))
    mean, root = rng.normal(size=3), rng.normal(size=(3, 3))
    S, variance = root @ root.T + np.eye(3), rng.uniform(0.5, 2.0, 30)
    y = X[0] @ np.array([1.0, -2.0, 0.5]) + rng.normal(size=30)
    found = posterior(LinearModels(X, mean, np.linalg.inv(S)), y, variance)
    exact = [stats.multivariate_normal(x @ mean, x @ S @ x.T + np.diag(variance)).logpdf(y) for x in X]
    assert np.diff(found.log_evidence) == pytest.approx(np.diff(exact), abs=1e-8)
    for x, got, spread in zip(X, found.mean, found.covariance, strict=True):
        gain = S @ x.T @ np.linalg.inv(x @ S @ x.T + np.diag(variance))
        assert got == pytest.approx(mean + gain @ (y - x @ mean), abs=1e-9)
        assert spread == pytest.approx(S - gain @ x @ S, abs=1e-9)


class UnitSquare:
    """Uniform between 0 and 1 in two unknowns."""

    def sample(self, rng, count):
        return rng.random((count, 2))

    def log_density(self, x):
        return np.where(np.all((x >= 0) & (x <= 1), axis=1), 0.0, -np.inf)


def test_a_narrow_ridge_is_found_and_weighed():
    """A correlated normal of 0.005 across in a unit square: mean, spread and integral known."""
    cov = np.array([[4e-4, 3.6e-4], [3.6e-4, 3.6e-4]])
    target = stats.multivariate_normal([0.7, 0.3], cov)
    rng = np.random.default_rng(1)
    proposal = Proposal(UnitSquare())
    for _ in range(8):
        x = proposal.sample(rng, 800)
        log_weights = target.logpdf(x) + proposal.log_ratio(x)
        last, proposal = proposal, proposal.fitted(x, log_weights)
    assert last.mean is not None
    weights = normalised(log_weights)
    assert weights @ x == pytest.approx([0.7, 0.3], abs=0.003)
    apart = x - weights @ x
    assert (weights[:, None] * apart).T @ apart == pytest.approx(cov, rel=0.25)
    assert np.exp(log_weights).sum() / 800 == pytest.approx(1.0, abs=0.12)
