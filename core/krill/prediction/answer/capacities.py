"""Heat capacity of every node of a solved build, J/K."""

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.materials import heat_capacity_of
from krill.components.radiator import metal_capacity
from krill.materials.fluids import coolant
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import Solved

Array = NDArray[np.float64]

SMALLEST = 0.5  # air in a duct, the fast side of a chip
CHIP = 0.25
BLOCK_J_K = 90.0  # a block of 200-250 g copper over pipes (estimate)


def node_capacities(solved: Solved) -> Array:
    """(node,): places, plates, coolant, radiators and zone air; small figures where nothing is stated."""
    values, structure = solved.network.values, solved.structure
    C = np.full(structure.nodes, SMALLEST)
    for zone in solved.build.zones:
        if zone.kind == "box":
            C[structure.zone_nodes[zone.id]] = _first(values(f"{zone.id}/heat_capacity_j_k"))
    for route in structure.routes:
        own = _first(values(f"{route.place.id}/heat_capacity_j_k", 10.0))
        lid = next((layer.outer for layer in route.layers if layer.kind == "lid"), None)
        C[structure.node_of[route.place.id]] = CHIP if lid is not None else own
        if lid is not None:
            C[lid] = own
        if route.edge is not None and structure.coolant is not None:
            plate = structure.coolant.parts[route.edge]
            C[route.layers[-1].inner] += _first(values(f"{plate}/heat_capacity_j_k", 100.0)) / _faces(
                solved, route.edge
            )
        if route.stream is not None and structure.air is not None:
            part = structure.air.parts[route.stream]
            C[route.layers[-1].inner] += _first(values(f"{part}/heat_capacity_j_k", 20.0))
    _add_solids(C, solved)
    for loop in solved.build.loops:
        nodes = loop_nodes(solved, loop.id)
        state = coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(35.0)
        volume = _first(values(f"{loop.id}/volume_l"))
        C[nodes] = volume * float(state.density * state.heat_capacity) / len(nodes)
    if structure.coolant is not None:
        for link in solved.network.pattern.radiators:
            C[structure.coolant.active_nodes[link.coolant_edge]] += metal_capacity(link.part)
    return C


def _add_solids(C: Array, solved: Solved) -> None:
    """Bodies by their metal (or what they state), blocks by their size; a pipe counts with the block it starts in."""
    for body, model in solved.network.conductances.bodies.items():
        volume = _first(model.fins.metal_volume if model.fins is not None else model.back.metal_volume)
        stated = solved.network.values(f"{body}/heat_capacity_j_k", heat_capacity_of(model.part.material, volume))
        C[solved.structure.body_nodes[body]] = _first(stated)
    for route in solved.structure.all_routes:
        for layer in route.layers:
            if layer.kind == "spreader" and layer.hop is not None:
                C[layer.outer] += _first(solved.network.values(f"{layer.hop.part}/heat_capacity_j_k", BLOCK_J_K))


def _first(value: Array) -> float:
    return float(np.atleast_1d(value)[0])


def _faces(solved: Solved, edge: int) -> int:
    return sum(plate.edge == edge for plate in solved.network.pattern.plates)
