"""Conductances of a build's heat network: what no flow changes once, the rest for the flows of each round."""

from functools import partial

import numpy as np
from numpy.typing import NDArray

from krill.components import air_parts
from krill.components.figure_table import Values
from krill.components.heat_pipes import PipeGroup, pipe_figures
from krill.components.radiator_table import AIR_HEAT_CAPACITY, REFERENCE_AIR
from krill.components.sinks import driven_loss
from krill.document.build import leaves
from krill.document.geometry import lift_of
from krill.document.parts import Cooler, Tube
from krill.document.solids import HeatPipe, Sink
from krill.networks.bodies import BodyModel, Spread, bond_conductance, spread_links
from krill.networks.flow import FlowSolution
from krill.networks.laws import BentLaw, FilmLaw, LinkLaw, PowerLaw
from krill.networks.layers import DIRECT_AIR_K_W, LayerModel, Round
from krill.networks.pattern import (
    WALL_EXPONENT,
    WALL_REFERENCE_K,
    BodySide,
    Conductances,
    PipeLink,
    ThermalPattern,
)
from krill.networks.plates import PlateModel
from krill.networks.radiators import RadiatorModel
from krill.networks.states import MachineStates
from krill.networks.still_ways import StillWays
from krill.networks.structure import Structure
from krill.networks.zone_air import ZoneAir
from krill.physics.properties import FluidState

Array = NDArray[np.float64]

#: soft tube 10/16 mm in still air (value from memory), and what joints of a loop without tubes are worth
TUBE_W_K_M, SHORTEST_TUBE_M = 0.45, 0.5


class ConductanceModel:
    """Figures of one batch as conductances, in the order of the thermal pattern; and the laws of its links."""

    def __init__(self, structure: Structure, pattern: ThermalPattern, values: Values, states: MachineStates) -> None:
        self.structure, self.build = structure, structure.build
        self.pattern, self.values, self.states = pattern, values, states
        self._plates = PlateModel(structure, pattern, values)
        self._radiators = RadiatorModel(pattern, values)
        self._bare = self._bare_loops()
        self.pipes = [self._pipe(link) for link in pattern.pipes]
        self.bodies = {body: self._body(body) for body in structure.body_nodes}
        self.bonds = values.columns(
            [bond_conductance(b, self.bodies[b.first], self.bodies[b.second], values) for b in self.build.bonds]
        )
        self.zone_air = ZoneAir(structure, values)
        self._layers = LayerModel(structure, pattern, values, states, self.zone_air, self.pipes)
        self._laws = self._link_laws()
        boxes = {zone.id for zone in self.build.zones if zone.kind == "box"}
        self._boxes = {node: zone for zone, node in structure.zone_nodes.items() if zone in boxes}
        self._still = StillWays(pattern, values, self.bodies, states.pressure_pa)

    def at(
        self,
        T: Array,
        streams: list[Array],
        coolant: FlowSolution | None,
        air: FlowSolution | None,
        liquid: FluidState | None,
    ) -> Conductances:
        """Conductances at the temperatures and flows of a round; ``liquid`` is the coolant on each of its edges."""
        volume = None if air is None else air.mass_flow / REFERENCE_AIR
        plates = self._plates.conductances(coolant, liquid)
        at_streams = self._streams(volume)
        spread = self._spread(T, at_streams, air)
        layers = self._layers.at(Round(plates, at_streams, volume, spread))
        between = [spread[body].between for body in self.structure.body_nodes if body in spread] + [self.bonds]
        rows = layers.shape[0]
        joined = np.concatenate([np.broadcast_to(part, (rows, part.shape[1])) for part in between], axis=1)
        radiators = self._radiators.conductances(streams, coolant, liquid, air)
        return Conductances(layers, joined, plates, self._bare, at_streams, radiators)

    def laws(self, conductance: Conductances, air: FlowSolution | None) -> list[LinkLaw]:
        """Laws in the order of the pattern's links: walls, sides of bodies, heat pipes, still ways beside the streams."""
        pipes: list[LinkLaw] = [BentLaw(group.heat) for group in self.pipes]
        still = self._still.laws(conductance.streams) + self._radiators.still_laws(conductance.radiators)
        return self._laws + self._side_laws(air) + pipes + still

    def _body(self, body: str) -> BodyModel:
        contacts = self.structure.contacts_of(body)
        return BodyModel(self.build, self.build.part(body), contacts, self.values, self.states.pressure_pa)

    def _pipe(self, link: PipeLink) -> PipeGroup:
        part = self.build.part(link.layer.part or "")
        assert isinstance(part, HeatPipe)
        return PipeGroup(pipe_figures(part, lift_of(self.build, part), self.values), self.values)

    def _link_laws(self) -> list[LinkLaw]:
        """Laws of walls, which no flow changes."""
        laws: list[LinkLaw] = [
            PowerLaw(self.values(f"{zone}/wall_w_k"), WALL_EXPONENT, WALL_REFERENCE_K) for zone in self.pattern.walls
        ]
        return laws

    def _side_laws(self, air: FlowSolution | None) -> list[LinkLaw]:
        return [
            FilmLaw(partial(self.bodies[side.body.id].conductance, side.side, self.moving_past(side, air)))
            for side in self.pattern.sides
        ]

    def moving_past(self, side: BodySide, air: FlowSolution | None) -> Array | None:
        """How fast the air of a box moves past a side of a body, at the reference density, m/s (batch,); None: it stands."""
        if air is None or side.zone not in self._boxes:
            return None
        return self.zone_air.velocity(self._boxes[side.zone], air.mass_flow / REFERENCE_AIR)

    def _spread(self, T: Array, streams: Array, air: FlowSolution | None) -> dict[str, Spread]:
        """Contacts of every body as links, at the films that its sides have now."""
        found = {}
        for body, model in self.bodies.items():
            if not model.contacts:
                continue
            node = self.structure.body_nodes[body]
            surface: Array = np.zeros(T.shape[0])
            for side in self.pattern.sides:
                if side.body.id == body:
                    moving = self.moving_past(side, air)
                    surface = surface + model.conductance(side.side, moving, T[:, node], T[:, side.zone])
            for column, stream in enumerate(self.pattern.streams):
                if stream.part == body:
                    surface = surface + streams[:, column]
            found[body] = spread_links(model.spreading(surface))
        return found

    def _bare_loops(self) -> Array:
        """Soft tube in still air, for loops that have nothing else to give heat off with."""
        columns = []
        for bare in self.pattern.bare_loops:
            parts = [self.build.part(item) for item in leaves(bare.loop.elements)]
            metres = sum((self.values(f"{p.id}/length_m") for p in parts if isinstance(p, Tube)), np.asarray(0.0))
            columns.append(TUBE_W_K_M * np.maximum(metres, SHORTEST_TUBE_M))
        return np.broadcast_to(self.values.columns(columns), (self.values.batch, len(columns)))

    def _streams(self, volume: Array | None) -> Array:
        """W/K from faces to the air that enters their edges, never more than it can carry; (batch, stream).

        ``volume`` is the air's mass flow at the reference density, m3/s (batch, edge).
        """
        if volume is None or not self.pattern.streams:
            return np.zeros((self.values.batch, 0))
        columns = []
        for stream in self.pattern.streams:
            part, flow = self.build.part(stream.part), volume[:, stream.edge]
            if isinstance(part, Sink):
                body = self.bodies[part.id]
                assert body.fins is not None
                columns.append(body.law_in_stream * driven_loss(part, body.fins, self.values, flow).conductance)
            elif isinstance(part, Cooler) and (stream.hop is None or stream.hop.resistance_k_w is None):
                columns.append(1.0 / air_parts.cooler_resistance(part, self.values, flow))
            else:
                hop = stream.hop.id if stream.hop is not None else part.id
                columns.append(1.0 / self.values(f"{hop}/resistance_k_w", DIRECT_AIR_K_W))
        edges = [stream.edge for stream in self.pattern.streams]
        return np.minimum(self.values.columns(columns), REFERENCE_AIR * AIR_HEAT_CAPACITY * np.abs(volume[:, edges]))
