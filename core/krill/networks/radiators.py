"""Radiators: coolant-in over air-in conductance of every radiator of a structure at the flows on both sides."""

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.components.radiator import DUST_CONDUCTANCE, core_of, dusty, inlet_conductance
from krill.components.radiator_table import AIR_HEAT_CAPACITY, section_face
from krill.networks.flow import FlowSolution
from krill.networks.pattern import RESIDUAL_CONDUCTANCE, ThermalPattern

Array = NDArray[np.float64]


class RadiatorModel:
    """Radiators of a structure in one batch of figures."""

    def __init__(self, pattern: ThermalPattern, values: Values) -> None:
        self._batch = values.batch
        parts = [link.part for link in pattern.radiators]
        self._water = [link.coolant_edge for link in pattern.radiators]
        self._air = [link.air_edge for link in pattern.radiators]
        self._still = pattern.standing[-1][self._air] if parts else np.zeros(0)
        self._cores = [core_of(part) for part in parts]
        covered = values.columns([values(f"{part.id}/covered_share", 1.0) for part in parts])
        self._sections = covered * np.array([part.sections for part in parts], dtype=np.float64)
        self._face = self._sections * np.array([section_face(float(part.section_mm)) for part in parts])
        dust = dusty(values.columns([values(f"{part.id}/dust", 0.0) for part in parts]), DUST_CONDUCTANCE)
        self._factor = dust * values.columns([values(f"{part.id}/factor", 1.0) for part in parts])

    def conductances(self, streams: list[Array], air: FlowSolution | None, volume: Array | None) -> Array:
        """W/K on the difference of the two inlets, (batch, radiator).

        ``streams`` are capacity flows W/K (batch, edge) of coolant and air, ``volume`` what flows along the edges of the
        air, m3/s.
        """
        if not self._cores or air is None or volume is None:
            return np.zeros((self._batch, 0))
        velocity = np.abs(volume[:, self._air]) / self._face
        section = np.stack([core.conductance_at(velocity[:, i]) for i, core in enumerate(self._cores)], axis=1)
        water = np.maximum(np.abs(streams[0][:, self._water]), RESIDUAL_CONDUCTANCE["coolant"])
        through = np.maximum(np.abs(air.mass_flow[:, self._air]) * AIR_HEAT_CAPACITY, self._still)
        return inlet_conductance(self._sections * section, self._factor, through, water)
