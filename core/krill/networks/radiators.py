"""Radiators: coolant-in over air-in conductance of every radiator of a structure at the flows on both sides."""

from functools import partial

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.components.radiator import (
    DUST_CONDUCTANCE,
    core_of,
    dusty,
    inlet_conductance,
    still_conductance,
    with_coolant,
)
from krill.components.radiator_table import REFERENCE_AIR, section_face
from krill.networks.flow import FlowSolution
from krill.networks.laws import FilmLaw, LinkLaw
from krill.networks.pattern import RESIDUAL_CONDUCTANCE, ThermalPattern
from krill.physics.mixed_convection import joined_films
from krill.physics.properties import FluidState

Array = NDArray[np.float64]


class RadiatorModel:
    """Radiators of a structure in one batch of figures."""

    def __init__(self, pattern: ThermalPattern, values: Values) -> None:
        self._batch = values.batch
        parts = self._parts = [link.part for link in pattern.radiators]
        self._water = [link.coolant_edge for link in pattern.radiators]
        self._air = [link.air_edge for link in pattern.radiators]
        self._still = np.array([still_conductance(part) for part in parts])
        self._cores = [core_of(part) for part in parts]
        covered = values.columns([values(f"{part.id}/covered_share", 1.0) for part in parts])
        self._sections = covered * np.array([part.sections for part in parts], dtype=np.float64)
        self._face = self._sections * np.array([section_face(float(part.section_mm)) for part in parts])
        dust = dusty(values.columns([values(f"{part.id}/dust", 0.0) for part in parts]), DUST_CONDUCTANCE)
        self._factor = dust * values.columns([values(f"{part.id}/factor", 1.0) for part in parts])

    def conductances(
        self, streams: list[Array], coolant: FlowSolution | None, liquid: FluidState | None, air: FlowSolution | None
    ) -> Array:
        """W/K on the difference of the two inlets, (batch, radiator).

        ``streams`` are capacity flows W/K (batch, edge) of coolant and air. The air side follows the mass velocity.
        """
        if not self._cores or air is None or coolant is None or liquid is None:
            return np.zeros((self._batch, 0))
        velocity = np.abs(air.mass_flow[:, self._air]) / (REFERENCE_AIR * self._face)
        here = liquid.take(self._water)
        flow = np.abs(coolant.mass_flow[:, self._water]) / here.density
        sections = [self._section(i, velocity[:, i], flow[:, i], here.column(i)) for i in range(len(self._cores))]
        section = np.stack(sections, axis=1)
        water = np.maximum(np.abs(streams[0][:, self._water]), RESIDUAL_CONDUCTANCE["coolant"])
        return inlet_conductance(self._sections * section, self._factor, np.abs(streams[-1][:, self._air]), water)

    def still_laws(self, driven: Array) -> list[LinkLaw]:
        """From the coolant of each radiator to the air around it: what still air carries beside the stream's W/K."""
        return [
            FilmLaw(partial(_beside, float(self._still[index]), driven[:, index])) for index in range(len(self._parts))
        ]

    def _section(self, index: int, velocity: Array, flow: Array, liquid: FluidState) -> Array:
        """UA of a section of one radiator at its flows, W/K (batch,)."""
        return with_coolant(self._parts[index], self._cores[index].conductance_at(velocity), flow, liquid)


def _beside(still: float, driven: Array, inner: Array, outer: Array) -> Array:
    return joined_films(still, driven) - driven
