"""What makes the band of a place wide: one uncertain figure after the other moved by its tolerance, as one batch."""

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import LAW, FigureTable, ResolvedFigure
from krill.components.learnt import Learnt
from krill.document.build import Build
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.doubt import model_share
from krill.prediction.answer.lasting import must_last
from krill.prediction.answer.places import chosen_place, place_results
from krill.prediction.answer.solving import room_of, solve_cases
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.by_row import temperatures
from krill.sizing.result import Contribution, MeasureFirst

Array = NDArray[np.float64]

#: a band is called as wide as its widest causes; below this share one is not worth a measurement
MIN_SHARE = 0.005
#: standard normal draws at both ends of a tolerance
ENDS = np.array([-QUANTILE_90, QUANTILE_90])
#: half widths that agree to so many decimals are equal: such figures keep the order of the build
EQUAL_DIGITS = 5


def measure_first(build: Build, workload: str, place: str | None = None, room_c: float | None = None) -> MeasureFirst:
    """Half widths (90 %) that each uncertain figure gives to a place's temperature, the largest first.

    Figures that are drawn together (one class's error) move together. Contributions of independent causes add as squares;
    those that runs have taught are known together: each is what measuring it alone would take away. ``model_k`` is what
    the model itself may be off. DocumentRefused names a place that is not there.
    """
    case = cases_of(build, [workload], room_c, throttles=False)[0]
    table = FigureTable(build)
    groups: dict[str, list[ResolvedFigure]] = {}
    for figure in table.uncertain():
        groups.setdefault(figure.draw_key, []).append(figure)
    rows = 2 * len(groups)
    draws: dict[str, Array] = {}
    for number, figures in enumerate(groups.values()):
        for figure in figures:
            column = draws.setdefault(figure.address, np.full(rows, figure.value))
            column[2 * number : 2 * number + 2] = figure.tolerance.deviate(figure.value, ENDS)
    solved = solve_cases(build, [case], rows, draws=draws)
    must_last(solved, 0)
    chosen = chosen_place(place_results(solved, 0), place)
    T = temperatures(solved, chosen.address)
    rise = float(T[0]) - room_of(solved, 0)
    moved = 0.5 * (T[2::2] - T[1:-1:2]) if rows else np.zeros(0)
    halves, known_k2 = _known_together(table.learnt, [figures[0].address for figures in groups.values()], moved)
    model_k = model_share(solved, 0, chosen.address) * abs(rise)
    total = float(np.sqrt(known_k2 + model_k**2))
    found = [
        _contribution(build, figures, float(half), total)
        for figures, half in zip(groups.values(), halves, strict=True)
        if half > 0.0 and (half / total) ** 2 >= MIN_SHARE
    ]
    # what can be measured first, what a law may be off behind it
    ranked = sorted(found, key=lambda item: (item.origin == LAW, -round(item.half_k, EQUAL_DIGITS)))
    return MeasureFirst(
        workload=workload,
        room_c=case.room_c,
        place=chosen.address,
        name=chosen.name,
        half_width_k=total,
        model_k=model_k,
        contributions=ranked,
        sentence=_sentence(chosen.name, total, ranked),
        certifies=CERTIFIES,
    )


def _known_together(learnt: Learnt | None, addresses: list[str], moved: Array) -> tuple[Array, float]:
    """What measuring each figure alone takes from a band, K (figure,), and all of them together, K2.

    ``moved`` K by half the band of each. Of jointly normal figures with correlations C measuring the i-th exactly takes
    (C moved)_i squared; independent ones give the squares of their own.
    """
    halves = np.abs(moved)
    row_of = {} if learnt is None else {address: row for row, address in enumerate(learnt.addresses)}
    mine = [i for i, address in enumerate(addresses) if address in row_of]
    if learnt is None or not mine:
        return halves, float(np.sum(halves**2))
    root = learnt.root[[row_of[addresses[i]] for i in mine]]
    root = root / np.maximum(np.linalg.norm(root, axis=1, keepdims=True), 1e-12)
    alone = np.setdiff1d(np.arange(len(addresses)), mine)
    halves[mine] = np.abs(root @ (root.T @ moved[mine]))
    together = float(np.sum((root.T @ moved[mine]) ** 2))
    return halves, float(np.sum(moved[alone] ** 2)) + together


def _contribution(build: Build, figures: list[ResolvedFigure], half: float, total: float) -> Contribution:
    first = figures[0]
    owner = first.address.split("/")[0]
    factor = first.quantity.factor
    return Contribution(
        address=first.address,
        name=_name_of(build, owner),
        label=first.quantity.label,
        together=[figure.address for figure in figures[1:]],
        value=first.value / factor,
        minus=first.tolerance.minus / factor,
        plus=first.tolerance.plus / factor,
        unit=first.quantity.unit,
        origin=first.origin,
        half_k=half,
        share=(half / total) ** 2,
        without_k=float(np.sqrt(max(total**2 - half**2, 0.0))),
    )


def _name_of(build: Build, owner: str) -> str:
    named = {part.id: part.name for part in build.parts} | {
        p: found.name for p, (found, _) in build.place_owners().items()
    }
    named |= {loop.id: loop.name for loop in build.loops} | {zone.id: zone.name for zone in build.zones}
    named |= {workload.id: workload.name for workload in build.workloads}
    return named.get(owner) or owner


def _sentence(name: str, total: float, found: list[Contribution]) -> str:
    first = next((item for item in found if item.origin != LAW), None)
    if first is None:
        return f"{name} is known to ± {total:.1f} K; no single figure is worth a measurement."
    return (
        f"{name} is known to ± {total:.1f} K. Measured first: {first.name} ({first.address}); "
        f"then ± {first.without_k:.1f} K are left."
    )
