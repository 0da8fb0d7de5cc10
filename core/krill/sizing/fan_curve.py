"""A fan curve as a result: the least duty that holds the margin at every load, as points to type into a firmware."""

from dataclasses import replace
from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build, Command, FanCurve
from krill.document.parts import Mover
from krill.errors import DocumentRefused, NotConverged, Problem
from krill.networks.states import Case, duty_address
from krill.prediction.answer.solving import solve_cases
from krill.prediction.answer.sound import total_levels
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.band_shares import half_shares, halves
from krill.sizing.bounds import bounds_of
from krill.sizing.by_row import sensed
from krill.sizing.result import CurvePoint, FanCurveResult, LoadCheck
from krill.sizing.varied import movers_of

Array = NDArray[np.float64]

LOADS, DUTIES = 9, 15
LOWEST_LOAD: Final = 0.1
#: duty a kelvin of a firmware's curve: steeper ones hunt (estimate)
STEEPEST: Final = 0.06
MAX_POINTS = 6


def fan_curve(
    build: Build,
    workload: str,
    sensor: str,
    group: str = "fans",
    margin_k: float | None = None,
    room_c: float | None = None,
) -> FanCurveResult:
    """Points (C of the sensor, duty) for a group of fans, from a tenth of the workload's watts to all of them.

    At each load the duty is the least between start duty and highest safe duty that keeps every margin; the points lie on
    or above these, no steeper than a firmware holds still. The points are then solved as a curve and listed as checks.
    DocumentRefused names a sensor, workload or group that is not there.
    """
    case = cases_of(build, [workload], room_c, throttles=False)[0]
    movers = movers_of(build, group)
    if not movers:
        raise DocumentRefused([Problem(f"group/{group}", "there is no such fan or pump", "fans, a path, a fan, pumps")])
    check_sensor(build, sensor)
    wanted = float(build.brief.margin_wanted_k if margin_k is None else margin_k)
    low, high = _reach(build, movers)
    loads, duties = np.linspace(LOWEST_LOAD, 1.0, LOADS), np.linspace(low, high, DUTIES)
    solved = solve_cases(build, [case], LOADS * DUTIES, draws=_draws(build, case, movers, loads, duties))
    spare = bounds_of(solved, wanted).least[1:].reshape(LOADS, DUTIES)
    warm = sensed(solved, sensor)[1:].reshape(LOADS, DUTIES)
    needed = np.array([_least_duty(duties, row) for row in spare])
    held = ~np.isnan(needed)
    asked = np.where(held, needed, high)
    at = np.array([float(np.interp(duty, duties, row)) for duty, row in zip(asked, warm, strict=True)])
    points = _points(at, asked, low, high)
    checks = _checks(build, case, movers, loads, sensor, points, wanted)
    return FanCurveResult(
        workload=workload,
        room_c=case.room_c,
        sensor=sensor,
        group=group,
        fans=[m.id for m in movers],
        margin_k=wanted,
        lowest_duty=low,
        highest_duty=high,
        points=[CurvePoint(at_c=at_c, duty=duty) for at_c, duty in points],
        checks=checks,
        says=_says(checks, wanted),
        certifies=CERTIFIES,
    )


def check_sensor(build: Build, sensor: str) -> None:
    """DocumentRefused names a sensor that is no place, loop or zone."""
    known = (
        [place for place in build.place_owners()]
        + [loop.id for loop in build.loops]
        + [zone.id for zone in build.zones]
    )
    if sensor not in known:
        raise DocumentRefused([Problem(f"sensor/{sensor}", "there is no such place, loop or zone", ", ".join(known))])


def _reach(build: Build, movers: list[Mover]) -> tuple[float, float]:
    """Between the highest start duty and the lowest highest safe duty of the group."""
    figures = FigureTable(build).figures
    starts = [figures[f"{m.id}/start_duty"].value for m in movers if f"{m.id}/start_duty" in figures]
    highest = [figures[f"{m.id}/highest_duty"].value for m in movers if f"{m.id}/highest_duty" in figures]
    low, high = max(starts, default=0.2), min(highest, default=1.0)
    if low >= high:
        raise DocumentRefused([Problem("start_duty", f"{low:g} is not below the highest duty {high:g}", "less")])
    return low, high


def _draws(build: Build, case: Case, movers: list[Mover], loads: Array, duties: Array) -> dict[str, Array]:
    """Every load with every duty as one batch."""
    load, duty = (grid.ravel() for grid in np.meshgrid(loads, duties, indexing="ij"))
    return _loaded(build, case, load) | {duty_address(mover.id): duty for mover in movers}


def _loaded(build: Build, case: Case, load: Array) -> dict[str, Array]:
    table = FigureTable(build)
    addresses = [watts_address(case.workload.id, source) for source in case.workload.watts]
    return {address: table.figures[address].value * load for address in addresses}


def _least_duty(duties: Array, spare: Array) -> float:
    """The least duty that keeps every bound, between the points straight; NaN where none does."""
    holds = spare >= 0.0
    if not holds.any():
        return float("nan")
    first = int(np.argmax(holds))
    if first == 0:
        return float(duties[0])
    span = spare[first] - spare[first - 1]
    return float(duties[first - 1] - (duties[first] - duties[first - 1]) * spare[first - 1] / span)


def _points(at: Array, duty: Array, low: float, high: float) -> list[tuple[float, float]]:
    """Few points on or above what is needed, rising, no steeper than STEEPEST, from lowest to highest duty."""
    order = np.argsort(at)
    T, need = at[order], np.maximum.accumulate(duty[order])
    grid = np.linspace(T[0] - (high - low) / STEEPEST, T[-1] + (high - need[-1]) / STEEPEST, 400)
    asked = np.array([max(low, float(np.max(need - STEEPEST * np.maximum(T - t, 0.0)))) for t in grid])
    asked = np.maximum.accumulate(np.where(grid > T[-1], np.minimum(need[-1] + STEEPEST * (grid - T[-1]), high), asked))
    return _fewer(grid, np.minimum(asked, high), low)


def _fewer(grid: Array, duty: Array, low: float) -> list[tuple[float, float]]:
    """The fewest points whose straight lines stay on or above the curve within a hundredth of duty."""
    start = int(np.argmax(duty > low + 1e-9)) - 1 if np.any(duty > low + 1e-9) else len(duty) - 1
    kept = [max(start, 0), int(np.argmax(duty >= duty[-1] - 1e-9))]
    while len(kept) < MAX_POINTS:
        lines = np.interp(grid, grid[kept], duty[kept])
        short = duty - lines
        worst = int(np.argmax(short))
        if short[worst] <= 0.01 or worst in kept:
            break
        kept = sorted([*kept, worst])
    lifted = _lifted(grid, duty, sorted(set(kept)))
    return [(round(float(grid[i]), 1), round(min(value, 1.0), 3)) for i, value in lifted]


def _lifted(grid: Array, duty: Array, kept: list[int]) -> list[tuple[int, float]]:
    """Points raised by what their straight lines still fall short of the curve."""
    values = [float(duty[i]) for i in kept]
    for number, (a, b) in enumerate(pairwise(kept)):
        line = np.interp(grid[a : b + 1], [grid[a], grid[b]], [values[number], values[number + 1]])
        values[number + 1] += max(float(np.max(duty[a : b + 1] - line)), 0.0)
    return list(zip(kept, values, strict=True))


def _checks(
    build: Build,
    case: Case,
    movers: list[Mover],
    loads: Array,
    sensor: str,
    points: list[tuple[float, float]],
    wanted: float,
) -> list[LoadCheck]:
    """The points followed as a curve at each load: what the sensor says, what the fans do, what is left."""
    told = Command(
        curve=FanCurve(
            sensor=sensor, points=points if len(points) > 1 else [*points, (points[0][0] + 10, points[0][1])]
        )
    )
    following = case.workload.model_copy(update={"movers": case.workload.movers | {m.id: told for m in movers}})
    try:
        solved = solve_cases(build, [replace(case, workload=following)], len(loads), draws=_loaded(build, case, loads))
    except NotConverged:
        return []
    bounds = bounds_of(solved, wanted)
    warm, level = sensed(solved, sensor), total_levels(solved)
    margin = bounds.spare[:, : bounds.places].min(axis=1, initial=np.inf) + wanted
    tightest = bounds.spare.argmin(axis=1)
    half = halves(solved, half_shares(build, [case]))
    lower = (bounds.spare[:, : bounds.places] - half).min(axis=1, initial=np.inf)
    speed = solved.solution.speeds[movers[0].id]
    return [
        LoadCheck(
            load=float(load),
            sensor_c=float(warm[row]),
            speed_share=float(speed[row]),
            level_dba=float(level[row]),
            margin_k=float(margin[row]),
            tightest=bounds.addresses[tightest[row]],
            tightest_name=bounds.names[tightest[row]],
            holds=bool(bounds.least[row] >= -0.05),
            surely=bool(min(bounds.least[row], lower[row]) >= -0.05),
        )
        for row, load in enumerate(loads, start=1)
    ]


def _says(checks: list[LoadCheck], wanted: float) -> str:
    if not checks:
        return "The points did not settle as a curve; choose a sensor that follows the load more slowly."
    held = [check.load for check in checks if check.holds]
    if not held:
        return f"No duty holds a margin of {wanted:g} K, even at a tenth of the load."
    surely = [check.load for check in checks if check.surely]
    if len(held) == len(checks):
        text = f"The margin of {wanted:g} K holds at every load up to this workload's watts"
    else:
        text = f"The margin of {wanted:g} K holds up to {100 * max(held):.0f} % of this workload's watts, not above it"
    if len(surely) == len(held):
        return f"{text}."
    some = (
        f"with the whole 90 % band up to {100 * max(surely):.0f} %" if surely else "at no load with the whole 90 % band"
    )
    return f"{text}, by its central figures; {some}."
