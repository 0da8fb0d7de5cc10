"""The flow network of one fluid of a build with figures in it: groups of edges and what they are solved with."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from krill.components.air_parts import air_edge, close_mouth, duct_leak
from krill.components.coolant_parts import EdgeFigures, MoverFigures, PipeFigures, PowerFigures, coolant_edge
from krill.components.edges import Curve, EdgeGroup, Medium, MoverEdges, PipeEdges, PowerEdges
from krill.components.figure_table import Values
from krill.document.build import Build
from krill.document.geometry import close_to
from krill.document.parts import Opening, Radiator
from krill.networks.flow import TOLERANCE, FlowNetwork, FlowSolution
from krill.networks.flow_structure import LEAK, FlowStructure, owner

Array = NDArray[np.float64]

#: a turning or standing mover keeps a linear resistance of this share of its parabola (keeps rest regular)
IDLE_SHARE = 1e-6
#: a pump that blocks at rest, Pa for each kg/s
BLOCKING_PA_S_KG = 1e9


def coolant_figures(build: Build, edge: str, values: Values) -> EdgeFigures:
    """Hydraulic figures of an edge of a loop."""
    return coolant_edge(build.part(edge), values)


def air_figures(build: Build, edge: str, values: Values) -> EdgeFigures:
    """Air-side figures of an edge of an air path; a duct's leak is an edge of its own."""
    part = build.part(owner(edge))
    if edge.endswith(LEAK):
        return duct_leak(part, values)
    figures = air_edge(part, values)
    if isinstance(part, Opening | Radiator) and isinstance(figures, PowerFigures):
        close = close_to(build).get(part.id)
        return figures if close is None else close_mouth(part, figures, close[2], values)
    return figures


@dataclass(frozen=True)
class FlowModel:
    """Edge groups of one fluid; movers are told their speeds before a solve."""

    structure: FlowStructure
    network: FlowNetwork
    groups: list[EdgeGroup]
    movers: tuple[str, ...]
    scale: float

    def groups_at(self, speeds: dict[str, Array]) -> list[EdgeGroup]:
        """The groups with the movers at shares of their rated speed, each (batch,)."""
        return [self.at_speed(group, speeds) if isinstance(group, MoverEdges) else group for group in self.groups]

    def at_speed(self, group: MoverEdges, speeds: dict[str, Array]) -> MoverEdges:
        n = np.stack([speeds[mover] for mover in self.movers], axis=1)
        rest = group.idle_slope if group.rest_slope is None else group.rest_slope
        return replace(group, speed=n, idle_slope=np.where(n > 0.0, group.idle_slope, rest))

    def solve(
        self,
        groups: list[EdgeGroup],
        medium: Medium,
        start: Array | None,
        draught: Array | None = None,
        tolerance: float = TOLERANCE,
    ) -> FlowSolution:
        """Flows of groups at their speeds.

        ``draught`` is the pressure that the weight of air columns asks of each edge, Pa (batch, edge).
        """
        return self.network.solve(groups, medium, self.scale, start, draught, tolerance)


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
                np.array([[f.stated_in.density for f in shares]]),
                np.array([[f.stated_in.viscosity for f in shares]]),
            )
        )
    if movers:
        groups.append(_mover_group(movers, values))
    return FlowModel(
        structure,
        structure.network_of([group.columns for group in groups]),
        groups,
        tuple(structure.parts[i] for i, _ in movers),
        _flow_scale(movers),
    )


def _mover_group(movers: list[tuple[int, MoverFigures]], values: Values) -> MoverEdges:
    columns, items = zip(*movers, strict=True)
    curve = Curve.stack([f.curve for f in items])
    idle = IDLE_SHARE * curve.shutoff / (curve.free_flow * np.array([f.density_ref for f in items]))
    blocks = np.array([f.blocks_at_rest for f in items])
    return MoverEdges(
        np.array(columns),
        curve,
        np.ones((1, len(items))),
        values.columns([f.flow_factor for f in items]),
        values.columns([f.pressure_factor for f in items]),
        values.columns([f.density_ref for f in items]),
        idle[None, :],
        np.where(blocks, BLOCKING_PA_S_KG, idle)[None, :],
    )


def _flow_scale(movers: list[tuple[int, MoverFigures]]) -> float:
    """A typical mass flow of the network, kg/s: a third of the largest free flow."""
    return max((float(np.mean(f.curve.free_flow * f.flow_factor)) * f.density_ref / 3 for _, f in movers), default=1e-3)
