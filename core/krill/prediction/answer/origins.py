"""Which figures a hop comes from, and the weakest origin among them."""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.parts import Place
from krill.networks.structure import Layer

Array = NDArray[np.float64]


GUESSES = ("estimate", "rule_of_thumb", "class")


#: figures of a layer inside a place, by its kind
LAYER_FIGURES: Final = {
    "hot_core": ("hot_core_mm2k_w", "chip_area_mm2"),
    "package": ("package_k_w",),
    "chip": ("chip_mm2k_w", "chip_area_mm2"),
    "joint": ("joint_mm2k_w", "chip_area_mm2"),
    "lid": ("lid_area_mm2", "lid_thickness_mm"),
}


def layer_addresses(table: FigureTable, place: Place, layer: Layer) -> list[str]:
    """Addresses of the figures that a layer's resistance comes from."""
    if layer.hop is None:
        return [f"{place.id}/{field}" for field in LAYER_FIGURES[layer.kind]]
    owner = layer.part or layer.hop.part or layer.hop.id
    return [
        address
        for address in table.by_owner.get(owner, [])
        if address.split("/")[1].endswith(("mm2k_w", "k_w", "coverage", "factor", "w_mk", "thickness_mm", "base_mm"))
    ]


def body_origin(table: FigureTable, body: str) -> str:
    """The weakest origin among the figures that decide what a body gives off."""
    fields = ("emissivity", "factor", "fin_height_mm", "fin_pitch_mm", "width_mm")
    found = [table.figures[f"{body}/{field}"].origin for field in fields if f"{body}/{field}" in table.figures]
    return next((origin for origin in GUESSES if origin in found), "class")


def layer_origin(table: FigureTable, place: Place, layer: Layer) -> str:
    """The weakest origin among the figures of a layer."""
    origins = [
        table.figures[address].origin for address in layer_addresses(table, place, layer) if address in table.figures
    ]
    return next((origin for origin in GUESSES if origin in origins), origins[0] if origins else "class")
