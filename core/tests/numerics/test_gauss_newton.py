"""The fitter against closed forms, certified non-linear problems, and a general library."""

import numpy as np
import pytest
from scipy.optimize import least_squares

from krill.numerics.gauss_newton import Linearised, gauss_newton, posterior_of


def model_of(function):
    """A model with central differences for its slopes."""

    def at(x):
        step = 1e-6 * np.maximum(np.abs(x), 1e-3)
        slopes = np.stack(
            [(function(x + h * e) - function(x - h * e)) / (2 * h) for h, e in zip(step, np.eye(x.size), strict=True)],
            axis=1,
        )
        return Linearised(function(x), slopes, None)

    return at


def fitted(function, measured, start, prior=1e8, noise=1.0, rounds=60):
    model = model_of(function)
    start = np.asarray(start, float)
    size = measured.size
    return gauss_newton(
        model,
        model(start),
        measured,
        noise**2 * np.eye(size),
        np.diag(np.maximum(np.abs(start), 1e-6) ** 2 * prior),
        np.full(start.size, np.inf),
        rounds=rounds,
        settled=1e-9,
        mean=start,
    )


def test_a_linear_gaussian_case_is_the_closed_form():
    rng = np.random.default_rng(1)
    H, prior = rng.normal(size=(7, 3)), np.diag([4.0, 1.0, 0.25])
    root = rng.normal(size=(7, 7))
    noise = root @ root.T + np.eye(7)
    y = rng.normal(size=7) * 3
    model = model_of(lambda x: H @ x)
    fit = gauss_newton(model, model(np.zeros(3)), y, noise, prior, np.full(3, np.inf))
    precision = np.linalg.inv(prior) + H.T @ np.linalg.inv(noise) @ H
    assert fit.x == pytest.approx(np.linalg.solve(precision, H.T @ np.linalg.solve(noise, y)), rel=1e-3)
    assert fit.covariance == pytest.approx(np.linalg.inv(precision), rel=1e-3)
    assert fit.settled


def test_a_prior_mean_other_than_zero():
    at = Linearised(np.array([2.0]), np.array([[1.0]]), None)
    mean, covariance = posterior_of(at, np.array([2.0]), np.array([5.0]), np.eye(1), np.eye(1), np.array([1.0]))
    assert mean == pytest.approx([3.0])
    assert covariance == pytest.approx(np.array([[0.5]]))


#: NIST StRD, Misra1a (lower difficulty): certified parameters 2.3894212918E+02, 5.5015643181E-04
MISRA = np.array(
    [
        [10.07, 77.6], [14.73, 114.9], [17.94, 141.1], [23.93, 190.8], [29.61, 239.9], [35.18, 289.0], [40.02, 332.8],
        [44.82, 378.4], [50.76, 434.8], [55.05, 477.3], [61.01, 536.8], [66.40, 593.1], [75.47, 689.1], [81.78, 760.0],
    ]
)  # fmt: skip
#: NIST StRD, BoxBOD (higher difficulty): certified 2.1380940889E+02, 5.4723748542E-01
BOX = np.array([[109, 1], [149, 2], [149, 3], [191, 5], [213, 7], [224, 10]], float)


@pytest.mark.parametrize("start", [(500.0, 1e-4), (250.0, 5e-4)])
def test_nist_misra1a(start):
    y, x = MISRA.T
    fit = fitted(lambda b: b[0] * (1 - np.exp(-b[1] * x)), y, start)
    assert fit.x == pytest.approx([238.94212918, 5.5015643181e-4], rel=1e-6)


def test_nist_boxbod():
    y, x = BOX.T
    fit = fitted(lambda b: b[0] * (1 - np.exp(-b[1] * x)), y, (100.0, 0.75))
    assert fit.x == pytest.approx([213.80940889, 0.54723748542], rel=1e-5)


def test_against_a_general_library_on_the_same_residuals():
    rng = np.random.default_rng(5)
    t = np.linspace(0, 5, 12)

    def function(x):
        return 3 * np.exp(x[0]) * (1 - np.exp(-t * np.exp(x[1])))

    y, noise, spread = function(np.array([0.4, -0.3])) + 0.1 * rng.normal(size=12), 0.1, np.array([0.5, 0.3])
    model = model_of(function)
    prior = np.diag(spread**2)
    start = model(np.zeros(2))
    fit = gauss_newton(model, start, y, noise**2 * np.eye(12), prior, 4 * spread, rounds=30, settled=1e-6)
    other = least_squares(lambda x: np.concatenate([(function(x) - y) / noise, x / spread]), np.zeros(2), xtol=1e-12)
    assert fit.x == pytest.approx(other.x, abs=1e-5)
    assert fit.covariance == pytest.approx(np.linalg.inv(other.jac.T @ other.jac), rel=1e-3)


def test_no_unknown_goes_further_than_told():
    model = model_of(lambda x: x.copy())
    fit = gauss_newton(model, model(np.zeros(1)), np.array([100.0]), 1e-6 * np.eye(1), np.eye(1), np.array([4.0]))
    assert fit.x == pytest.approx([4.0])


def test_a_step_that_overshoots_is_halved():
    fit = fitted(lambda x: np.arctan(x), np.array([0.0]), [1.5], rounds=40)
    assert fit.x == pytest.approx([0.0], abs=1e-6)
