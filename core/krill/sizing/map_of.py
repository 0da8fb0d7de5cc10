"""A map over two figures: least margin and level at every crossing, and where the present design stands."""

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.errors import DocumentRefused, Problem
from krill.networks.states import Case
from krill.prediction.predict import CERTIFIES
from krill.sizing.candidates import Study
from krill.sizing.one_varied import Numeric
from krill.sizing.outcome import outcome
from krill.sizing.question import Axis, Question
from krill.sizing.result import DesignMap, MapAxis
from krill.sizing.varied import varied

Array = NDArray[np.float64]

MAX_CROSSINGS = 900


def map_of(build: Build, question: Question) -> DesignMap:
    """Both axes of a question over each other; figures per crossing as rows of the first axis.

    DocumentRefused where there are not two axes of rising numbers, or more crossings than can be waited for.
    """
    if len(question.vary) != 2:
        raise DocumentRefused([Problem("vary", f"{len(question.vary)} axes", "two")])
    if question.size > MAX_CROSSINGS:
        raise DocumentRefused([Problem("vary", f"{question.size} crossings", f"up to {MAX_CROSSINGS}")])
    study = Study(build, question)
    axes = [_axis(study, axis) for axis in question.vary]
    result = outcome(study, [study.solve(chunk) for chunk in study.chunks()])
    rows, columns = study.shape

    def grid(name: str) -> list[list[float | None]]:
        flat = result.columns[name]
        return [flat[row * columns : (row + 1) * columns] for row in range(rows)]

    margin_wanted = [float(demand.at_least_k) for demand in question.demands.margins]
    return DesignMap(
        workload=study.names[0],
        room_c=study.cases[0].room_c,
        axes=axes,
        margin_k=grid("margin_k"),
        spare_k=grid("spare_k"),
        half_k=grid("half_k"),
        level_dba=grid("level_dba"),
        spare_db=grid("spare_db"),
        wanted_k=min(margin_wanted, default=float(build.brief.margin_wanted_k)),
        certifies=CERTIFIES,
    )


def _axis(study: Study, axis: Axis) -> MapAxis:
    values = [option.value for option in axis.options]
    if not all(isinstance(v, int | float) and not isinstance(v, bool) for v in values):
        raise DocumentRefused([Problem(axis.address, "is no figure", "numbers")])
    if any(b <= a for a, b in pairwise(values)):
        raise DocumentRefused([Problem(axis.address, "the values do not rise", "rising numbers")])
    one = varied(study.build, study.table, axis.address)
    if not isinstance(one, Numeric):
        raise DocumentRefused([Problem(axis.address, "is no figure", "numbers")])
    return MapAxis(
        address=axis.address, unit=one.quantity.unit, values=[float(v) for v in values], now=_now(one, study.cases[0])
    )


def _now(one: Numeric, case: Case) -> float | None:
    """Where the build stands on an axis, in the document's units; None where it stands nowhere on it."""
    try:
        return one.now(case)
    except DocumentRefused:
        return None
