"""Bodies that several parts press on: what each side gives off, and how heat spreads from the contacts into them."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.components.heat_pipes import GROOVE_PITCH, pipe_figures
from krill.components.panels import Flat, flat_of, side_loss
from krill.components.sinks import Fins, fins_of, still_loss
from krill.components.solid_parts import contact_area
from krill.document.build import Bond, Build
from krill.document.geometry import lie_of, stand_of, upright_extent
from krill.document.solids import HeatPipe, Lie, Panel, Sink
from krill.networks.structure import Contact
from krill.physics.spreading import Face, InfluenceTable, shared_table, spreading_lee

Array = NDArray[np.float64]

#: a contact is never better than this, K/W (keeps a face that covers its plate regular)
MIN_SPREADING = 1e-5
#: so many plans of plate and faces in one batch have tables of their own; more are scaled by Lee's quick form
MAX_PLANS = 16
#: how far beyond the films of a first look a table of influences reaches
TABLE_REACH = 3.0


class BodyModel:
    """One body of a batch: its sides as conductances, its contacts as resistances to its mean."""

    def __init__(self, build: Build, part: Sink | Panel, contacts: list[Contact], values: Values, pressure_pa: Array):
        self.part, self.contacts, self._pressure = part, contacts, pressure_pa
        self._law = {side: values(f"{part.id}/law_{side}", 1.0) for side in ("outside", "inside", "stream")}
        self.lie = lie_of(build, part)
        if isinstance(part, Sink):
            self.fins: Fins | None = fins_of(part, stand_of(build, part), values)
            self.back = _back_of(self.fins, self.lie)
        else:
            self.fins = None
            self.back = flat_of(part, self.lie, upright_extent(build, part), values)
        self._sizes = _stacked(self.back.width, self.back.height)
        self._footprints = [_stacked(*footprint(contact, values)) for contact in contacts]
        self._tables: dict[tuple[float, ...], InfluenceTable] = {}

    def conductance(self, side: str, velocity: Array | None, body_c: Array, air_c: Array) -> Array:
        """W/K of one side over its difference to the air there; shapes broadcast.

        ``velocity`` of the air past a flat side, at the reference density, m/s; None where it stands.
        """
        if side == "outside" and self.fins is not None:
            fins = still_loss(self.fins, body_c, air_c, self._pressure)
            return self._law[side] * (fins.channels + fins.flanks) + fins.radiation
        flat = side_loss(self.back, side, body_c, air_c, self._pressure, velocity)
        return self._law[side] * flat.convection + flat.radiation

    @property
    def law_in_stream(self) -> Array:
        """Factor on the film of its stream."""
        return self._law["stream"]

    def spreading(self, surface_w_k: Array) -> Array:
        """K/W of each contact over the body's mean for each contact's watts, (batch, contact, contact)."""
        flat, rows = self.back, surface_w_k.shape[0]
        film = np.maximum(surface_w_k, 1e-6) / (flat.width * flat.height)
        k, thickness = (np.broadcast_to(v, (rows,)) for v in (flat.base_conductivity, flat.thickness))
        sizes = np.broadcast_to(self._sizes, (rows, 2))
        faces = [np.broadcast_to(face, (rows, 2)) for face in self._footprints]
        plan = np.concatenate([sizes, *faces], axis=1)
        known, kind = np.unique(plan, axis=0, return_inverse=True)
        R = np.empty((rows, len(self.contacts), len(self.contacts)))
        if len(known) <= MAX_PLANS:
            for index, row in enumerate(known):
                here = kind.ravel() == index
                R[here] = self._table(row, film[here] / k[here], thickness[here])(
                    film[here] / k[here], thickness[here], k[here]
                )
        else:
            R[:] = self._table(plan[0], film / k, thickness)(film / k, thickness, k)
            ratios = [_lee_ratio(face.prod(axis=1), sizes.prod(axis=1), thickness, k, film) for face in faces]
            R = respread(R, np.stack(ratios, axis=1))
        R += (thickness / (k * sizes.prod(axis=1)))[:, None, None]
        R[:, range(len(faces)), range(len(faces))] += MIN_SPREADING
        return R

    def _table(self, plan: Array, ratio: Array, thickness: Array) -> InfluenceTable:
        """Influences for one plan of plate and faces, over the films and thicknesses asked for and some way beyond."""
        key = tuple(plan)
        known = self._tables.get(key)
        if known is None or not known.covers(ratio, thickness):
            plate = (float(plan[0]), float(plan[1]))
            footprints = [(float(plan[i]), float(plan[i + 1])) for i in range(2, len(plan), 2)]
            reach = (float(ratio.min()) / TABLE_REACH, float(ratio.max()) * TABLE_REACH)
            span = (float(thickness.min()), float(thickness.max()))
            faces = tuple(placed(self.contacts, footprints, plate))
            known = self._tables[key] = shared_table(faces, plate, reach, span)
        return known


def respread(R: Array, ratio: Array) -> Array:
    """Resistances with each face's own times a ratio (batch, contact); as much as faces spread less they warm others less.

    So no combination of watts warms a body backwards, as it would where the others' warmth exceeded a face's own.
    """
    less = np.sqrt(np.minimum(ratio, 1.0))
    found = R * less[:, :, None] * less[:, None, :]
    own = range(R.shape[-1])
    found[:, own, own] += np.maximum(ratio - 1.0, 0.0) * R[:, own, own]
    return np.asarray(found)


def _stacked(first: Array, second: Array) -> Array:
    """(batch or 1, 2) of two figures."""
    return np.stack(np.broadcast_arrays(*(np.atleast_1d(v) for v in (first, second))), axis=1)


def _lee_ratio(area: Array, plate: Array, thickness: Array, k: Array, film: Array) -> Array:
    """How faces and plates of every row spread against those of the first one, by Lee's quick form."""
    own = spreading_lee(np.minimum(area, 0.999 * plate), plate, thickness, k, film)
    first = spreading_lee(np.minimum(area[0], 0.999 * plate[0]), plate[0], thickness, k, film)
    return np.asarray(own / np.maximum(first, 1e-12))


def _back_of(fins: Fins, lie: Lie) -> Flat:
    """The base of a sink as a flat body: what its back gives to the inside."""
    upright = fins.length if fins.stand == "upright" else fins.width
    return Flat(
        fins.width, fins.length, fins.base, fins.conductivity, fins.emissivity, fins.holes, fins.factor, lie, upright
    )


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


def placed(contacts: list[Contact], footprints: list[tuple[float, float]], plate: tuple[float, float]) -> list[Face]:
    """Faces within the plate: where their hops say, else side by side over the width."""
    faces = []
    for index, (contact, sizes) in enumerate(zip(contacts, footprints, strict=True)):
        size = [min(s, side) for s, side in zip(sizes, plate, strict=True)]
        wanted = [plate[0] * (index + 0.5) / len(contacts), plate[1] / 2]
        if contact.at_mm is not None:
            wanted = [float(v) / 1000 for v in contact.at_mm]
        centre = [min(max(w, s / 2), side - s / 2) for w, s, side in zip(wanted, size, plate, strict=True)]
        faces.append(Face((size[0], size[1]), (centre[0], centre[1])))
    return faces


def bond_conductance(bond: Bond, first: BodyModel, second: BodyModel, values: Values) -> Array:
    """W/K of a seam between the means of two bodies: its joint, and a third of each sheet's extent behind it."""
    if bond.conductance_w_k is not None:
        return values(f"{bond.id}/conductance_w_k")
    seam = values(f"{bond.id}/seam_mm")
    R = values(f"{bond.id}/joint_mm2k_w") / (seam * values(f"{bond.id}/overlap_mm"))
    for flat in (first.back, second.back):
        extent = flat.width * flat.height / seam
        R = R + extent / (3.0 * flat.base_conductivity * flat.thickness * seam)
    return np.asarray(1.0 / R)


@dataclass(frozen=True)
class Spread:
    """Contacts of a body as links: each to the body's mean, and between each two."""

    star: Array  # (batch, contact)
    between: Array  # (batch, pair)


def spread_links(R: Array) -> Spread:
    """Links that are worth the resistances R (batch, contact, contact): G = R^-1 taken apart."""
    G = np.linalg.inv(R)
    i, j = np.triu_indices(R.shape[-1], 1)
    return Spread(np.asarray(np.sum(G, axis=-1)), np.asarray(-G[:, i, j], dtype=np.float64))
