"""Temperatures, margins and status of every place."""

import numpy as np
from numpy.typing import NDArray

from krill.document.figures import detail
from krill.document.parts import Place
from krill.errors import DocumentRefused, Problem
from krill.networks.structure import PlaceRoute
from krill.numerics.sampling import band_90
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.hops import route_hops
from krill.prediction.answer.result import Band, PlaceResult, SideWay, Status, Throttled
from krill.prediction.answer.route_watts import step_watts, stream_start
from krill.prediction.answer.solving import Solved, room_of

Array = NDArray[np.float64]

#: a source is throttled from this share of its watts on, at a place this near its limit
LEAST_LOST, HELD_K = 1e-4, 0.01


def place_results(solved: Solved, case: int) -> list[PlaceResult]:
    """One result for each route of the build, in its order."""
    return [_place(solved, case, route) for route in solved.structure.routes]


def chosen_place(places: list[PlaceResult], place: str | None) -> PlaceResult:
    """The named place, or the one of the least margin. DocumentRefused where it, or any place, is missing."""
    if not places:
        raise DocumentRefused(
            [Problem("routes", "no part gives its heat anywhere", "a source with a way for its heat")]
        )
    if place is None:
        with_margin = [found for found in places if found.margin_k is not None]
        return min(with_margin, key=lambda found: found.margin_k or 0.0, default=places[0])
    named = {found.address: found for found in places}
    if place not in named:
        raise DocumentRefused([Problem(f"place/{place}", "there is no such place", ", ".join(named))])
    return named[place]


def _place(solved: Solved, case: int, route: PlaceRoute) -> PlaceResult:
    row = solved.central(case)
    node = solved.structure.node_of[route.place.id]
    temperature = float(solved.solution.temperature[row, node])
    band = _band(solved, case, route.place)
    limit_kind, limit_c = lowest_limit(route.place)
    margin = None if limit_c is None else limit_c - temperature
    margin_band: Band | None = None
    if limit_c is not None and band is not None:
        margin_band = _margin_band(solved, case, route.place, f"{limit_kind}", limit_c, band)
    throttled = _throttled(solved, row, route, limit_c)
    if throttled is not None:
        status: Status = "throttled"
        because = f"held at {limit_c:g} °C, loses {throttled.lost_w:.0f} of {throttled.full_w:.0f} W"
    else:
        status, because = status_of(margin, margin_band, float(solved.build.brief.margin_wanted_k))
    hops = route_hops(solved, row, route)
    return PlaceResult(
        address=route.place.id,
        name=route.place.name or route.place.id,
        source=route.source,
        watts=float(solved.solution.power[row, node]),
        temperature_c=temperature,
        temperature_kind=route.place.temperature_kind,
        over_room_k=temperature - room_of(solved, row),
        band_c=band,
        limit_kind=limit_kind,
        limit_c=limit_c,
        margin_k=margin,
        margin_band_k=margin_band,
        status=status,
        because=because,
        throttled=throttled,
        terrace=route.body
        or route.loop
        or route.zone
        or (stream_start(solved, row, route)[0] if route.stream is not None else ""),
        hops=hops,
        side_ways=_side_ways(solved, row, route.place.id),
    )


def _throttled(solved: Solved, row: int, route: PlaceRoute, limit_c: float | None) -> Throttled | None:
    """What the source of a place loses where this place is the one that is held at its limit."""
    kept, place = solved.solution.kept.get(route.source), route.place
    temperature = float(solved.solution.temperature[row, solved.structure.node_of[place.id]])
    if kept is None or limit_c is None or not place.throttles or kept[row] > 1.0 - LEAST_LOST:
        return None
    if abs(temperature - limit_c) > HELD_K:
        return None
    full, exponent = float(solved.network.states.watts(route.source)[row]), f"{place.id}/clock_exponent"
    clock = float(kept[row] ** solved.figure(exponent, row)) if solved.network.values.has(exponent) else None
    return Throttled(lost_w=float((1.0 - kept[row]) * full), full_w=full, clock_share=clock)


def _side_ways(solved: Solved, row: int, place: str) -> list[SideWay]:
    """What leaves a place beside its named way."""
    found: list[SideWay] = []
    for other in solved.structure.side_routes:
        if other.place.id == place:
            first = other.steps[0]
            watts = sum(step_watts(solved, row, other, first))
            found.append(SideWay(address=other.layers[-1].address, name=other.layers[-1].name, watts=watts))
    return found


def _band(solved: Solved, case: int, place: Place) -> Band | None:
    """Of a place that throttles never beyond its limit: what warms it more costs it watts."""
    if solved.samples == 0:
        return None
    drawn = place_samples(solved, case, place.id)
    limit = solved.table.figures.get(f"{place.id}/at_c/throttle")
    if place.throttles and limit is not None and solved.cases[case].throttles:
        drawn = np.minimum(drawn, limit.value)
    low, high = band_90(drawn)
    return Band(low=float(low), high=float(high))


def _margin_band(solved: Solved, case: int, place: Place, kind: str, limit_c: float, band: Band) -> Band:
    """Band of a margin: of the temperature alone, or of both where the limit has a tolerance of its own."""
    drawn = solved.network.values.drawn(f"{place.id}/at_c/{kind}")
    if drawn is None:
        return Band(low=limit_c - band.high, high=limit_c - band.low)
    low, high = band_90(drawn[solved.drawn(case)] - place_samples(solved, case, place.id))
    return Band(low=float(low), high=float(high))


def lowest_limit(place: Place) -> tuple[str | None, float | None]:
    """The limit that is reached first."""
    limits = [(float(detail(x.at_c).value), x.kind) for x in place.limits]
    if not limits:
        return None, None
    at, kind = min(limits)
    return kind, at


def status_of(margin: float | None, band: Band | None, wanted: float) -> tuple[Status, str]:
    """holds: lower end of the margin's band reaches the margin wanted; too hot: the whole band is over the limit."""
    if margin is None:
        return "unknown", "no limit is set for this part"
    low, high = (margin, margin) if band is None else (band.low, band.high)
    if low >= wanted:
        return "holds", f"at least {low:.1f} K to spare, {wanted:g} K wanted"
    if high < 0:
        return "too hot", f"even the coolest case in the band is {-high:.1f} K over the limit"
    return "tight", f"the lower end of the margin is {low:.1f} K, {wanted:g} K wanted".replace("-", "−")
