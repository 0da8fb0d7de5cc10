"""The flow network of one fluid of a build with figures in it: groups of edges and what they are solved with."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.components import air_parts, coolant_parts
from krill.components.coolant_parts import MoverFigures, PipeFigures, PowerFigures
from krill.components.edges import Curve, EdgeGroup, Medium, MoverEdges, PipeEdges, PowerEdges
from krill.components.figure_table import Values
from krill.components.radiator import REFERENCE_AIR
from krill.document.build import Build
from krill.document.parts import Coupling, Fan, Filter, Fitting, Opening, Plate, Pump, Radiator, Reservoir, Tube
from krill.networks.flow import FlowSolution, solve
from krill.networks.structure import FlowStructure

Array = NDArray[np.float64]
EdgeFigures = PipeFigures | PowerFigures | MoverFigures

#: a turning or standing mover keeps a linear resistance of this share of its parabola (keeps rest regular)
IDLE_SHARE = 1e-6


def coolant_figures(build: Build, part_id: str, values: Values) -> EdgeFigures:
    """Hydraulic figures of a part in a loop."""
    part = build.part(part_id)
    match part:
        case Pump():
            return coolant_parts.mover(part, values, coolant_parts.REFERENCE_WATER)
        case Tube():
            return coolant_parts.tube(part, values)
        case Fitting() | Reservoir():
            return coolant_parts.fitting(part, values)
        case Plate():
            return coolant_parts.plate(part, values)
        case Radiator():
            return coolant_parts.radiator(part, values)
        case Coupling():
            return coolant_parts.coupling(part, values)
        case _:
            raise TypeError(f"{part_id}: a {part.kind} has no coolant side")


def air_figures(build: Build, part_id: str, values: Values) -> EdgeFigures:
    """Air-side figures of a part in an air path."""
    part = build.part(part_id)
    match part:
        case Fan():
            return coolant_parts.mover(part, values, REFERENCE_AIR)
        case Opening():
            return air_parts.opening(part, values)
        case Filter():
            return air_parts.dust_filter(part, values)
        case Radiator():
            return air_parts.radiator_air(part, values)
        case _:
            raise TypeError(f"{part_id}: a {part.kind} has no air side")


@dataclass
class FlowModel:
    """Edge groups of one fluid; mover speeds are set before each solve."""

    structure: FlowStructure
    groups: list[EdgeGroup]
    movers: tuple[str, ...]
    scale: float

    def solve(self, medium: Medium, speeds: dict[str, Array], start: Array | None) -> FlowSolution:
        """Flows with the movers at the given shares of their rated speed, each (batch,)."""
        groups: list[EdgeGroup] = [
            self._at_speed(group, speeds) if isinstance(group, MoverEdges) else group for group in self.groups
        ]
        return solve(self.structure.graph, groups, medium, self.scale, start)

    def _at_speed(self, group: MoverEdges, speeds: dict[str, Array]) -> MoverEdges:
        n = np.stack([speeds[mover] for mover in self.movers], axis=1)
        return MoverEdges(
            group.columns, group.curve, n, group.flow_factor, group.pressure_factor, group.density_ref, group.idle_slope
        )


def flow_model(structure: FlowStructure, figures: list[EdgeFigures], values: Values) -> FlowModel:
    """Group the figures of every edge by kind."""
    pipes = [(i, f) for i, f in enumerate(figures) if isinstance(f, PipeFigures)]
    powers = [(i, f) for i, f in enumerate(figures) if isinstance(f, PowerFigures)]
    movers = [(i, f) for i, f in enumerate(figures) if isinstance(f, MoverFigures)]
    groups: list[EdgeGroup] = []
    if pipes:
        columns, items = zip(*pipes, strict=True)
        groups.append(
            PipeEdges(
                np.array(columns),
                values.columns([f.length_m for f in items]),
                values.columns([f.bore_m for f in items]),
                values.columns([f.roughness_m for f in items]),
                values.columns([f.loss for f in items]),
            )
        )
    if powers:
        columns, shares = zip(*powers, strict=True)
        groups.append(
            PowerEdges(
                np.array(columns),
                values.columns([f.linear for f in shares]),
                values.columns([f.coefficient for f in shares]),
                values.columns([f.exponent for f in shares]),
                values.columns([f.density_power for f in shares]),
                values.columns([f.density_ref for f in shares]),
            )
        )
    if movers:
        groups.append(_mover_group(movers, values))
    scale = _flow_scale(movers)
    return FlowModel(structure, groups, tuple(structure.parts[i] for i, _ in movers), scale)


def _mover_group(movers: list[tuple[int, MoverFigures]], values: Values) -> MoverEdges:
    columns, items = zip(*movers, strict=True)
    curve = Curve.stack([f.curve for f in items])
    idle = IDLE_SHARE * curve.shutoff / (curve.free_flow * np.array([f.density_ref for f in items]))
    return MoverEdges(
        np.array(columns),
        curve,
        np.ones((1, len(items))),
        values.columns([f.flow_factor for f in items]),
        values.columns([f.pressure_factor for f in items]),
        values.columns([f.density_ref for f in items]),
        idle[None, :],
    )


def _flow_scale(movers: list[tuple[int, MoverFigures]]) -> float:
    """A typical mass flow of the network, kg/s: a third of the largest free flow."""
    return max((float(np.mean(f.curve.free_flow * f.flow_factor)) * f.density_ref / 3 for _, f in movers), default=1e-3)
