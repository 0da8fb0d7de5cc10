"""Tracks of sources over a load window, from a log's channels or from single figures, by what a build says of its parts."""

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload
from krill.document.figures import detail
from krill.document.parts import Place, Source, Supply
from krill.runs.held_back import Fed, Track
from krill.runs.run_document import PowerLimit, Reading

Array = NDArray[np.float64]

#: what a supply gives of what it takes from the wall where nobody knows better (common practice, 0.85 to 0.92)
OF_WALL = 0.88
#: a source of less watts holds no job back that anybody would notice
LEAST_W = 10.0


def tracks_of(
    build: Build, workload: str, values: dict[str, Array], limits: dict[str, PowerLimit]
) -> tuple[list[Track], Fed]:
    """Every source of a build that something was read of; ``values`` by role over the window, each (row,)."""
    load = next(item for item in build.workloads if item.id == workload)
    on_board = _over(values, [p for part in build.parts if isinstance(part, Source) for p in _regulators(part)])
    tracks = []
    for part in build.parts:
        if not isinstance(part, Source) or not _can_be_held(part, load, values, limits):
            continue
        own = _over(values, _regulators(part))
        stated = load.watts.get(part.id)
        limit = limits.get(part.id)
        told = None if limit is None or limit.in_force_w is None else np.array([limit.in_force_w])
        tracks.append(
            Track(
                part.id,
                part.name or part.id,
                _over(values, _throttling(part)),
                values.get(f"{part.id}/power"),
                values.get(f"{part.id}/clock"),
                values.get(f"{part.id}/limit", told),
                values.get(f"{part.id}/load"),
                None if stated is None else float(detail(stated).value),
                own if own is not None else on_board if not _regulators(part) else None,
            )
        )
    return tracks, _fed(build, values)


def single_figures(readings: list[Reading]) -> dict[str, Array]:
    """The last figure of each role under load, as a track of one row."""
    return {
        reading.role: np.array([float(reading.value)])
        for reading in sorted(readings, key=lambda r: r.minute)
        if reading.load_on and reading.value is not None
    }


def _throttling(part: Source) -> list[Place]:
    """Places that hold a source back: those with a throttle limit, else with one of their own; no regulators."""
    places = [place for place in part.places if not _is_regulator(place)]
    throttling = [place for place in places if any(limit.kind == "throttle" for limit in place.limits)]
    return throttling or [place for place in places if any(limit.kind == "own" for limit in place.limits)]


def _regulators(part: Source) -> list[Place]:
    return [place for place in part.places if _is_regulator(place)]


def _can_be_held(part: Source, load: Workload, values: dict[str, Array], limits: dict[str, PowerLimit]) -> bool:
    """A source of some watts that throttles, or one that shows a clock or has a limit; others draw what they draw."""
    if part.id in limits or f"{part.id}/clock" in values or f"{part.id}/limit" in values:
        return True
    stated = load.watts.get(part.id)
    large = stated is not None and float(detail(stated).value) >= LEAST_W
    throttles = any(limit.kind == "throttle" for place in part.places for limit in place.limits)
    return large and throttles and any(not _is_regulator(place) for place in part.places)


def _is_regulator(place: Place) -> bool:
    return "regulator" in f"{place.class_ or ''} {place.name} {place.id}".lower()


def _over(values: dict[str, Array], places: list[Place]) -> Array | None:
    """How far the hottest of some places lies over its own limit, K (row,); None where none was read."""
    found = []
    for place in places:
        read = values.get(f"{place.id}/temperature")
        limit = _limit_c(place)
        if read is not None and limit is not None:
            found.append(read - limit)
    return np.max(np.stack(np.broadcast_arrays(*found)), axis=0) if found else None


def _limit_c(place: Place) -> float | None:
    by_kind = {limit.kind: float(detail(limit.at_c).value) for limit in place.limits}
    return by_kind.get("throttle", by_kind.get("own"))


def _fed(build: Build, values: dict[str, Array]) -> Fed:
    """What the supply gave: of the wall where that was read, else of every source that was, small ones too."""
    supply = next((part for part in build.parts if isinstance(part, Supply)), None)
    if supply is None:
        return Fed()
    rating = FigureTable(build).figures.get(f"{supply.id}/rating_w")
    over = _over(values, list(supply.places))
    wall = values.get("wall/wall_power")
    powers = (values.get(f"{part.id}/power") for part in build.parts if isinstance(part, Source))
    watts = [power for power in powers if power is not None]
    given = OF_WALL * wall if wall is not None else sum(watts[1:], watts[0]) if watts else None
    return Fed(given, None if rating is None else rating.value, over)
