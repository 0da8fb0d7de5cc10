"""Statistics of measured series: lines, autocorrelated means, combined uncertainty, comparison of means."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy import optimize, stats

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Line:
    """y = intercept + slope (x - origin), with standard errors and their correlation."""

    intercept: float
    slope: float
    intercept_error: float
    slope_error: float
    correlation: float
    residual_sd: float
    origin: float

    def at(self, x: float) -> tuple[float, float]:
        """Value and its standard error at x."""
        d = x - self.origin
        covariance = self.correlation * self.intercept_error * self.slope_error
        variance = self.intercept_error**2 + (d * self.slope_error) ** 2 + 2 * d * covariance
        return self.intercept + self.slope * d, float(np.sqrt(variance))


def fit_line(x: ArrayLike, y: ArrayLike, origin: float = 0.0) -> Line:
    """Least-squares line through three or more points, stated at ``origin``."""
    t, v = np.asarray(x, float) - origin, np.asarray(y, float)
    found = stats.linregress(t, v)
    slope, intercept = float(found.slope), float(found.intercept)
    mean = float(np.mean(t))
    correlation = -mean / float(np.sqrt(np.var(t) + mean**2))
    sd = float(np.sqrt(np.sum((v - intercept - slope * t) ** 2) / (len(t) - 2)))
    return Line(intercept, slope, float(found.intercept_stderr), float(found.stderr), correlation, sd, origin)


def lag_one_autocorrelation(values: ArrayLike) -> float:
    """Lag-1 autocorrelation about the mean; 0 for a constant series."""
    d = np.asarray(values, float) - np.mean(np.asarray(values, float))
    power = float(np.sum(d * d))
    return float(np.sum(d[:-1] * d[1:]) / power) if power > 0 else 0.0


def effective_count(count: int, rho: float) -> float:
    """Independent values that ``count`` samples of a first-order autoregressive series are worth (exact)."""
    n = float(count)
    if abs(rho) < 1e-12:
        return n
    inflation = (1 + rho) / (1 - rho) - 2 * rho * (1 - rho**n) / (n * (1 - rho) ** 2)
    return float(n / inflation)


def mean_error_autocorrelated(sd: float, count: int, rho: float) -> float:
    """Standard error of the mean of an autocorrelated series of the given standard deviation."""
    return float(sd / np.sqrt(effective_count(count, rho)))


@dataclass(frozen=True)
class WelchTest:
    difference: float
    t: float
    degrees: float
    p: float
    half_width_95: float


def welch(a: ArrayLike, b: ArrayLike) -> WelchTest:
    """Difference of two means of independent values of unlike spread, with its 95 % half width."""
    x, y = np.asarray(a, float), np.asarray(b, float)
    found = stats.ttest_ind(x, y, equal_var=False)
    interval = found.confidence_interval(0.95)
    half = 0.5 * float(interval.high - interval.low)
    return WelchTest(float(np.mean(x) - np.mean(y)), float(found.statistic), float(found.df), float(found.pvalue), half)


def propagate(function: Callable[[Array], Array], values: ArrayLike, covariance: ArrayLike) -> tuple[Array, Array]:
    """Results and their covariance by first-order propagation, J C J', with central differences.

    ``function`` maps (inputs,) to (outputs,). JCGM 100:2008.
    """
    x, C = np.asarray(values, float), np.asarray(covariance, float)
    steps = np.maximum(np.sqrt(np.diag(C)), 1e-12) * 1e-3
    columns = [
        (np.asarray(function(x + d)) - np.asarray(function(x - d))) / (2 * s)
        for s, d in zip(steps, np.diag(steps), strict=True)
    ]
    J = np.stack(columns, axis=1)
    return np.asarray(function(x)), J @ C @ J.T


@dataclass(frozen=True)
class CurveFit:
    parameters: Array
    errors: Array
    residual_sd: float
    sum_of_squares: float


def fit_curve(model: Callable[[Array, Array], Array], x: ArrayLike, y: ArrayLike, start: ArrayLike) -> CurveFit:
    """Nonlinear least squares of model(x, parameters) from a start, with standard errors."""
    t, v, first = np.asarray(x, float), np.asarray(y, float), np.asarray(start, float)
    found, covariance = optimize.curve_fit(
        lambda t, *parameters: model(t, np.asarray(parameters)),
        t,
        v,
        first,
        method="lm",
        diag=1.0 / np.maximum(np.abs(first), 1e-12),
        xtol=1e-15,
        ftol=1e-15,
        gtol=1e-15,
        maxfev=20000,
    )
    squares = float(np.sum((model(t, found) - v) ** 2))
    sd = float(np.sqrt(squares / max(len(v) - len(first), 1)))
    return CurveFit(np.asarray(found), np.sqrt(np.diag(covariance)), sd, squares)
