"""Faces on coolant: conductance of every plate of a structure at the flow through it."""

import numpy as np
from numpy.typing import NDArray

from krill.components import coolant_parts, solid_parts
from krill.components.figure_table import Values
from krill.networks.flow import FlowSolution
from krill.networks.pattern import PlateHop, ThermalPattern
from krill.networks.structure import Structure
from krill.physics.properties import FluidState

Array = NDArray[np.float64]

#: heat spot of a full-cover plate: resistance grows with (reference area / chip area)^0.6 (value from memory)
AREA_EXPONENT = 0.6


class PlateModel:
    """Plates of a structure in one batch of figures; their power laws are worked out once."""

    def __init__(self, structure: Structure, pattern: ThermalPattern, values: Values) -> None:
        self._structure, self._values = structure, values
        laws = [self._law(hop) for hop in pattern.plates]
        self._edges = [hop.edge for hop in pattern.plates]
        self._at_1 = values.columns([at_1 for at_1, _ in laws])
        self._exponent = values.columns([exponent for _, exponent in laws])

    def _law(self, hop: PlateHop) -> tuple[Array, Array]:
        """Resistance at 1 l/min under the face of a route, K/W, and exponent of the flow."""
        assert self._structure.coolant is not None
        part, values = self._structure.build.part(self._structure.coolant.parts[hop.edge]), self._values
        at_1, exponent = coolant_parts.plate_law(part, values)
        face = solid_parts.contact_area(hop.route.place, values)
        if face is not None and values.has(f"{part.id}/reference_area_mm2"):
            at_1 = at_1 * (values(f"{part.id}/reference_area_mm2") / face) ** AREA_EXPONENT
        return at_1, exponent

    def conductances(self, coolant: FlowSolution | None, liquid: FluidState | None) -> Array:
        """W/K from each face to the mean coolant in its plate, (batch, plate)."""
        if coolant is None or liquid is None or not self._edges:
            return np.zeros((self._values.batch, 0))
        here = liquid.take(self._edges)
        volume = coolant.mass_flow[:, self._edges] / here.density
        return 1.0 / coolant_parts.plate_with_coolant(self._at_1, self._exponent, volume, here)
