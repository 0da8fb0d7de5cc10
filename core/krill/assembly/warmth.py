"""How warm wearing parts live in the hardest workload, and what a dirty filter costs: from one steady batch."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from krill.components.air_parts import LOADED_FACTOR
from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.parts import Filter, Mover, Supply
from krill.errors import DocumentRefused, NotConverged
from krill.prediction.answer.lasting import no_state
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import Solved, try_cases
from krill.prediction.answer.workload_states import worst_workload
from krill.prediction.predict import cases_of

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Warmth:
    """``at_c`` by id: air that a fan or supply breathes, coolant of a pump or loop, °C; ``dirt_k`` by filter: what the
    part that it costs most warms by once the filter is loaded, and the name of that part."""

    at_c: Mapping[str, float] = field(default_factory=dict)
    dirt_k: Mapping[str, tuple[float, str]] = field(default_factory=dict)


def predicted_warmth(build: Build) -> Warmth:
    """In the hardest workload at central figures; nothing where the build cannot be solved or settles in no state."""
    filters = [part.id for part in build.parts if isinstance(part, Filter) and not part.loaded]
    if not build.workloads:
        return Warmth()
    try:
        case = cases_of(build, [worst_workload(build)], None)[0]
        solved = try_cases(build, [case], len(filters), draws=_loaded(build, filters))
    except (DocumentRefused, NotConverged):
        return Warmth()
    settled = solved.solution.status.settled
    if not settled[0] or no_state(solved, 0) is not None:
        return Warmth()
    dirt = {each: _dirt(solved, 1 + at) for at, each in enumerate(filters) if settled[1 + at]}
    return Warmth(dict(_temperatures(solved)), dirt)


def _loaded(build: Build, filters: list[str]) -> dict[str, Array]:
    """A row for each filter, which costs as much as a loaded one; the others stand clean."""
    figures = FigureTable(build).figures
    draws = {}
    for row, each in enumerate(filters):
        for factor in ("linear_factor", "square_factor"):
            clean = figures[f"{each}/{factor}"].value
            draws[f"{each}/{factor}"] = np.where(np.arange(len(filters)) == row, LOADED_FACTOR * clean, clean)
    return draws


def _dirt(solved: Solved, row: int) -> tuple[float, str]:
    clean, loaded = solved.solution.temperature[[0, row]]
    places = {route.place.id: route.place for route in solved.structure.routes}
    nodes = solved.structure.node_of
    rises = {place.name or at: float(loaded[nodes[at]] - clean[nodes[at]]) for at, place in places.items()}
    worst = max(rises, key=lambda name: rises[name], default="")
    return rises.get(worst, 0.0), worst


def _temperatures(solved: Solved) -> Iterator[tuple[str, float]]:
    build, T = solved.build, solved.solution.temperature[0]
    movers = {part.id for part in build.parts if isinstance(part, Mover)}
    for flow, found in (
        (solved.structure.air, solved.solution.air),
        (solved.structure.coolant, solved.solution.coolant),
    ):
        if flow is None or found is None:
            continue
        upstream = np.where(found.mass_flow[0] >= 0.0, flow.tail_nodes, flow.head_nodes)
        for mover in movers & set(flow.parts):
            yield mover, float(T[upstream[flow.edge_of(mover)]])
    for loop in build.loops:
        yield loop.id, float(np.mean(T[loop_nodes(solved, loop.id)]))
    boxes = [zone.id for zone in build.zones if zone.kind == "box"]
    for part in build.parts:
        if isinstance(part, Supply) and boxes:
            ends = [route.zone for route in solved.structure.routes if route.source == part.id and route.zone]
            yield part.id, float(T[solved.structure.zone_nodes[(ends or boxes)[0]]])
