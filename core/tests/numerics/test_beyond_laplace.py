"""A posterior that is not normal against numerical integration over a grid (scipy's quadrature rules are the other model)."""

import numpy as np
import pytest
from scipy.integrate import simpson

from krill.numerics.beyond_laplace import NEAR_NORMAL, Taught, beyond_laplace
from krill.numerics.gauss_newton import Linearised, gauss_newton


def laplace_of(function, measured, noise, prior):
    def model(x):
        steps = 1e-5 * np.eye(x.size)
        slopes = np.stack([(function((x + h)[None]) - function((x - h)[None]))[0] / 2e-5 for h in steps], axis=1)
        return Linearised(function(x[None])[0], slopes, None)

    size = prior.shape[0]
    fit = gauss_newton(
        model, model(np.zeros(size)), measured, noise, prior, np.full(size, 9.0), rounds=60, settled=1e-6
    )
    return fit.x, fit.covariance, fit.at.slopes


def found(function, measured, noise, prior, seed=1):
    measured, noise = np.asarray(measured, float), np.atleast_2d(noise)
    laplace = laplace_of(function, measured, noise, prior)
    return laplace, beyond_laplace(function, measured, noise, prior, laplace, seed)


def integrated(function, measured, noise, prior, half=6.0, points=601):
    """Mean and covariance of two unknowns by Simpson's rule."""
    axes = [np.linspace(-half, half, points) * np.sqrt(prior[i, i]) for i in (0, 1)]
    grid = np.stack([g.ravel() for g in np.meshgrid(*axes, indexing="ij")], axis=1)
    off = np.asarray(measured) - function(grid)
    log = -0.5 * np.einsum("di,ij,dj->d", off, np.linalg.inv(np.atleast_2d(noise)), off)
    log -= 0.5 * np.einsum("di,ij,dj->d", grid, np.linalg.inv(prior), grid)
    density = np.exp(log - log.max()).reshape(points, points)

    def mean(values):
        return simpson(simpson(values.reshape(points, points) * density, x=axes[1]), x=axes[0])

    whole = mean(np.ones(len(grid)))
    middle = np.array([mean(grid[:, i]) / whole for i in (0, 1)])
    apart = grid - middle
    return middle, np.array([[mean(apart[:, i] * apart[:, j]) / whole for j in (0, 1)] for i in (0, 1)])


def line(x):
    return x @ np.array([[1.0, 0.5], [-0.3, 2.0]]).T


def saturating(x):
    """A reading that says less and less the larger the unknown is, as a film beside a joint does."""
    return 10.0 * np.exp(x[:, :1]) + 0.5 * x[:, 1:]


def test_what_is_linear_stays_as_laplace_has_it():
    prior = np.array([[1.0, 0.4], [0.4, 2.0]])
    laplace, moments = found(line, [1.0, -2.0], np.diag([0.3, 0.8]), prior)
    assert not moments.corrected
    assert moments.counted == pytest.approx(1.0, abs=1e-9)
    assert moments.x is laplace[0]
    assert moments.covariance is laplace[1]


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_a_bent_posterior_is_that_of_the_integral(seed):
    prior = np.array([[1.0, 0.3], [0.3, 0.5]])
    noise = [[9.0]]
    laplace, moments = found(saturating, [-5.0], noise, prior, seed)
    mean, covariance = integrated(saturating, [-5.0], noise, prior)
    assert moments.corrected
    assert moments.counted < NEAR_NORMAL
    spread = np.sqrt(np.diag(covariance))
    assert np.sqrt(laplace[1][0, 0]) > 1.3 * spread[0]  # or there would be nothing to mend
    some = 3 / np.sqrt(200)  # three deviations of what some 200 draws can say
    assert np.all(np.abs(moments.x - mean) < some * spread)
    assert np.sqrt(np.diag(moments.covariance)) == pytest.approx(spread, rel=some / np.sqrt(2))
    assert moments.covariance[0, 1] == pytest.approx(covariance[0, 1], abs=some * spread.prod())


@pytest.mark.parametrize(("bend", "corrected"), [(0.15, False), (0.9, True)])
def test_a_little_bent_is_left_alone(bend, corrected):
    def curved(x):
        return x[:, :1] + bend * x[:, :1] ** 2 + 0.01 * x[:, 1:]

    assert found(curved, [0.5], [[0.25]], np.eye(2))[1].corrected is corrected


def test_directions_that_no_reading_sees_keep_their_prior():
    prior = np.diag([1.0, 4.0, 0.25])
    _, moments = found(lambda x: 10.0 * np.exp(x[:, :1]), [-5.0], [[9.0]], prior)
    assert moments.corrected
    assert moments.covariance[1:, 1:] == pytest.approx(prior[1:, 1:], abs=1e-12)
    assert moments.x[1:] == pytest.approx([0.0, 0.0], abs=1e-12)


def test_nothing_read_of_any_unknown():
    prior = np.eye(2)
    taught = Taught.by(np.zeros((1, 2)), np.eye(1), prior, np.zeros(2))
    assert taught.mode.size == 0
    moments = beyond_laplace(
        lambda x: np.zeros((len(x), 1)),
        np.ones(1),
        np.eye(1),
        prior,
        (np.zeros(2), prior, np.zeros((1, 2))),
    )
    assert moments.counted == 1.0
    assert not moments.corrected


def test_draws_that_the_model_cannot_answer_do_not_count():
    def answers_below(x):
        return np.where(x[:, :1] < 1.0, 10.0 * np.exp(x[:, :1]), np.nan)

    prior = np.eye(2)
    _, moments = found(answers_below, [-5.0], [[9.0]], prior)
    assert moments.corrected
    assert np.all(np.isfinite(moments.covariance))
    _, everywhere = found(lambda x: 10.0 * np.exp(x[:, :1]), [-5.0], [[9.0]], prior)
    assert moments.x[0] < everywhere.x[0] + 0.02
