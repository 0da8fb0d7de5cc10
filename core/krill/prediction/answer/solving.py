"""One batched solve for every case and sample of a prediction."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import ParamSpec

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable, Values
from krill.document.build import Build
from krill.document.geometry import heights_of
from krill.fit.fit import Checks, checks_of
from krill.materials.fluids import coolant
from krill.networks.coupled import CoupledNetwork, CoupledSolution
from krill.networks.pattern import ThermalPattern
from krill.networks.states import Case, MachineStates
from krill.networks.structure import Structure, structure_of
from krill.numerics.sampling import band_90
from krill.physics.properties import FluidState
from krill.prediction.answer.model import Model
from krill.prediction.answer.result import Band

Array = NDArray[np.float64]
P = ParamSpec("P")


@dataclass
class Solved:
    """A solution with what it was solved for; row 0 of each case is the central value, draws follow."""

    build: Build
    table: FigureTable
    structure: Structure
    network: CoupledNetwork
    solution: CoupledSolution
    cases: list[Case]
    samples: int
    seed: int

    @cached_property
    def link_heat(self) -> Array:
        """Heat over each link of the pattern (walls, sides of bodies, heat pipes), W (batch, link)."""
        T, links = self.solution.temperature, self.network.pattern.network.links
        found = [
            law.heat(T[:, i], T[:, j])[0]
            for law, i, j in zip(self.solution.laws, links.inner, links.outer, strict=True)
        ]
        return np.stack(found, axis=1) if found else np.zeros((T.shape[0], 0))

    @cached_property
    def heights(self) -> dict[str, float]:
        """Height of each part that the document places, m."""
        return heights_of(self.build)

    @cached_property
    def fit(self) -> Checks:
        """What goes in and what does not, worked out once for all workloads."""
        return checks_of(self.build)

    @cached_property
    def coolants(self) -> dict[str, FluidState]:
        """What fills each loop at its mean temperature, (batch,)."""
        flow, T = self.structure.coolant, self.solution.temperature
        if flow is None:
            return {}
        return {
            loop.id: coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(
                T[:, flow.nodes_of(loop.id)].mean(axis=1)
            )
            for loop in self.build.loops
        }

    @property
    def stride(self) -> int:
        return self.samples + 1

    def central(self, case: int) -> int:
        """Row of the central values of a case."""
        return case * self.stride

    def figure(self, address: str, row: int, missing: float | None = None) -> float:
        """One sample of a figure, SI."""
        return self.sample(self.network.values(address, missing), row)

    def sample(self, values: Array, row: int) -> float:
        """One sample of a scalar or (batch,)."""
        return float(values[row] if values.ndim else values)

    def drawn(self, case: int) -> slice:
        """Rows of the draws of a case."""
        return slice(case * self.stride + 1, (case + 1) * self.stride)


def drawn_band(solved: Solved, row: int, values: Array) -> Band | None:
    """The middle 90 % of the draws of a case of something known of every row, (batch,); None without draws.

    ``row`` is the central one of the case.
    """
    if solved.samples == 0:
        return None
    low, high = band_90(values[solved.drawn(row // solved.stride)])
    return Band(low=float(low), high=float(high))


def room_of(solved: Solved, row: int) -> float:
    """Temperature of the first outside zone: what "over room" refers to."""
    return float(solved.solution.temperature[row, solved.network.pattern.given[0]])


def at_row(values: Array, row: int, column: int) -> float:
    """One figure of an array (batch or 1, item)."""
    return float(values[row if values.shape[0] > 1 else 0, column])


def try_cases(
    build: Build,
    cases: list[Case],
    samples: int = 0,
    seed: int = 1,
    overrides: dict[str, float] | None = None,
    draws: dict[str, Array] | None = None,
) -> Solved:
    """Solve every case at its central figures and at ``samples`` draws; the solution's status tells which rows settled."""
    network = network_of(build, cases, samples, seed, overrides, draws)
    return Solved(build, network.values.table, network.structure, network, network.solve(), cases, samples, seed)


def network_of(
    build: Build,
    cases: list[Case],
    samples: int = 0,
    seed: int = 1,
    overrides: dict[str, float] | None = None,
    draws: dict[str, Array] | None = None,
) -> CoupledNetwork:
    """A build ready to be solved for every case at its central figures and at ``samples`` draws.

    ``overrides`` set figures by address in SI and make them certain; ``draws`` replace the keyed draws, each
    (samples,) or (case, samples), of a figure or of a mover's duty (``movers/id``, where NaN leaves it as told).
    """
    model = Model.of(build)
    table, pattern = model.table, model.pattern
    for address, value in (overrides or {}).items():
        table = table.with_override(address, value)
    if table.figures.keys() != model.table.figures.keys():
        pattern = ThermalPattern(structure_of(build, table))
    if draws is None:
        draws = table.draws(seed, samples) if samples else {}
    values = Values(table, len(cases) * (samples + 1), _varied(table, draws, len(cases), samples))
    states = MachineStates(build, cases, samples + 1, values)
    return CoupledNetwork(pattern, values, states)


def _every_row(ask: Callable[P, Solved]) -> Callable[P, Solved]:
    def solved(*asked: P.args, **more: P.kwargs) -> Solved:
        found = ask(*asked, **more)
        found.solution.status.must_all_settle()
        return found

    return solved


#: as ``try_cases``; NotConverged where a row does not settle
solve_cases = _every_row(try_cases)


def _varied(table: FigureTable, draws: dict[str, Array], cases: int, samples: int) -> dict[str, Array]:
    """Draws as rows of the batch, the central figure before those of each case."""
    varied = {}
    for address, drawn in draws.items():
        rows = np.broadcast_to(drawn, (cases, samples))
        known = table.figures.get(address)
        central = np.full((cases, 1), np.nan if known is None else known.value)
        varied[address] = np.concatenate([central, rows], axis=1).ravel()
    return varied
