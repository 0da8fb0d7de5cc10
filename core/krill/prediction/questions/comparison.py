"""Two builds beside each other: every place, with the band of the difference, never the difference of two bands."""

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.numerics.sampling import band_90
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.lasting import must_last
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.result import Band, Comparison, DifferenceSays, FigureDifference, PlaceDifference
from krill.prediction.answer.shared import loop_nodes, watts_put_in
from krill.prediction.answer.solving import Solved, drawn_band, solve_cases
from krill.prediction.answer.sound import sound_result, total_levels
from krill.prediction.predict import CERTIFIES, cases_of

Array = NDArray[np.float64]

NONE_BELOW_K = 1.0
NONE_BELOW_DBA = 1.0


def compare(
    first: Build, second: Build, workload: str, room_c: float | None = None, samples: int = 200, seed: int = 1
) -> Comparison:
    """Both builds in one workload and room with common draws; differences below 1 K are called none.

    DocumentRefused where one of them has no such workload.
    """
    a = solve_cases(first, cases_of(first, [workload], room_c, throttles=False), samples, seed)
    b = solve_cases(second, cases_of(second, [workload], a.cases[0].room_c, throttles=False), samples, seed)
    must_last(a, 0)
    must_last(b, 0)
    names = {route.place.id: route.place.name or route.place.id for s in (a, b) for route in s.structure.routes}
    places = [_difference(a, b, place, name) for place, name in names.items()]
    levels = sound_result(a, 0).total_dba, sound_result(b, 0).total_dba
    return Comparison(
        workload=workload,
        room_c=a.cases[0].room_c,
        places=places,
        others=list(_others(a, b)),
        first_dba=levels[0],
        second_dba=levels[1],
        first_w=float(watts_put_in(a)[0]),
        second_w=float(watts_put_in(b)[0]),
        sentence=_sentence(places, levels[1] - levels[0]),
        certifies=CERTIFIES,
    )


def _others(a: Solved, b: Solved) -> Iterator[FigureDifference]:
    """Hottest coolant of loops and air of boxes that both have, and the sound of both."""
    loops = {loop.id: loop.name for loop in a.build.loops}
    for loop in b.build.loops:
        if loop.id in loops:
            hot = [s.solution.temperature[:, loop_nodes(s, loop.id)].max(axis=1) for s in (a, b)]
            yield _figures(a, f"{loop.id}/coolant_hot", f"{loop.name or loop.id} coolant, hottest", "°C", *hot)
    for zone in b.build.zones:
        nodes = [s.structure.zone_nodes.get(zone.id) for s in (a, b)]
        if zone.kind == "box" and nodes[0] is not None:
            air = [s.solution.temperature[:, node] for s, node in zip((a, b), nodes, strict=True)]
            yield _figures(a, f"{zone.id}/air", zone.name or zone.id, "°C", *air)
    yield _figures(a, "sound/level", "sound at the listener", "dBA", total_levels(a), total_levels(b))


def _figures(a: Solved, address: str, name: str, unit: str, first: Array, second: Array) -> FigureDifference:
    return FigureDifference(
        address=address,
        name=name,
        unit=unit,
        first=float(first[0]),
        second=float(second[0]),
        difference=float(second[0] - first[0]),
        band=drawn_band(a, 0, second - first),
    )


def _temperature(solved: Solved, place: str) -> float | None:
    if place not in solved.structure.node_names:
        return None
    return float(solved.solution.temperature[0, solved.structure.node_of[place]])


def _difference(a: Solved, b: Solved, place: str, name: str) -> PlaceDifference:
    first, second = _temperature(a, place), _temperature(b, place)
    band: Band | None = None
    limit = next(
        (lowest_limit(owners[place][0])[1] for s in (b, a) if place in (owners := s.build.place_owners())), None
    )
    difference: float | None = None
    says: DifferenceSays = "only in one"
    passes = False
    if first is not None and second is not None:
        if a.samples and b.samples:
            low, high = band_90(place_samples(b, 0, place) - place_samples(a, 0, place))
            band = Band(low=float(low), high=float(high))
        difference = second - first
        says = _says(difference, band)
        passes = limit is not None and second > limit >= first
    return PlaceDifference(
        address=place,
        name=name,
        first_c=first,
        second_c=second,
        difference_k=difference,
        band_k=band,
        limit_c=limit,
        says=says,
        passes=passes,
    )


def _says(difference: float, band: Band | None) -> DifferenceSays:
    if abs(difference) < NONE_BELOW_K:
        return "none"
    if band is not None and band.low <= 0.0 <= band.high:
        return "cannot tell"
    return "warmer" if difference > 0 else "cooler"


def _sentence(places: list[PlaceDifference], louder: float) -> str:
    """What the second does to the first, in words."""
    over = [place for place in places if place.passes]
    moved = [place for place in places if place.difference_k is not None and abs(place.difference_k) >= NONE_BELOW_K]
    pieces = []
    if over:
        worst = max(over, key=lambda place: (place.second_c or 0.0) - (place.limit_c or 0.0))
        beyond = (worst.second_c or 0.0) - (worst.limit_c or 0.0)
        pieces.append(f"{worst.name} would pass its limit of {worst.limit_c:.0f} °C by {beyond:.1f} K")
    elif not moved:
        pieces.append("No part changes by a kelvin")
    else:
        most = max(moved, key=lambda place: abs(place.difference_k or 0.0))
        pieces.append(f"{most.name} changes most: {most.difference_k or 0.0:+.1f} K")
    if moved:
        warmer = sum((place.difference_k or 0.0) > 0 for place in moved)
        pieces.append(f"{warmer} of {len(places)} parts warmer, {len(moved) - warmer} cooler")
    if abs(louder) >= NONE_BELOW_DBA:
        pieces.append(f"{louder:+.1f} dBA")
    return ("; ".join(pieces) + ".").replace("-", "−")
