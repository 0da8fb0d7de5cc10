"""What runs may teach: every uncertain figure with its tolerance as prior, and what somebody asks for with a wider one."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np

from krill.components.figure_table import FigureTable, ResolvedFigure
from krill.components.learnt import stands_at
from krill.errors import DocumentRefused, Problem
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.doubt import model_share
from krill.prediction.answer.solving import Solved
from krill.runs.as_run import nodes_of
from krill.runs.causes import Cause, causes_of
from krill.runs.ran import Ran

#: who asks for a cause thinks that it is off: it may be so by so much more than one among dozens of suspects
ASKED: Final = 2.0


@dataclass(frozen=True)
class Free:
    """An unknown before anything was read: what it moves by which power, and its standard deviation, ln.

    It moves a figure where that stands ``at`` its value, SI: in another revision another part may stand there.
    """

    id: str
    name: str
    powers: dict[str, float]
    spread: float
    at: dict[str, float]
    chosen: bool = False

    def moves(self, address: str, table: FigureTable) -> bool:
        figure = table.figures.get(address)
        return figure is not None and stands_at(figure.value, self.at[address])


def unknowns_of(solved: Solved, rans: list[Ran], chosen: list[str]) -> list[Free]:
    """Every uncertain figure, the causes that were asked for, and the own layers of each place that was read."""
    free = list(_of_figures(solved))
    causes = {cause.address: cause for cause in causes_of(solved)}
    for address in dict.fromkeys(chosen):
        cause = causes.get(address)
        if cause is None or not can_be_learnt(cause):
            wanted = ", ".join(a for a, c in causes.items() if can_be_learnt(c))
            raise DocumentRefused([Problem("free", f"'{address}' is nothing that can be learnt", wanted)])
        free.append(_of_cause(solved, cause))
    roles = {m.role for ran in rans for m in ran.measured}
    free += list(_own_layers(solved, roles))
    if not any(nodes_of(solved, role) for role in roles):
        raise DocumentRefused([Problem("runs", "nothing that was read belongs to this build", "a temperature of it")])
    return free


def of_other_revisions(free: list[Free], others: list[Solved], chosen: list[str]) -> list[Free]:
    """What stands otherwise in the revisions of other runs: unknowns of their own, which teach the newest one nothing."""
    known = {(unknown.id, tuple(sorted(unknown.at.items()))) for unknown in free}
    found = []
    for number, solved in enumerate(others):
        asked = [_of_cause(solved, cause) for cause in causes_of(solved) if cause.address in chosen]
        for unknown in [*_of_figures(solved), *(replace(one, chosen=False) for one in asked)]:
            key = (unknown.id, tuple(sorted(unknown.at.items())))
            if key not in known:
                known.add(key)
                found.append(replace(unknown, id=f"{unknown.id}#{number}", name=f"{unknown.name}, before"))
    return found


def can_be_learnt(cause: Cause) -> bool:
    """A cause that is a factor on figures; what is added to a share is none."""
    return bool(cause.moves) and not any(move.added for move in cause.moves)


def _is_free(figure: ResolvedFigure) -> bool:
    return figure.uncertain and figure.value > 0 and figure.quantity.unit != "°C"


def _of_figures(solved: Solved) -> Iterable[Free]:
    """An unknown for each group of uncertain figures that are drawn together."""
    groups: dict[str, list[ResolvedFigure]] = {}
    for figure in solved.table.figures.values():
        if _is_free(figure):
            groups.setdefault(figure.draw_key, []).append(figure)
    for key, members in groups.items():
        spreads = {figure.address: _log_spread(figure) for figure in members}
        widest = max(spreads.values())
        if widest <= 0:
            continue
        powers = {address: spread / widest for address, spread in spreads.items()}
        at = {figure.address: figure.value for figure in members}
        yield Free(key, _name_of_figure(solved, members[0], len(members)), powers, widest, at)


def _log_spread(figure: ResolvedFigure) -> float:
    """Standard deviation of the logarithm of a figure by its tolerance."""
    low = -np.log(max(1.0 - figure.tolerance.minus / figure.value, 0.1))
    high = np.log1p(figure.tolerance.plus / figure.value)
    return float((low + high) / 2 / QUANTILE_90)


def _name_of_figure(solved: Solved, figure: ResolvedFigure, alike: int) -> str:
    owner, _, *of_part = figure.address.split("/")
    label, name = figure.quantity.label, _name(solved, owner)
    if of_part:
        label, name = f"{label} in {name}", _name(solved, of_part[0])
    return f"{name}: {label}" + (f" and {alike - 1} alike" if alike > 1 else "")


def _name(solved: Solved, id_: str) -> str:
    return getattr(solved.build.owner(id_), "name", "") or id_


def _of_cause(solved: Solved, cause: Cause) -> Free:
    powers = {move.address: move.power for move in cause.moves}
    at = {address: solved.table.figures[address].value for address in powers}
    return Free(cause.address, cause.name, powers, ASKED * float(np.log1p(cause.spread)), at, True)


def _own_layers(solved: Solved, roles: set[str]) -> Iterable[Free]:
    """For each place that was read, a factor on its own layers that is worth what the model may be off there."""
    for route in solved.structure.routes:
        place = route.place
        if f"{place.id}/temperature" not in roles:
            continue
        T = solved.solution.temperature[0]
        own = [layer for layer in route.layers if layer.kind in _OWN]
        fields = {f"{place.id}/{_OWN[layer.kind]}" for layer in own} & solved.table.figures.keys()
        drop = sum(abs(float(T[layer.inner] - T[layer.outer])) for layer in own)
        rise = abs(float(T[route.layers[0].inner]) - float(T[solved.network.pattern.given[0]])) if route.layers else 0.0
        if fields and drop > 0:
            spread = min(model_share(solved, 0, place.id) * rise / drop / QUANTILE_90, 1.0)
            at = {address: solved.table.figures[address].value for address in fields}
            name = f"{place.name or place.id}: its own layers"
            yield Free(f"model/{place.id}", name, dict.fromkeys(fields, 1.0), spread, at)


_OWN: Final = {"hot_core": "hot_core_mm2k_w", "package": "package_k_w", "chip": "chip_mm2k_w", "joint": "joint_mm2k_w"}
