"""The graph of a build's air: paths between zones, leaks of ducts, heights, and intakes that breathe exhaust again."""

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.geometry import heights_of
from krill.document.parts import Duct
from krill.networks.flow_structure import LEAK, Builder, Edges, FlowStructure, MixedIntake, flow_structure, lay, owner

Array = NDArray[np.float64]


def air_structure(
    build: Build, builder: Builder, zone_nodes: dict[str, int]
) -> tuple[FlowStructure | None, tuple[MixedIntake, ...]]:
    if not build.air_paths:
        return None, ()
    edges = Edges()
    heat_nodes: list[int] = []
    ducts = {part.id: part for part in build.parts if isinstance(part, Duct) and part.leak_zone is not None}
    used = {zone for path in build.air_paths for zone in (path.start, path.end)}
    used |= {str(duct.leak_zone) for duct in ducts.values()}
    junction_of = {}
    for zone in build.zones:
        if zone.id in used:
            junction_of[zone.id] = len(heat_nodes)
            heat_nodes.append(zone_nodes[zone.id])

    def node() -> int:
        heat_nodes.append(builder.node(f"air/junction{len(heat_nodes)}"))
        return len(heat_nodes) - 1

    for path in build.air_paths:
        lay(path.elements, junction_of[path.start], junction_of[path.end], path.id, edges, node)
    for edge, part in enumerate(list(edges.parts)):
        if part in ducts:
            edges.add(edges.head[edge], junction_of[str(ducts[part].leak_zone)], part + LEAK, edges.circuit[edge])
    outside = [junction_of[zone.id] for zone in build.zones if zone.id in used and zone.kind == "outside"]
    fixed = sorted({*outside, *_one_of_each_component(edges, len(heat_nodes), outside)})
    flow = flow_structure(build, builder, edges, heat_nodes, fixed, "air")
    rise, fall = _air_heights(build, flow, set(junction_of.values()))
    return _with_mixed_intakes(build, builder, replace(flow, rise=rise, fall=fall))


def _air_heights(build: Build, flow: FlowStructure, zones: set[int]) -> tuple[Array, Array]:
    """Heights from the tail's reference to each edge and on to the head's; a zone's reference is height 0.

    An inner junction lies at the height of the part that air reaches it through.
    """
    heights = heights_of(build)
    own = np.array([heights.get(owner(part), np.nan) for part in flow.parts])
    graph = flow.graph
    junction = np.zeros(graph.nodes)
    for edge in range(
        graph.edges
    ):  # edges are laid in flow order: a part without a height keeps that of the one before
        tail, head = graph.tail[edge], graph.head[edge]
        if np.isnan(own[edge]):
            own[edge] = 0.0 if tail in zones else junction[tail]
        if head not in zones:
            junction[head] = own[edge]
    return own - junction[graph.tail], junction[graph.head] - own


def _with_mixed_intakes(
    build: Build, builder: Builder, flow: FlowStructure
) -> tuple[FlowStructure, tuple[MixedIntake, ...]]:
    tails = flow.tail_nodes.copy()
    found = []
    for item in build.recirculations:
        first = flow.circuit.index(item.intake)
        start = flow.graph.tail[first]
        last = len(flow.circuit) - 1 - flow.circuit[::-1].index(item.exhaust)
        if flow.parts[last].endswith(LEAK):
            last = max(
                e
                for e, (c, p) in enumerate(zip(flow.circuit, flow.parts, strict=True))
                if c == item.exhaust and not p.endswith(LEAK)
            )
        exhaust = flow.active_nodes[last] if flow.active_nodes[last] >= 0 else flow.tail_nodes[last]
        node = builder.node(f"{item.id}/air")
        for edge, circuit in enumerate(flow.circuit):
            if circuit == item.intake and flow.graph.tail[edge] == start:
                tails[edge] = node
        found.append(MixedIntake(item.id, node, int(flow.junction_nodes[start]), int(exhaust)))
    return replace(flow, tail_nodes=tails), tuple(found)


def _one_of_each_component(edges: Edges, nodes: int, anchored: list[int]) -> list[int]:
    """A node of every connected part of the graph that no outside zone anchors."""
    label = list(range(nodes))
    for tail, head in zip(edges.tail, edges.head, strict=True):
        old, new = label[head], label[tail]
        if old != new:
            label = [new if other == old else other for other in label]
    done = {label[node] for node in anchored}
    return [label.index(other) for other in dict.fromkeys(label) if other not in done]
