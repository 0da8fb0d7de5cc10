"""What came of a study: which candidates meet every demand, which of them nothing else beats, and what stood in the way."""

from collections.abc import Iterable
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from krill.prediction.predict import CERTIFIES
from krill.sizing.candidates import FIGURES, Columns, Study
from krill.sizing.question import Criterion, Demands, Question
from krill.sizing.result import DemandMet, StudyResult
from krill.sizing.undominated import undominated

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

#: figure that a criterion weighs, its sign (+1: small is good), and the step below which two are called equal
CRITERIA: Final[dict[Criterion, tuple[str, float, float]]] = {
    "margin": ("margin_k", -1.0, 0.1),
    "sound": ("level_dba", 1.0, 0.1),
    "height": ("height_mm", 1.0, 0.1),
    "mass": ("mass_g", 1.0, 1.0),
    "price": ("price", 1.0, 0.01),
}

#: a slot that is short by so much misses as much as 10 K
SHORT_MM: Final = 10.0


def outcome(study: Study, pieces: Iterable[Columns]) -> StudyResult:
    """Figures of every candidate by its number, the undominated ones of those that meet every demand, and the closest."""
    size = study.question.size
    figures = {name: np.full(size, np.nan) for name in FIGURES}
    tightest = [""] * size
    failures: dict[str, str] = {}
    for piece in pieces:
        for name in FIGURES:
            figures[name][piece.numbers] = piece.figures[name]
        for number, place in zip(piece.numbers, piece.tightest, strict=True):
            tightest[number] = place
        failures |= {str(number): why for number, why in piece.failures.items()}
    met = demands_met(study.question.demands, figures)
    meets = np.logical_and.reduce([mask for _, mask in met]) if met else ~np.isnan(figures["margin_k"])
    surely = meets & (figures["spare_k"] - figures["half_k"] >= 0.0) if study.question.demands.margins else meets
    costs = _costs(study.question, figures)
    front = np.zeros(size, dtype=bool)
    if meets.any():
        among = np.flatnonzero(meets)
        front[among[undominated(costs[among])]] = True
    return StudyResult(
        size=size,
        solved=int(np.sum(~np.isnan(figures["level_dba"]))),
        columns={name: _listed(values) for name, values in figures.items()},
        tightest=tightest,
        meets=[int(i) for i in np.flatnonzero(meets)],
        surely=[int(i) for i in np.flatnonzero(surely)],
        undominated=[int(i) for i in np.flatnonzero(front)],
        demands=[DemandMet(name=name, met_by=int(mask.sum())) for name, mask in met],
        closest=_closest(study.question.demands, figures),
        failures=failures,
        sentence=_sentence(
            int(meets.sum()),
            int(surely.sum()),
            size,
            int(front.sum()),
            [DemandMet(name=n, met_by=int(m.sum())) for n, m in met],
        ),
        certifies=CERTIFIES,
    )


def demands_met(demands: Demands, figures: dict[str, Array]) -> list[tuple[str, Mask]]:
    """(demand, who meets it); an unknown figure does not meet one."""
    found: list[tuple[str, Mask]] = []
    if demands.margins:
        found.append(("margin", figures["spare_k"] >= 0.0))
    if demands.sounds:
        found.append(("sound", figures["spare_db"] >= 0.0))
    if demands.fits:
        found.append(("fit", figures["spare_mm"] >= 0.0))
    for name, figure, most in (
        ("height", "height_mm", demands.height_mm),
        ("mass", "mass_g", demands.mass_g),
        ("price", "price", demands.price),
    ):
        if most is not None:
            found.append((name, figures[figure] <= float(most) + 1e-9))
    return found


def _costs(question: Question, figures: dict[str, Array]) -> Array:
    """What candidates are weighed by, small is good, rounded to what makes a difference (candidate, criterion)."""
    columns = []
    for criterion in question.criteria or ["margin"]:
        figure, sign, step = CRITERIA[criterion]
        columns.append(sign * np.round(figures[figure] / step) * step)
    return np.stack(columns, axis=1)


def _closest(demands: Demands, figures: dict[str, Array]) -> int | None:
    """The candidate that misses what is demanded by least, each miss against 10 K, 10 dB, 10 mm or the demand itself."""
    misses = [np.maximum(-figures["spare_k"] / 10.0, 0.0), np.maximum(-figures["spare_db"] / 10.0, 0.0)]
    for figure, most in (("height_mm", demands.height_mm), ("mass_g", demands.mass_g), ("price", demands.price)):
        if most is not None:
            misses.append(
                np.maximum(np.nan_to_num(figures[figure], nan=2 * float(most)) / max(float(most), 1e-9) - 1.0, 0.0)
            )
    if demands.fits:
        misses.append(np.maximum(-np.nan_to_num(figures["spare_mm"], nan=-SHORT_MM) / SHORT_MM, 0.0))
    total = np.sum(misses, axis=0)
    if np.all(np.isnan(total)):
        return None
    ties = np.flatnonzero(total <= np.nanmin(total) + 1e-12)
    return int(ties[np.nanargmax(figures["margin_k"][ties])])


def _listed(values: Array) -> list[float | None]:
    return [round(float(v), 3) if np.isfinite(v) else None for v in values]


def _sentence(meets: int, surely: int, size: int, front: int, demands: list[DemandMet]) -> str:
    if meets:
        text = f"{meets} of {size} candidates meet every demand; {front} {'is' if front == 1 else 'are'} not beaten on every count."
        if surely == meets:
            return f"{text} Whatever is not known of them, they meet it."
        some = f"{surely} of them" if surely else "none of them"
        return f"{text} By their central figures, that is: {some} with the whole 90 % band."
    hardest = min(demands, key=lambda demand: demand.met_by, default=None)
    if hardest is None:
        return f"None of {size} candidates could be solved."
    if hardest.met_by == 0:
        return f"None of {size} candidates meets the demand on {hardest.name}."
    return f"None of {size} candidates meets every demand at once; {hardest.met_by} meet that on {hardest.name}."


def columns_as_json(columns: Columns) -> dict[str, Any]:
    """Figures of a chunk as a JSON value, so that what is solved survives whoever solved it."""
    return {
        "numbers": columns.numbers.tolist(),
        "figures": {name: _exact(values) for name, values in columns.figures.items()},
        "tightest": columns.tightest,
        "failures": {str(number): why for number, why in columns.failures.items()},
    }


def _exact(values: Array) -> list[float | str]:
    """JSON has no infinities: they go as words."""
    return [float(v) if np.isfinite(v) else str(float(v)) for v in values]


def columns_of_json(raw: dict[str, Any]) -> Columns:
    unknown = [np.nan] * len(raw["numbers"])  # a figure that an older core did not know
    figures = {name: np.array([float(v) for v in raw["figures"].get(name, unknown)]) for name in FIGURES}
    failures = {int(number): str(why) for number, why in raw["failures"].items()}
    return Columns(np.asarray(raw["numbers"], dtype=np.int64), figures, list(raw["tightest"]), failures)
