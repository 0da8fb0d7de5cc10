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
    n, mean = len(t), float(np.mean(t))
    spread = float(np.sum((t - mean) ** 2))
    slope = float(np.sum((t - mean) * (v - np.mean(v))) / spread)
    intercept = float(np.mean(v) - slope * mean)
    sd = float(np.sqrt(np.sum((v - intercept - slope * t) ** 2) / (n - 2)))
    slope_error = sd / np.sqrt(spread)
    intercept_error = sd * np.sqrt(1.0 / n + mean**2 / spread)
    correlation = -mean / np.sqrt(spread / n + mean**2) if n else 0.0
    return Line(intercept, slope, float(intercept_error), float(slope_error), float(correlation), sd, origin)


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
    u, v = np.var(x, ddof=1) / len(x), np.var(y, ddof=1) / len(y)
    degrees = (u + v) ** 2 / (u**2 / (len(x) - 1) + v**2 / (len(y) - 1))
    difference, error = float(np.mean(x) - np.mean(y)), float(np.sqrt(u + v))
    t = difference / error
    p = 2 * stats.t.sf(abs(t), degrees)
    return WelchTest(difference, t, float(degrees), float(p), float(stats.t.ppf(0.975, degrees) * error))


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
    t, v = np.asarray(x, float), np.asarray(y, float)
    first = np.asarray(start, float)

    def misfit(parameters: Array) -> Array:
        return np.asarray(model(t, parameters) - v)

    found = optimize.least_squares(
        misfit,
        first,
        method="lm",
        x_scale=np.maximum(np.abs(first), 1e-12),
        xtol=1e-15,
        ftol=1e-15,
        gtol=1e-15,
        max_nfev=20000,
    )
    squares = float(np.sum(found.fun**2))
    variance = squares / max(len(v) - len(first), 1)
    jacobian = np.asarray(found.jac, dtype=np.float64)
    covariance = np.linalg.pinv(jacobian.T @ jacobian) * variance
    return CurveFit(found.x, np.sqrt(np.diag(covariance)), float(np.sqrt(variance)), squares)
