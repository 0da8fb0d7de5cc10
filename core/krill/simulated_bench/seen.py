"""Which faults somebody would see in a build's readings: a filter that clogs far enough, sensors far enough apart."""

from itertools import combinations
from typing import Final

import numpy as np

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.parts import Source
from krill.in_time.constants import named_nodes
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of

#: a dirty filter is left this free, a matted one less (common practice)
FREE: Final = np.array([0.32, 0.2, 0.12, 0.08, 0.05])
#: what is seen in coolant or box air once it has settled, K
SEEN_K: Final = 2.0
#: two sensors that are forecast so far apart are so on most machines, K: whoever changes them sees it
APART_K: Final = 10.0


def clogged_to(build: Build, workload: str, filter_id: str) -> float | None:
    """The share of a filter's area that is left free once it has clogged as far as to be seen; None where nobody sees it."""
    address = f"{filter_id}/area_cm2"
    area = FigureTable(build).figures[address].value
    solved = solve_cases(build, cases_of(build, [workload], None), len(FREE), draws={address: area * FREE})
    nodes = [node for *_, kind, own in named_nodes(solved) if kind in ("coolant", "air") for node in own]
    T = solved.solution.temperature[:, nodes]
    seen = np.flatnonzero((T[1:] - T[0] >= SEEN_K).any(axis=1))
    return float(FREE[seen[0]]) if len(seen) else None


def far_apart(build: Build, workload: str) -> list[tuple[str, str]]:
    """First places of two sources whose sensors are seen to have changed places under a load, the farthest apart first."""
    solved = solve_cases(build, cases_of(build, [workload], None))
    first = [part.places[0].id for part in build.parts if isinstance(part, Source) and part.places]
    at = {place: float(solved.solution.temperature[0, solved.structure.node_of[place]]) for place in first}
    pairs = sorted(combinations(first, 2), key=lambda pair: -abs(at[pair[0]] - at[pair[1]]))
    return [(one, other) for one, other in pairs if abs(at[one] - at[other]) >= APART_K]
