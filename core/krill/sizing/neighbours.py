"""The next larger and next smaller of every axis beside a candidate, and whether they are worth it."""

from itertools import product

import numpy as np
from numpy.typing import NDArray

from krill.prediction.answer.result import PlaceResult, WorkloadResult
from krill.prediction.predict import predict
from krill.sizing.candidates import Study
from krill.sizing.outcome import demands_met
from krill.sizing.question import Question
from krill.sizing.result import CandidateDetail, Neighbour, StudyResult
from krill.sizing.words import rest_lies

Array = NDArray[np.float64]

#: differences below this are called none (common practice)
NONE_K, NONE_DB = 1.0, 1.0
#: levels within this are called equal
EQUAL_DB = 0.15
#: draws of the candidate in view
SHOWN_SAMPLES = 200


def candidate_detail(study: Study, result: StudyResult, number: int) -> CandidateDetail:
    """A candidate with its figures, every part of it solved, and its neighbours along each axis.

    DocumentRefused names a candidate that is not there.
    """
    chosen = study.options_of(number)
    document, edits = study.made(number, study.build)
    room = None if study.varies_room else study.cases[0].room_c
    workloads = predict(document, list(study.names), room, samples=SHOWN_SAMPLES).workloads
    places = {place.address: place for place in workloads[0].places}
    tightest = places.get(result.tightest[number])
    figures = {name: np.array([np.nan if v is None else v for v in column]) for name, column in result.columns.items()}
    found: list[Neighbour] = []
    for axis in range(len(study.shape)):
        for way in (-1, 1):
            beside = list(chosen)
            beside[axis] += way
            if 0 <= beside[axis] < study.shape[axis]:
                other = _as_quiet(study, figures, number, beside, axis)
                found.append(_neighbour(study, figures, number, other, axis, tightest))
    return CandidateDetail(
        number=number,
        options=list(chosen),
        labels=[label_of(study, axis, option) for axis, option in enumerate(chosen)],
        edits=edits,
        workloads=workloads,
        neighbours=found,
        drawn_low_k=_drawn_low(study.question, workloads),
        why="" if tightest is None else f"{tightest.name} is tightest: {rest_lies(tightest)}.",
    )


def _drawn_low(question: Question, workloads: list[WorkloadResult]) -> float | None:
    """What is left beyond every margin demanded at the low ends of bands drawn in full; None without such a demand."""
    places = {found.workload: found.places for found in workloads}
    low = [
        place.margin_band_k.low - float(demand.at_least_k)
        for demand in question.demands.margins
        for place in places[demand.workload]
        if place.margin_band_k is not None and demand.place in (None, place.address)
    ]
    return min(low, default=None)


def _as_quiet(study: Study, figures: dict[str, Array], here: int, beside: list[int], axis: int) -> int:
    """The neighbour to compare with: of another size, the coolest that is no louder, its speeds chosen anew.

    Changes are judged at equal sound (common practice); along a speed itself the neighbour is taken as it is.
    """
    addresses = [found.address for found in study.question.vary]
    speeds = [index for index, address in enumerate(addresses) if address.startswith("movers/")]
    straight = int(np.ravel_multi_index(beside, study.shape))
    if axis in speeds or not speeds:
        return straight
    options = [range(study.shape[i]) if i in speeds else [beside[i]] for i in range(len(study.shape))]
    numbers = np.array([np.ravel_multi_index(choice, study.shape) for choice in product(*options)])
    level, margin = figures["level_dba"][numbers], figures["margin_k"][numbers]
    quiet = np.flatnonzero(level <= figures["level_dba"][here] + EQUAL_DB)
    if not quiet.size or np.all(np.isnan(margin[quiet])):
        return straight
    return int(numbers[quiet[np.nanargmax(margin[quiet])]])


def label_of(study: Study, axis: int, option: int) -> str:
    """What an option is called: by its user, or its value."""
    found = study.question.vary[axis].options[option]
    return found.label or (f"{found.value:g}" if isinstance(found.value, int | float) else str(found.value))


def _neighbour(
    study: Study, figures: dict[str, Array], here: int, there: int, axis: int, tightest: PlaceResult | None
) -> Neighbour:
    change = {name: float(values[there] - values[here]) for name, values in figures.items()}
    met = all(bool(mask[there]) for _, mask in demands_met(study.question.demands, figures))
    options, chosen = study.options_of(there), study.options_of(here)
    moved = [
        label_of(study, index, options[index])
        for index in range(len(options))
        if index != axis and options[index] != chosen[index]
    ]
    missed = [name for name, mask in demands_met(study.question.demands, figures) if not mask[there]]
    says = _says(change, missed, tightest, silent=bool(figures["level_dba"][here] <= 0.0))
    return Neighbour(
        number=there,
        address=study.question.vary[axis].address,
        label=label_of(study, axis, options[axis]),
        at=moved,
        meets=met,
        margin_k=_known(change["margin_k"]),
        level_db=_known(change["level_dba"]),
        height_mm=_known(change["height_mm"]),
        price=_known(change["price"]),
        worth_it=met and change["margin_k"] >= NONE_K,
        says=says,
    )


def _known(value: float) -> float | None:
    return round(value, 3) if np.isfinite(value) else None


def _says(change: dict[str, float], missed: list[str], tightest: PlaceResult | None, *, silent: bool) -> str:
    """One sentence: what the step does, and whether it is worth making."""
    won, louder = change["margin_k"], change["level_dba"]
    if not np.isfinite(won):
        return "could not be solved"
    text = f"{'wins' if won >= 0 else 'costs'} {abs(won):.1f} K of margin"
    if abs(louder) < EQUAL_DB:
        text += "" if silent else " at the same sound"
    else:
        text += f", {abs(louder):.1f} dB {'louder' if louder > 0 else 'quieter'}"
    if np.isfinite(change["height_mm"]) and abs(change["height_mm"]) >= 0.5:
        text += f", {abs(change['height_mm']):.0f} mm {'higher' if change['height_mm'] > 0 else 'lower'}"
    if missed:
        return f"{text}; it misses the demand on {' and '.join(missed)}"
    if won >= NONE_K:
        return f"{text}; the demands are met without it"
    if won > -NONE_K and louder > -NONE_DB:
        where = "" if tightest is None else f": {rest_lies(tightest)}"
        return f"{text}; not worth it{where}"
    return f"{text}; the demands are still met"
