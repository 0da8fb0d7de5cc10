"""Resistances inside a source and across interfaces, K/W."""

from functools import lru_cache
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.document.build import CoresAtWork
from krill.document.parts import Place
from krill.document.solids import Interface, Spreader
from krill.errors import DocumentRefused, Problem
from krill.physics.conduction import contact_conductance, gap_conductance, layer_resistance
from krill.physics.spreading import Face, influence, spreading_lee

Array = NDArray[np.float64]

AIR_W_MK, AIR_JUMP_M = 0.026, 3.73e-7  # air in a bare joint: conductivity, temperature jump
#: films on a lid between which a chip off its middle is tabled, W/m2K
LID_FILMS = (3e2, 2e5)
MEAN_CORE_SHARE = 5 / 12  # mean of cores over chip mean, as a share of the hottest core's (value from memory)


#: the figure of a place for each kind of load
HOT_CORE: Final[dict[CoresAtWork, str]] = {
    "all": "hot_core_mm2k_w",
    "few": "hot_core_few_mm2k_w",
    "even": "hot_core_even_mm2k_w",
}


def hot_core_resistance(place: Place, values: Values, cores: NDArray[np.str_]) -> Array:
    """Named temperature over the chip's mean: an area-specific term that depends on which cores work, (batch,)."""
    area = values(f"{place.id}/chip_area_mm2")
    every = values(f"{place.id}/{HOT_CORE['all']}")
    term = every
    for kind, field in HOT_CORE.items():
        if values.has(f"{place.id}/{field}") and np.any(cores == kind):
            term = np.where(cores == kind, values(f"{place.id}/{field}"), term)
    share = MEAN_CORE_SHARE if place.temperature_kind == "mean_core" else 1.0
    return np.asarray(compute_share(place, values) * share * term / area)


def compute_share(place: Place, values: Values) -> Array:
    """Share of a package's watts that passes its compute chips, on whose area its resistances stand."""
    return values(f"{place.id}/compute_share", 1.0)


def chip_resistance(place: Place, values: Values) -> Array:
    """Transistors to the chip's top, with the joint under a lid."""
    area = values(f"{place.id}/chip_area_mm2")
    return np.asarray(compute_share(place, values) * values(f"{place.id}/chip_mm2k_w") / area)


def joint_resistance(place: Place, values: Values) -> Array:
    joint = values(f"{place.id}/joint_mm2k_w") / values(f"{place.id}/chip_area_mm2")
    return np.asarray(compute_share(place, values) * joint)


def lid_resistance(place: Place, values: Values, above_k_w: Array) -> Array:
    """Lid with the spreading that the film above it makes: one-dimensional slab plus Lee's spreading term.

    ``above_k_w`` is what lies between the lid's top and the coolant or air, on the lid's whole face.
    """
    lid, chip = values(f"{place.id}/lid_area_mm2"), values(f"{place.id}/chip_area_mm2")
    thickness, k = values(f"{place.id}/lid_thickness_mm"), values(f"{place.id}/lid_w_mk")
    film = 1.0 / (lid * above_k_w)
    spreading = values(f"{place.id}/law_lid", 1.0) * spreading_lee(np.minimum(chip, lid), lid, thickness, k, film)
    if values.has(f"{place.id}/chip_offset_mm"):
        plan = (chip, lid, thickness, k, values(f"{place.id}/chip_offset_mm"))
        spreading = spreading * _off_centre(film, *(float(np.mean(figure)) for figure in plan))
    spreading = compute_share(place, values) * spreading
    return np.asarray(spreading + thickness / (k * lid))


def _off_centre(film: Array, chip: float, lid: float, thickness: float, k: float, offset: float) -> Array:
    """Exact spreading of a chip off the middle of its lid over Lee's, which knows no position, at films W/m2K."""
    films, ratios = _off_centre_table(chip, lid, thickness, k, offset)
    return np.asarray(np.interp(np.log(film), films, ratios))


@lru_cache(maxsize=64)
def _off_centre_table(chip: float, lid: float, thickness: float, k: float, offset: float) -> tuple[Array, Array]:
    side, plate = np.sqrt(chip), np.sqrt(lid)
    most = (plate - side) / 2
    face = Face((side, side), (plate / 2 + min(offset, most), plate / 2))
    films = np.geomspace(*LID_FILMS, 9)
    exact = influence(face, face, (plate, plate), thickness, k, films)
    return np.log(films), exact / spreading_lee(chip, lid, thickness, k, films)


def contact_area(place: Place, values: Values) -> Array | None:
    """Face that the place offers to what lies on it, m2; None where it is not known."""
    for field in ("contact_area_mm2", "lid_area_mm2", "chip_area_mm2"):
        if values.has(f"{place.id}/{field}"):
            return values(f"{place.id}/{field}")
    return None


def interface_resistance(part: Interface, values: Values, face: Array | None) -> Array:
    """K/W of a layer on its own area or on the face beneath it."""
    area = values(f"{part.id}/area_mm2") if values.has(f"{part.id}/area_mm2") else face
    if area is None:
        raise DocumentRefused(
            [Problem(f"{part.id}/area_mm2", "is missing, and the face beneath states no area", "an area")]
        )
    specific = specific_resistance(part, values) / values(f"{part.id}/coverage", 1.0)
    if part.beside is not None:
        share = float(part.beside.face_share)
        specific = 1.0 / ((1.0 - share) / specific + share / (float(part.beside.resistance_mm2k_w) * 1e-6))
    return np.asarray(values(f"{part.id}/factor", 1.0) * specific / area)


def specific_resistance(part: Interface, values: Values) -> Array:
    """m2K/W of a full layer: stated, bond line over conductivity, a bare joint under pressure, or its class."""
    if part.resistance_mm2k_w is None and part.bond_line_um is not None and part.conductivity_w_mk is not None:
        return layer_resistance(values(f"{part.id}/bond_line_um"), values(f"{part.id}/conductivity_w_mk"))
    if part.resistance_mm2k_w is None and values.has(f"{part.id}/pressure_kpa"):
        return joint_resistance_bare(part, values)
    return values(f"{part.id}/resistance_mm2k_w")


def joint_resistance_bare(part: Interface, values: Values) -> Array:
    """m2K/W of two bare faces pressed together: their contacts and the air between them."""

    def at(field: str) -> Array:
        return values(f"{part.id}/{field}")

    share = np.clip(at("pressure_kpa") / at("hardness_mpa"), 1e-6, 2e-2)
    solid = contact_conductance(at("faces_w_mk"), at("roughness_um"), at("asperity_slope"), share)
    solid = values(f"{part.id}/law_joint", 1.0) * solid
    return np.asarray(1.0 / (solid + gap_conductance(AIR_W_MK, AIR_JUMP_M, at("roughness_um"), share)))


def spreader_resistance(part: Spreader, values: Values, face: Array | None, above_k_w: Array) -> Array:
    """A block between the face beneath it and what lies above: slab and Lee's spreading."""
    area = values(f"{part.id}/width_mm") * values(f"{part.id}/length_mm")
    thickness, k = values(f"{part.id}/thickness_mm"), values(f"{part.id}/conductivity_w_mk")
    source = np.minimum(area if face is None else face, area)
    film = 1.0 / (area * np.maximum(above_k_w, 1e-6))
    return np.asarray(spreading_lee(source, area, thickness, k, film) + thickness / (k * area))
