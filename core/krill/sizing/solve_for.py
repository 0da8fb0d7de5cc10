"""Solve for a figure: the value of one figure or duty at which a wanted margin, temperature, flow, level or watts is met."""

from dataclasses import replace
from typing import get_args

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.errors import DocumentRefused, NotConverged, Problem
from krill.in_time.aims import Aim, AimKind
from krill.prediction.predict import cases_of
from krill.sizing.result import SolvedFor
from krill.sizing.search import Goal, Search
from krill.sizing.steps.step import edited

Array = NDArray[np.float64]

POINTS, REFINED = 25, 7


def solve_for(
    build: Build,
    address: str,
    goal: Goal,
    of: str,
    wanted: float,
    workload: str,
    room_c: float | None = None,
    reach: tuple[float, float] | None = None,
    aim: Aim | None = None,
) -> SolvedFor:
    """The value, in the document's units, of ``address`` (id/field, or movers/id for a duty of a mover or group).

    ``of`` is a place (margin), whatever is warm (temperature, or its rise over the room: a place, air inside, a loop, a
    body), a loop or air path (flow, l/min or m3/h), a source (watts: what it may draw with every margin as wanted in the
    brief), or anything for the level and for the height of the highest stack (mm); a goal in time is that of its ``aim``,
    of what that is aimed at. ``reach`` bounds the search in the document's
    units; of several values that meet it, the nearest to what the figure is now is answered. DocumentRefused names an
    address or an ``of`` that is not there; out of reach, the best that can be had and why, and ``reached`` is False.
    """
    case = cases_of(build, [workload], room_c, throttles=False)[0]
    search = Search(build, case, address, goal, of, wanted, _checked(goal, of, aim))
    if search.whole:
        return _whole_number(search)
    low, high = search.checked(reach) if reach is not None else search.reach()
    values = np.geomspace(low, high, POINTS) if low > 0 else np.linspace(low, high, POINTS)
    found = search.missing(values)
    crossing = _nearest_crossing(values, found, search.now)
    looked_at = list(zip(values, found, strict=True))
    if crossing is None:
        return search.answer(float(values[int(np.nanargmin(np.abs(found)))]), looked_at, reached=False)
    near, fine = _refined(search, values[crossing], values[crossing + 1])
    if (
        search.aim is not None and fine[0] * fine[-1] <= 0
    ):  # a burst or a limit in time may turn within a narrow stretch
        turn = int(np.flatnonzero(fine[:-1] * fine[1:] <= 0)[0])
        near, fine = _refined(search, near[turn], near[turn + 1])
    if fine[0] * fine[-1] > 0:
        return search.answer(float(near[int(np.argmin(np.abs(fine)))]), looked_at, reached=True)
    from scipy.interpolate import PchipInterpolator  # a third of a second, and only this question needs it
    from scipy.optimize import brentq

    value = float(brentq(lambda x: float(PchipInterpolator(near, fine)(x)), near[0], near[-1], xtol=1e-9))
    return search.answer(value, looked_at, reached=True)


def _refined(search: Search, low: float, high: float) -> tuple[Array, Array]:
    """Values between two, with what each misses; those that do not settle are left out."""
    near = np.linspace(low, high, REFINED)
    fine = search.missing(near)
    return near[~np.isnan(fine)], fine[~np.isnan(fine)]


def _checked(goal: Goal, of: str, aim: Aim | None) -> Aim | None:
    """The aim of a goal in time. DocumentRefused where goal and aim do not belong together."""
    kinds = get_args(AimKind)
    if (goal in kinds or aim is not None) and (aim is None or (goal, of) != (aim.kind, aim.of)):
        raise DocumentRefused([Problem("aim", "goal and aim are not the same", ", ".join(kinds))])
    return aim


def _nearest_crossing(values: Array, missing: Array, now: float) -> int | None:
    """Where the sign turns closest to the present value; None where it never does."""
    signs = np.sign(missing)
    turns = np.flatnonzero(signs[:-1] * signs[1:] <= 0)
    if not turns.size:
        return None
    middle = 0.5 * (values[turns] + values[turns + 1])
    return int(turns[np.argmin(np.abs(np.log(np.maximum(middle, 1e-12) / max(now, 1e-12))))])


def _whole_number(search: "Search") -> SolvedFor:
    """The value nearest to the present one that meets what is wanted, each a document of its own."""
    found: list[tuple[int, Build, float]] = []
    for option in search.unknown.quantity.options:
        try:
            other = edited(search.build, search.unknown.edits(option, []))
            missing = float(search.on(other).missing_as_it_stands())
        except (DocumentRefused, NotConverged):
            continue
        found.append((option, other, missing))
    if not found:
        raise DocumentRefused([Problem(search.address, "no value of it can be built", "another figure")])
    small_is_good = search.goal in ("temperature", "level", "after", "held_back")
    meets = [item for item in found if (item[2] <= 0 if small_is_good else item[2] >= 0)]
    value, other, _ = min(meets or found, key=lambda item: abs(item[0] - search.now) if meets else abs(item[2]))
    looked_at = [(float(number), missing) for number, _, missing in found]
    answer = search.on(other).answer(float(value), looked_at, reached=bool(meets), now=search.now)
    return replace(answer, edits=list(search.edits(value)))
