"""What a build must not pass in any row of a batch: limits of its places, and what hard notices warn of."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.materials import plastic_of, softening, touch_limit
from krill.document.parts import Fan, Supply
from krill.document.solids import Body
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.loops import COOLANT_LIMIT_C
from krill.prediction.notices.solids import TAPE_C
from krill.sizing.by_row import hottest, margins

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Bounds:
    """By how much each bound is kept, (batch, bound): kelvins of places beyond the margin wanted, of others K or W.

    ``addresses`` say what they are of, ``names`` what a person calls them; the first ``places`` of them are places.
    """

    addresses: list[str]
    names: list[str]
    spare: Array
    places: int

    @property
    def least(self) -> Array:
        """(batch,)"""
        return np.asarray(self.spare.min(axis=1, initial=np.inf))

    def tightest(self, row: int) -> int | None:
        """Which bound a row keeps by the least; None where there are none."""
        return int(self.spare[row].argmin()) if self.spare.shape[1] else None


def bounds_of(solved: Solved, wanted_k: float) -> Bounds:
    """Every bound of a solution; limits of places less the margin wanted."""
    places, left = margins(solved)
    named = {key: place.name or key for key, (place, _) in solved.build.place_owners().items()}
    others = list(hard_bounds(solved))
    rows = solved.network.values.batch
    columns = [np.broadcast_to(spare, (rows,)) for _, _, spare in others]
    spare = np.concatenate([left - wanted_k, *(column[:, None] for column in columns)], axis=1)
    addresses = [*places, *(address for address, _, _ in others)]
    names = [*(named[place] for place in places), *(name for _, name, _ in others)]
    return Bounds(addresses, names, spare, len(places))


def hard_bounds(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    """(address, name, what is left of it (batch,)) of all that a hard notice warns of."""
    yield from _coolant(solved)
    yield from _supplies(solved)
    yield from _surfaces(solved)
    yield from _tapes(solved)
    yield from _pipes(solved)
    yield from _fans(solved)


def _node(solved: Solved, name: str) -> Array:
    return np.asarray(solved.solution.temperature[:, solved.structure.node_of[name]])


def _coolant(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    flow = solved.structure.coolant
    for loop in solved.build.loops if flow is not None else []:
        assert flow is not None
        hottest = solved.solution.temperature[:, flow.nodes_of(loop.id)].max(axis=1)
        yield loop.id, f"coolant of {loop.name or loop.id}", COOLANT_LIMIT_C - hottest


def _supplies(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    states, solution = solved.network.states, solved.solution
    for part in solved.build.parts:
        if isinstance(part, Supply) and part.rating_w is not None:
            load = states.supply_load(part, solution.speeds, solution.kept)
            yield part.id, f"rating of {part.name or part.id}", solved.network.values(f"{part.id}/rating_w") - load


def _surfaces(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    """Bodies that are touched, and plastics near something hot, at the hottest spot of their body."""
    structure = solved.structure
    for part in solved.build.parts:
        name = part.name or part.id
        if isinstance(part, Body):
            warmest = hottest(solved, part.id)
            limit = None if part.touched_for is None else touch_limit(part.material, part.touched_for)
            if limit is not None:
                yield part.id, f"touch of {name}", limit - warmest
            own = plastic_of(part.material)
            if own is not None:
                softens, away = softening(own)
                yield part.id, f"softening of {name}", softens - away - warmest
        if part.plastic is not None and part.near in structure.node_of:
            softens, away = softening(part.plastic)
            yield part.id, f"softening of {name}", softens - away - _node(solved, part.near)


def _tapes(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    for route in solved.structure.all_routes:
        for layer in route.layers:
            part = solved.build.part(layer.hop.part or "") if layer.kind == "interface" and layer.hop else None
            if part is not None and part.class_ == "tape_stick_on":
                yield part.id, f"hold of {part.name or part.id}", TAPE_C - solved.solution.temperature[:, layer.inner]


def _pipes(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    """Watts that groups of pipes may still take before the busiest dries out."""
    pattern, T = solved.network.pattern, solved.solution.temperature
    for index, (link, group) in enumerate(zip(pattern.pipes, solved.network.conductances.pipes, strict=True)):
        part = group.pipe.part
        yield (
            part.id,
            f"limit of {part.name or part.id}",
            group.limit(link.vapour(T)) - solved.link_heat[:, pattern.pipe_link(index)],
        )


def _fans(solved: Solved) -> Iterator[tuple[str, str, Array]]:
    """Fans that are told something and stand still."""
    for case, asked in enumerate(solved.cases):
        rows = slice(case * solved.stride, (case + 1) * solved.stride)
        for mover in solved.network.states.movers:
            told = asked.workload.movers.get(mover.id)
            if isinstance(mover, Fan) and told is not None and not told.off:
                turns = np.ones(solved.network.values.batch)
                turns[rows] = np.where(solved.solution.speeds[mover.id][rows] > 0.0, 1.0, -1.0)
                if (turns < 0).any():
                    yield mover.id, f"start of {mover.name or mover.id}", turns
