"""Whether a solved row is a state that a machine can stay in: coolant liquid, vapour in its pipes, metal below its end."""

from collections.abc import Iterator
from functools import partial
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.errors import DocumentRefused, Problem
from krill.materials.fluids import coolant
from krill.networks.row_status import RowStatus
from krill.prediction.answer.result import NoState
from krill.prediction.answer.solving import Solved

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

#: a loop bubbles and its pump starves over this; water in a pipe nears its freezing point under that (common practice)
HOTTEST_COOLANT_C: Final = 95.0
COLDEST_VAPOUR_C: Final = 5.0
#: solder has run and boards have charred (common practice)
HOTTEST_METAL_C: Final = 300.0


def no_state(solved: Solved, row: int) -> NoState | None:
    """Why a row is no state that lasts; None where it is one."""
    for hit, address, what, allowed in _bounds(solved):
        if hit[row]:
            return NoState(address=address, what=f"no lasting state: {what}", allowed=allowed)
    return None


def must_last(solved: Solved, row: int) -> None:
    """DocumentRefused with the reason where a row is no state that lasts: for questions that need its figures."""
    none = no_state(solved, row)
    if none is not None:
        raise DocumentRefused([Problem(none.address, none.what, none.allowed)])


def lasting(solved: Solved) -> RowStatus:
    """The status of a solution with the rows left out that settle in no state that lasts."""
    status = solved.solution.status
    for hit, _, what, _ in _bounds(solved):
        status = status.then(RowStatus.after(hit, partial(_sentence, what)))
    return status


def _sentence(what: str, row: int) -> str:
    return f"no lasting state: {what}"


def _bounds(solved: Solved) -> Iterator[tuple[Mask, str, str, str]]:
    """(rows beyond it, address, what happens there, what is allowed) of every bound."""
    yield from _coolants(solved)
    yield from _vapours(solved)
    yield from _metal(solved)


def _coolants(solved: Solved) -> Iterator[tuple[Mask, str, str, str]]:
    flow = solved.structure.coolant
    for loop in solved.build.loops if flow is not None else []:
        assert flow is not None
        T = solved.solution.temperature[:, flow.nodes_of(loop.id)]
        name, fluid = loop.name or loop.id, coolant(loop.coolant.fluid, float(loop.coolant.mass_share))
        allowed = f"coolant between {fluid.freezing_c:.0f} and {HOTTEST_COOLANT_C:.0f} °C".replace("-", "−")
        yield T.max(axis=1) > HOTTEST_COOLANT_C, loop.id, f"the coolant of {name} comes to boil", allowed
        yield T.min(axis=1) < fluid.freezing_c, loop.id, f"the coolant of {name} freezes", allowed


def _vapours(solved: Solved) -> Iterator[tuple[Mask, str, str, str]]:
    T = solved.solution.temperature
    for link in solved.network.pattern.pipes:
        part = solved.build.part(link.layer.part or "")
        cold = link.vapour(T) < COLDEST_VAPOUR_C
        allowed = f"vapour of {COLDEST_VAPOUR_C:.0f} °C and more"
        yield cold, part.id, f"the water in {part.name or part.id} is too cold to boil", allowed


def _metal(solved: Solved) -> Iterator[tuple[Mask, str, str, str]]:
    T, structure = solved.solution.temperature, solved.structure
    named = {key: place.name or key for key, (place, _) in solved.build.place_owners().items()}
    named |= {body: solved.build.part(body).name or body for body in structure.body_nodes}
    for address, name in named.items():
        node = structure.node_of.get(address)
        if node is not None:
            allowed = f"up to {HOTTEST_METAL_C:.0f} °C"
            yield T[:, node] > HOTTEST_METAL_C, address, f"{name} passes {HOTTEST_METAL_C:.0f} °C", allowed
