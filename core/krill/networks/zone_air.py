"""How fast the air moves in the boxes of a build: through-flow over a mean section."""

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.document.build import Zone
from krill.networks.structure import Structure

Array = NDArray[np.float64]


class ZoneAir:
    """Cross-sections of the boxes of a structure, in one batch of figures."""

    def __init__(self, structure: Structure, values: Values) -> None:
        self._structure, self._values = structure, values
        self._sections = {zone.id: self._section(zone) for zone in structure.build.zones if zone.kind == "box"}
        self._touching: dict[str, NDArray[np.bool_]] = {}
        if structure.air is not None:
            tail, head = structure.air.tail_nodes, structure.air.head_nodes
            nodes = {zone: structure.zone_nodes[zone] for zone in self._sections}
            self._touching = {zone: (tail == node) | (head == node) for zone, node in nodes.items()}

    def _section(self, zone: Zone) -> Array | None:
        """What air moves through in a box: its own figure, else a mean section of the housing; None where unknown.

        Boxes that state no section share the housing's volume evenly; one that states its own takes nothing from them.
        """
        build = self._structure.build
        if zone.cross_section_cm2 is not None:
            return self._values(f"{zone.id}/cross_section_cm2")
        size = build.housing.inner_size_mm
        if size is None:
            return None
        sharing = sum(1 for other in build.zones if other.kind == "box" and other.cross_section_cm2 is None)
        volume = float(size[0]) * float(size[1]) * float(size[2]) * 1e-9 / sharing
        return np.asarray(volume ** (2 / 3))

    def velocity(self, zone: str, volume: Array) -> Array | None:
        """Mean velocity of the air that passes through a box, m/s (batch,); None where its section is unknown.

        ``volume`` is what flows along each edge of the air, m3/s (batch, edge).
        """
        section, touching = self._sections.get(zone), self._touching.get(zone)
        if section is None or touching is None:
            return None
        return np.asarray(np.sum(np.abs(volume[:, touching]), axis=1) / 2 / section)
