"""Has a temperature settled, where will it settle, and how sure is that?

Several ways to settle (one time constant, two, three, or those of the build's network) weigh as they explain the samples,
their autocorrelation and the sensor's steps counted. What comes out is a distribution of the settled value.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr, ndtri, stdtrit

from krill.numerics.importance import Proposal, normalised
from krill.numerics.linear_gaussian import LinearModels, Posterior, posterior
from krill.numerics.statistics import lag_one_autocorrelation
from krill.prediction.questions.warm_up import WarmUpOfNode
from krill.runs.rises import Drive, ExpectedRise, FreeRise, Rise, Terms, terms_of

Array = NDArray[np.float64]

MAX_POINTS = 120
SETTLED_RISE_K = 0.7
SURE = 0.96
WORTH_K = 0.5
#: the fast edge of a chip over its lid and plate: left out of the slow fit
FAST_EDGE_S = 40.0
MIXTURE: Array = ndtri((np.arange(40) + 0.5) / 40)
#: what one, two and three constants, or one, two and the build's network weigh before the log is looked at
ALONE = (0.6, 0.25, 0.15)
BESIDE_NETWORK = (0.15, 0.15, 0.7)
#: draws by the number of unknowns, and how often they are taken anew where weight was found
DRAWS = {1: 70, 2: 220, 3: 320}
ROUNDS = 4
#: the least rise that amplitudes are thought of, K, and what is free of the settled value
LEAST_RISE_K, FREE_K = 2.0, 1e4
#: a logged room is known to this, K (standard deviation; a sensor of 0.1 K), and so is what follows it
ROOM_READ_K = 0.05
#: a sensor's step lies within this share of itself of where it should (standard deviation, estimate)
STEP_EDGE = 0.1
#: share of rows that step to and fro from which on noise reads through the sensor's steps (noise of 0.3 of a step)
READ_THROUGH = 0.3
#: doubt of what is still to come: films that grow with the rise, and masses that are not as stated, bend a way (standard
#: deviation; found on simulated machines with hidden deviations, so that the least covered kind is held in 85 %)
BENT = 0.18
#: a load that moves by less than this share of its step stands
STANDS = 0.03
AHEAD_MIN = np.geomspace(1.0, 1440.0, 60)
LEAST_NEEDED_MIN = 5.0


@dataclass(frozen=True)
class Settled:
    """What a load window says of one temperature; intervals hold 90 %."""

    settled: bool
    value: float
    low: float
    high: float
    last: float
    peak: float
    remaining_k: float
    slope_k_10min: float
    time_constant_s: float
    minutes_needed: float

    def sentence(self) -> str:
        half = (self.high - self.low) / 2
        if self.settled:
            return f"settled at {self.value:.1f} ± {half:.1f} °C"
        text = f"still {'rising' if self.slope_k_10min >= 0 else 'falling'}, {abs(self.slope_k_10min):.1f} K in 10 min"
        return f"{text}; settles at {self.value:.1f} ± {half:.1f} °C; {self.minutes_needed:.0f} more minutes are needed"


@dataclass(frozen=True)
class Beside:
    """What is known beside a temperature: the sensor's step, the room and the load over the same rows, the network.

    ``load`` is the load over its late mean as a share of the step that the window began with.
    """

    resolution: float = 0.0
    room: Array | None = None
    load: Array | None = None
    warm_up: WarmUpOfNode | None = None


ALONE_IN_ITS_LOG = Beside()


def settle(time_s: Array, values: Array, beside: Beside = ALONE_IN_ITS_LOG) -> Settled | None:
    """Settled value of a window's samples, at the window's mean room; None below 12 finite ones, or where no time passes."""
    good = np.isfinite(values)
    if np.sum(good) < 12 or np.ptp(time_s[good]) <= 0:
        return None
    peak = float(np.max(values[good]))
    samples = _Samples.of(time_s[good] - time_s[good][0], values[good], good, beside)
    t, y = samples.drive.time_s, samples.values
    tail = t >= t[-1] - min(600.0, 0.35 * (t[-1] - t[0]))
    slope = float(np.polyfit(t[tail], y[tail], 1)[0]) * 600 if tail.sum() >= 3 else 0.0
    found = _Mixture.of(samples, _ways(beside.warm_up))
    low, value, high = (float(x) for x in found.quantiles((0.05, 0.5, 0.95)))
    settled = found.surely_within(SETTLED_RISE_K)
    return Settled(
        settled,
        value,
        low,
        high,
        float(np.mean(y[-3:])),
        peak,
        float(found.weights @ found.remaining),
        slope,
        found.time_constant_s,
        0.0 if settled else found.minutes_needed,
    )


def _ways(warm_up: WarmUpOfNode | None) -> list[Rise]:
    if warm_up is None:
        return [FreeRise(count, weight) for count, weight in enumerate(ALONE, 1)]
    one, two, network = BESIDE_NETWORK
    return [FreeRise(1, one), FreeRise(2, two), ExpectedRise(warm_up, network)]


@dataclass(frozen=True)
class _Samples:
    """Means of equal blocks of rows without the fast edge; ``rounding`` is the variance that the sensor's step leaves.

    ``known_k`` is the standard deviation to which anything read of it is known at all, K.
    """

    drive: Drive
    values: Array
    rounding: Array
    known_k: float

    @classmethod
    def of(cls, t: Array, y: Array, good: NDArray[np.bool_], beside: Beside) -> "_Samples":
        unread = _unread_step(y, beside.resolution)
        held = _held(y, beside.resolution) if unread > 0 else np.ones(len(y))
        slow = t - t[0] >= min(FAST_EDGE_S, 0.2 * (t[-1] - t[0]))
        size = max(1, int(slow.sum()) // MAX_POINTS)

        def blocks(column: Array) -> Array:
            count = int(slow.sum()) // size
            return np.asarray(column[slow][-count * size :].reshape(count, size).mean(1))

        room = None if beside.room is None else blocks(_filled(beside.room)[good])
        load = None if beside.load is None else blocks(_filled(beside.load)[good])
        moves = load is not None and float(np.std(load)) > STANDS
        drive = Drive(blocks(t), None if room is None else room - room.mean(), load if moves else None)
        # a reading that stands still is one reading, however often it is written down
        rounding = unread**2 / 12 * np.maximum(blocks(held) / size, 1.0)
        return cls(
            drive, blocks(y), rounding, float(np.hypot(STEP_EDGE * unread, 0.0 if room is None else ROOM_READ_K))
        )


def _filled(column: Array) -> Array:
    """A column with its gaps bridged."""
    known = np.flatnonzero(np.isfinite(column))
    return np.interp(np.arange(len(column)), known, column[known]) if known.size else np.zeros(len(column))


def _unread_step(y: Array, resolution: float) -> float:
    """The sensor's step as far as noise does not average it out: a reading that stands, or only climbs, hides all of it."""
    if resolution <= 0:
        return 0.0
    steps = np.abs(np.diff(y)).sum() - abs(float(np.mean(y[-3:]) - np.mean(y[:3])))
    return float(resolution * max(0.0, 1.0 - steps / resolution / len(y) / READ_THROUGH))


def _held(y: Array, resolution: float) -> Array:
    """For how many rows each reading stood, (row,)."""
    edges = np.concatenate([[0], np.flatnonzero(np.abs(np.diff(y)) > 0.5 * resolution) + 1, [len(y)]])
    lengths = np.diff(edges).astype(float)
    return np.repeat(lengths, np.diff(edges))


@dataclass(frozen=True)
class _Draws:
    """Draws of the unknowns of one way, and what each says."""

    rise: Rise
    proposal: Proposal
    x: Array
    terms: Terms
    posterior: Posterior

    @property
    def log_evidence(self) -> Array:
        """(draw,): with the slowest amplitude on the side that the reading moves to, as heat that stores up has it."""
        slow = self.amplitude().stop - 1
        side = np.sign(self.terms.mean[slow])
        deviation = np.sqrt(self.posterior.covariance[:, slow, slow])
        return np.asarray(self.posterior.log_evidence + log_ndtr(side * self.posterior.mean[:, slow] / deviation))

    @property
    def log_weights(self) -> Array:
        return self.log_evidence + self.proposal.log_ratio(self.x)

    @property
    def best(self) -> int:
        return int(np.argmax(self.log_evidence))

    def amplitude(self) -> slice:
        count = self.rise.decay(self.x[:1], np.zeros(1)).shape[2]
        return slice(1, 1 + count)


@dataclass(frozen=True)
class _Mixture:
    """Every draw of every way with its weight; temperatures in C, (draw,)."""

    weights: Array
    ends: Array
    end_sd: Array
    remaining: Array
    remaining_sd: Array
    time_constant_s: float
    minutes_needed: float

    @classmethod
    def of(cls, samples: _Samples, ways: list[Rise]) -> "_Mixture":
        found = _weighed(samples, ways)
        last = samples.drive.time_s[-1:]
        log_weights = np.concatenate([d.log_weights + np.log(d.rise.weight / DRAWS[d.rise.unknowns]) for d in found])
        weights = normalised(log_weights)
        ends = np.concatenate([d.posterior.mean[:, 0] for d in found]) + float(samples.values.mean())
        pairs = [_missing(d, last) for d in found]
        remaining = np.concatenate([mean[:, 0] for mean, _ in pairs])
        fitted = np.concatenate([np.sqrt(d.posterior.covariance[:, 0, 0]) for d in found])
        end_sd = np.sqrt(fitted**2 + samples.known_k**2 + (BENT * remaining) ** 2)
        sd = np.concatenate([deviation[:, 0] for _, deviation in pairs])
        ahead = np.concatenate([_missing(d, last + 60 * AHEAD_MIN)[0] for d in found])
        return cls(weights, ends, end_sd, remaining, sd, _constant(found, weights, last), _needed(weights, ahead))

    def quantiles(self, levels: tuple[float, ...]) -> Array:
        samples, mass = self._samples(self.ends, self.end_sd)
        order = np.argsort(samples)
        cumulative = np.cumsum(mass[order])
        return np.interp(levels, cumulative / cumulative[-1], samples[order])

    def surely_within(self, kelvins: float) -> bool:
        samples, mass = self._samples(self.remaining, self.remaining_sd)
        return bool(np.sum(mass[np.abs(samples) < kelvins]) >= SURE)

    def _samples(self, mean: Array, deviation: Array) -> tuple[Array, Array]:
        samples = (mean[:, None] + deviation[:, None] * MIXTURE).ravel()
        return samples, np.repeat(self.weights / len(MIXTURE), len(MIXTURE))


def _weighed(samples: _Samples, ways: list[Rise]) -> list[_Draws]:
    """Draws of every way: each round about where the last found weight, with the noise that its best leaves."""
    rng = np.random.default_rng(1)
    y = samples.values - samples.values.mean()
    step = float(np.var(np.diff(y))) / 2
    variance = samples.rounding + max(20 * step, 1e-5)
    proposals = [Proposal(way) for way in ways]
    found: list[_Draws] = []
    for _ in range(ROUNDS):
        drawn = [_drawn(way, at, samples, y, variance, rng) for way, at in zip(ways, proposals, strict=True)]
        leading = max(drawn, key=lambda d: float(np.max(d.log_evidence)))
        variance = samples.rounding + _noise(leading, samples, y)
        found = [_again(d, y, variance) for d in drawn]
        proposals = [d.proposal.fitted(d.x, d.log_weights) for d in found]
    return found


def _drawn(
    way: Rise, proposal: Proposal, samples: _Samples, y: Array, variance: Array, rng: np.random.Generator
) -> _Draws:
    x = proposal.sample(rng, DRAWS[way.unknowns])
    rise = float(np.mean(y[-len(y) // 3 :]) - np.mean(y[: len(y) // 3 + 1]))
    scale = np.copysign(max(float(np.ptp(y)), LEAST_RISE_K), rise)
    terms = terms_of(way, x, samples.drive, scale, FREE_K)
    return _Draws(way, proposal, x, terms, _explained(terms, y, variance))


def _again(drawn: _Draws, y: Array, variance: Array) -> _Draws:
    explained = _explained(drawn.terms, y, variance)
    return _Draws(drawn.rise, drawn.proposal, drawn.x, drawn.terms, explained)


def _explained(terms: Terms, y: Array, variance: Array) -> Posterior:
    precision = np.asarray(np.linalg.inv(terms.covariance), float)
    return posterior(LinearModels(terms.columns, terms.mean, precision), y, variance)


def _noise(leading: _Draws, samples: _Samples, y: Array) -> float:
    """Variance of a block's mean as if blocks were independent: what the best leaves, by its autocorrelation."""
    n, best = len(y), leading.best
    left = y - leading.terms.columns[best] @ leading.posterior.mean[best]
    rho = lag_one_autocorrelation(left)
    rho = min(max(rho + (1 + 4 * rho) / n, 0.0), 0.985)  # small-sample bias, and the fitted figures
    inflation = (1 + rho) / (1 - rho)
    degrees = max(n / inflation - 4.0, 2.0)
    inflation *= (stdtrit(degrees, 0.95) / ndtri(0.95)) ** 2
    of_rounding = float(samples.rounding.min())
    return max(float(np.sum(left**2)) / max(n - 4, 1) - of_rounding, 1e-8) * float(inflation)


def _missing(drawn: _Draws, time_s: Array) -> tuple[Array, Array]:
    """What is missing of the settled value at these times by a draw, and its deviation, (draw, time)."""
    missing, part = drawn.rise.decay(drawn.x, time_s), drawn.amplitude()
    mean = np.einsum("dtk,dk->dt", missing, drawn.posterior.mean[:, part])
    square = np.einsum("dtk,dkl,dtl->dt", missing, drawn.posterior.covariance[:, part, part], missing)
    return mean, np.sqrt(np.maximum(square, 0.0))


def _constant(found: list[_Draws], weights: Array, last: Array) -> float:
    """Time constant of what is still missing at the end: the mean of all ways, by what each term still carries."""
    constants = []
    for d in found:
        carried = np.abs(d.rise.decay(d.x, last)[:, 0] * d.posterior.mean[:, d.amplitude()]) + 1e-12
        constants.append(np.sum(carried * d.rise.constants(d.x), axis=1) / carried.sum(axis=1))
    return float(weights @ np.concatenate(constants))


def _needed(weights: Array, ahead: Array) -> float:
    """Minutes until half a kelvin is to come."""
    left = np.maximum(weights @ np.abs(ahead), 1e-9)
    return float(max(np.exp(np.interp(-np.log(WORTH_K), -np.log(left), np.log(AHEAD_MIN))), LEAST_NEEDED_MIN))
