"""Bodies that several parts press on: what each side gives off, and how heat spreads from the contacts into them."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.components.heat_pipes import GROOVE_PITCH, pipe_figures
from krill.components.panels import Flat, flat_of, side_loss
from krill.components.sinks import Fins, fins_of, still_loss
from krill.components.solid_parts import contact_area
from krill.document.build import Build
from krill.document.geometry import lie_of, stand_of, upright_extent
from krill.document.solids import HeatPipe, Panel, Sink
from krill.networks.structure import Contact
from krill.physics.spreading import Face, InfluenceTable, spreading_lee

Array = NDArray[np.float64]

#: a contact is never better than this, K/W (keeps a face that covers its plate regular)
LEAST_SPREADING = 1e-5
#: how far beyond the films of a first look a table of influences reaches
TABLE_REACH = 3.0


class BodyModel:
    """One body of a batch: its sides as conductances, its contacts as resistances to its mean."""

    def __init__(self, build: Build, part: Sink | Panel, contacts: list[Contact], values: Values, pressure_pa: Array):
        self.part, self.contacts, self._values, self._pressure = part, contacts, values, pressure_pa
        self.lie = lie_of(build, part)
        if isinstance(part, Sink):
            self.fins: Fins | None = fins_of(part, stand_of(build, part), values)
            self.back = _back_of(self.fins, self.lie)
        else:
            self.fins = None
            self.back = flat_of(part, self.lie, upright_extent(build, part), values)
        footprints = [footprint(contact, values) for contact in contacts]
        self._areas = [across * along for across, along in footprints]
        self.faces = _placed(contacts, footprints, self.back.plate)
        self._table: InfluenceTable | None = None

    def conductance(self, side: str, body_c: Array, air_c: Array) -> Array:
        """W/K of one side over its difference to the air there; shapes broadcast."""
        if side == "outside" and self.fins is not None:
            return still_loss(self.fins, body_c, air_c, self._pressure).total
        return side_loss(self.back, side, body_c, air_c, self._pressure).total

    def spreading(self, surface_w_k: Array) -> Array:
        """K/W of each contact over the body's mean for each contact's watts, (batch, contact, contact)."""
        plate, k = self.back.plate, self.back.base_conductivity
        film = np.maximum(surface_w_k, 1e-6) / (self.back.width * self.back.height)
        ratio, thickness, k = (np.atleast_1d(v) for v in np.broadcast_arrays(film / k, self.back.thickness, k))
        if self._table is None or not self._table.covers(ratio, thickness):
            reach = (float(ratio.min()) / TABLE_REACH, float(ratio.max()) * TABLE_REACH)
            self._table = InfluenceTable(self.faces, plate, reach, (float(thickness.min()), float(thickness.max())))
        R = self._table(ratio, thickness, k)
        area = plate[0] * plate[1]
        for i, (face, varied) in enumerate(zip(self.faces, self._areas, strict=True)):
            if np.ndim(varied) > 0:
                R[:, i, i] *= _lee_ratio(varied, face, area, thickness, k, ratio * k)
        R = R + (thickness / (k * area))[:, None, None]
        R[:, range(len(self.faces)), range(len(self.faces))] += LEAST_SPREADING
        return R


def _lee_ratio(area: Array, face: Face, plate: float, thickness: Array, k: Array, film: Array) -> Array:
    """How a face that varies in size spreads against the one in the table, by Lee's quick form."""
    central = face.size[0] * face.size[1]
    own = spreading_lee(np.minimum(area, 0.999 * plate), plate, thickness, k, film)
    return np.asarray(own / np.maximum(spreading_lee(min(central, 0.999 * plate), plate, thickness, k, film), 1e-12))


def _back_of(fins: Fins, lie: str) -> Flat:
    """The base of a sink as a flat body: what its back gives to the inside."""
    upright = fins.length if fins.stand == "upright" else fins.width
    assert lie in ("vertical", "facing_up", "facing_down")
    return Flat(fins.width, fins.length, fins.base, fins.conductivity, fins.emissivity, fins.holes, fins.factor, lie, upright)


def footprint(contact: Contact, values: Values) -> tuple[Array, Array]:
    """Across and along the body's length, metres: what presses on it."""
    part = contact.through
    if isinstance(part, HeatPipe):
        pipe = pipe_figures(part, None, values)
        pitch = values(f"{part.id}/groove_pitch_mm") if part.groove_pitch_mm is not None else GROOVE_PITCH * pipe.width
        return np.asarray(pitch * (part.count - 1) + pipe.width), pipe.condenser
    if part is not None and values.has(f"{part.id}/width_mm") and values.has(f"{part.id}/length_mm"):
        return values(f"{part.id}/width_mm"), values(f"{part.id}/length_mm")
    face = contact_area(contact.place, values)
    side = np.sqrt(face if face is not None else np.asarray(4e-4))
    return side, side


def _placed(contacts: list[Contact], footprints: list[tuple[Array, Array]], plate: tuple[float, float]) -> list[Face]:
    """Faces within the plate: where their hops say, else side by side over the width."""
    faces = []
    for index, (contact, sizes) in enumerate(zip(contacts, footprints, strict=True)):
        size = tuple(min(float(np.mean(s)), side) for s, side in zip(sizes, plate, strict=True))
        if contact.at_mm is not None:
            wanted = (float(contact.at_mm[0]) / 1000, float(contact.at_mm[1]) / 1000)
        else:
            wanted = (plate[0] * (index + 0.5) / len(contacts), plate[1] / 2)
        centre = tuple(min(max(w, s / 2), side - s / 2) for w, s, side in zip(wanted, size, plate, strict=True))
        faces.append(Face((size[0], size[1]), (centre[0], centre[1])))
    return faces


@dataclass(frozen=True)
class Spread:
    """Contacts of a body as links: each to the body's mean, and between each two."""

    star: Array  # (batch, contact)
    between: Array  # (batch, pair)


def spread_links(R: Array) -> Spread:
    """Links that are worth the resistances R (batch, contact, contact): G = R^-1 taken apart."""
    G = np.linalg.inv(R)
    i, j = np.triu_indices(R.shape[-1], 1)
    return Spread(np.sum(G, axis=-1), -G[:, i, j])
