"""Heat capacity of every node of a build, J/K, over the batch."""

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.materials import heat_capacity_of
from krill.components.coolant_volumes import part_volumes
from krill.components.radiator import metal_capacity
from krill.document.build import Loop
from krill.materials.fluids import coolant
from krill.networks.coupled import CoupledNetwork

Array = NDArray[np.float64]

SMALLEST = 0.5  # air in a duct, the fast side of a chip
CHIP = 0.25
BLOCK_J_K = 90.0  # a block of 200-250 g copper over pipes (estimate)
#: what holds coolant is counted at this temperature, °C
COOLANT_C = 35.0


def node_capacities(network: CoupledNetwork) -> Array:
    """(batch, node): places, plates, coolant where it is, radiators and zone air; small figures where nothing is stated."""
    values, structure = network.values, network.structure
    C = np.full((values.batch, structure.nodes), SMALLEST)
    for zone in network.build.zones:
        if zone.kind == "box":
            C[:, structure.zone_nodes[zone.id]] = values(f"{zone.id}/heat_capacity_j_k")
    for route in structure.routes:
        own = values(f"{route.place.id}/heat_capacity_j_k", 10.0)
        lid = next((layer.outer for layer in route.layers if layer.kind == "lid"), None)
        C[:, structure.node_of[route.place.id]] = CHIP if lid is not None else own
        if lid is not None:
            C[:, lid] = own
        if route.edge is not None and structure.coolant is not None:
            plate = structure.coolant.parts[route.edge]
            faces = sum(hop.edge == route.edge for hop in network.pattern.plates)
            C[:, route.layers[-1].inner] += values(f"{plate}/heat_capacity_j_k", 100.0) / faces
        if route.stream is not None and structure.air is not None:
            part = structure.air.parts[route.stream]
            C[:, route.layers[-1].inner] += values(f"{part}/heat_capacity_j_k", 20.0)
    _add_solids(C, network)
    for loop in network.build.loops:
        _add_coolant(C, network, loop)
    if structure.coolant is not None:
        for link in network.pattern.radiators:
            C[:, structure.coolant.active_nodes[link.coolant_edge]] += metal_capacity(link.part)
    return C


def _add_solids(C: Array, network: CoupledNetwork) -> None:
    """Bodies by their metal (or what they state), blocks by their size; a pipe counts with the block it starts in."""
    for body, model in network.conductances.bodies.items():
        volume = model.fins.metal_volume if model.fins is not None else model.back.metal_volume
        of_metal = heat_capacity_of(model.part.material, 1.0) * np.asarray(volume)
        C[:, network.structure.body_nodes[body]] = _stated_or(network, body, of_metal)
    for route in network.structure.all_routes:
        for layer in route.layers:
            if layer.kind == "spreader" and layer.hop is not None and layer.hop.part is not None:
                C[:, layer.outer] += _stated_or(network, layer.hop.part, np.asarray(BLOCK_J_K))


def _stated_or(network: CoupledNetwork, part: str, otherwise: Array) -> Array:
    address = f"{part}/heat_capacity_j_k"
    return network.values(address) if network.values.has(address) else otherwise


def _add_coolant(C: Array, network: CoupledNetwork, loop: Loop) -> None:
    """Coolant in each part of a loop, in the node that its outlet is: a volume that moves through them one by one."""
    flow, values = network.structure.coolant, network.values
    assert flow is not None
    parts = {part.part: part.ml for part in part_volumes(network.build, loop, values.table)}
    central = values.table.figures[f"{loop.id}/volume_l"].value
    # where nobody states the whole, it is what the parts hold, as uncertain as its class
    whole = central if loop.volume_l is not None else 1e-6 * sum(parts.values())
    total = values(f"{loop.id}/volume_l") * whole / central
    state = coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(COOLANT_C)
    per_ml = total * float(state.density * state.heat_capacity) / max(sum(parts.values()), 1e-9)
    for edge in flow.edges_of(loop.id):
        node = flow.active_nodes[edge] if flow.active_nodes[edge] >= 0 else flow.head_nodes[edge]
        C[:, node] += per_ml * parts.get(flow.parts[edge], 0.0)
