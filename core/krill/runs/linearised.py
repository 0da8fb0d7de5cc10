"""Readings of a run beside its prediction, with what each unknown moves: one batch a run."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.networks.states import Case
from krill.numerics.gauss_newton import Linearised
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.model import Model
from krill.prediction.answer.solving import Solved, solve_cases, try_cases
from krill.runs.as_run import nodes_of, value_of
from krill.runs.ran import Ran
from krill.runs.suspects import READING_K
from krill.runs.unknown_room import spread_of
from krill.runs.unknowns import Free
from krill.runs.verdict import Measured, name_of

Array = NDArray[np.float64]

#: step of a derivative, in standard deviations of the unknown before
STEP: Final = 0.3


@dataclass(frozen=True)
class Readings:
    """Readings of one run beside its prediction: K (reading,), their derivatives (reading, unknown), their doubt."""

    ran: Ran
    roles: list[str]
    names: list[str]
    measured: Array
    predicted: Array
    slopes: Array
    covariance: Array


def case_of(ran: Ran, build: Build) -> Case:
    load = next(item for item in build.workloads if item.id == ran.workload)
    return Case(load, ran.room.air_c, float(build.rooms[0].altitude_m))


def central(ran: Ran, seed: int) -> Solved:
    """The revision of a run as it stands, at its central figures."""
    return solve_cases(ran.as_kept, [case_of(ran, ran.as_kept)], 0, seed, ran.known)


def read(ran: Ran, free: list[Free], x: Array, seed: int) -> Readings:
    """A run's readings at factors x, with the derivative to each unknown: one batch."""
    steps = np.array([STEP * unknown.spread for unknown in free])
    solved = _solved(ran, free, np.concatenate([x[None, :], x + np.diag(steps)]), seed)
    solved.solution.status.must_all_settle()
    measured, values = _counting(ran, solved), _values(ran, solved)
    noise = np.array([m.half_width for m in measured]) / QUANTILE_90
    return Readings(
        ran,
        [m.role for m in measured],
        [name_of(solved, m.role) for m in measured],
        np.array([m.value for m in measured]),
        values[0],
        ((values[1:] - values[0]) / steps[:, None]).T,
        np.diag(noise**2 + READING_K**2) + spread_of(ran.room) ** 2,
    )


def values_at(ran: Ran, free: list[Free], x: Array, seed: int) -> Array:
    """A run's readings (draw, reading) at factors ``x`` (draw, unknown): one batch; NaN where a draw does not settle."""
    solved = _solved(ran, free, x, seed)
    settled = solved.solution.status.settled[solved.drawn(0)]
    return np.where(settled[:, None], _values(ran, solved), np.nan)


def _solved(ran: Ran, free: list[Free], x: Array, seed: int) -> Solved:
    """A run's load at factors ``x`` (draw, unknown), ln."""
    table = Model.of(ran.build).table
    factors: dict[str, Array] = {}
    for j, unknown in enumerate(free):
        for address, power in unknown.powers.items():
            if unknown.moves(address, table) and address not in ran.known:
                factors.setdefault(address, np.zeros(len(x)))[:] += power * x[:, j]
    draws = {address: table.figures[address].value * np.exp(column) for address, column in factors.items()}
    return try_cases(ran.build, [case_of(ran, ran.build)], len(x), seed, ran.known, draws or None)


def _counting(ran: Ran, solved: Solved) -> list[Measured]:
    """What was read of something that the build has, and had settled."""
    return [m for m in ran.measured if nodes_of(solved, m.role) is not None and m.settled]


def _values(ran: Ran, solved: Solved) -> Array:
    """(draw, reading)"""
    columns = [value_of(solved, m.role, solved.drawn(0)) for m in _counting(ran, solved)]
    return np.stack(columns, axis=1) if columns else np.empty((solved.samples, 0))


def together_of(readings: list[Readings]) -> Linearised[list[Readings]]:
    """Readings of all runs as one model."""
    values = np.concatenate([r.predicted for r in readings])
    return Linearised(values, np.concatenate([r.slopes for r in readings]), readings)


def rms(readings: Readings, residual: Array) -> float:
    """Root mean square, the run's own unknown room taken out."""
    if not residual.size:
        return 0.0
    spread = spread_of(readings.ran.room)
    if spread:
        noise = np.diag(readings.covariance) - spread**2
        weights = 1.0 / noise
        residual = residual - float(weights @ residual) / (float(weights.sum()) + spread**-2)
    return float(np.sqrt(np.mean(residual**2)))
