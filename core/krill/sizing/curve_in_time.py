"""Whether a fan curve holds still: with which hysteresis and ramps, at every load, and from which slope on it hunts."""

from dataclasses import replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build, FanCurve
from krill.errors import DocumentRefused, Problem
from krill.in_time.flatter import flatter, followed, slope_between, with_curves
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.prediction.answer.workload_states import least_workload
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.fan_curve import check_sensor
from krill.sizing.result import CurveInTime, CurvePoint, Setting
from krill.sizing.varied import movers_of

Array = NDArray[np.float64]

#: hysteresis (K), seconds up and down that a firmware lets be typed in, the liveliest first (common practice: 3 ± 2 K, up 1
#: to 5 s, down 5 to 30 s)
SETTINGS: Final = ((2.0, 3.0, 15.0), (3.0, 5.0, 30.0), (5.0, 5.0, 30.0))
#: shares of the load at which each is run, and how many times as steep it is run at all of it
LOADS: Final = (0.4, 0.7, 1.0)
STEEPER: Final = (1.5, 2.5, 4.0, 8.0)
#: so long each is followed after the load comes on over idle, min
FOLLOWED_MIN: Final = 30.0


def curve_in_time(
    build: Build,
    workload: str,
    sensor: str,
    points: list[CurvePoint],
    group: str = "fans",
    room_c: float | None = None,
) -> CurveInTime:
    """Points followed in time by a group's movers, all settings, loads and slopes in one march from idle.

    DocumentRefused names a workload or a group that is not there, or a sensor that is no place, loop or zone.
    """
    case = cases_of(build, [workload], room_c, throttles=False)[0]
    movers = [mover.id for mover in movers_of(build, group)]
    if not movers:
        raise DocumentRefused([Problem(f"group/{group}", "there is no such fan or pump", "fans, a path, a fan, pumps")])
    check_sensor(build, sensor)
    curves = [_curve(sensor, points, *setting) for setting in SETTINGS]
    asked = [(curve, load) for curve in curves for load in LOADS]
    low, high = points[0].at_c, points[-1].at_c
    asked += [(flatter(curves[0], 0.5 * (low + high), share), 1.0) for share in STEEPER]
    cases = [with_curves(_loaded(build, case, load), dict.fromkeys(movers, curve)) for curve, load in asked]
    idle = replace(case, workload=least_workload(build))
    start = solve_cases(build, [with_curves(idle, dict.fromkeys(movers, curve)) for curve, _ in asked])
    found = followed(build, cases, start.solution.temperature, FOLLOWED_MIN)
    hunts = [any(one.mover in movers for one in hunting) for hunting in found]
    settings = [
        Setting(
            hysteresis_k=hysteresis,
            up_s=up,
            down_s=down,
            hunts_at=[load for load, swings in zip(LOADS, hunts[len(LOADS) * at :], strict=False) if swings],
        )
        for at, (hysteresis, up, down) in enumerate(SETTINGS)
    ]
    chosen = next((at for at, one in enumerate(settings) if not one.hunts_at), None)
    slope = slope_between(curves[0], low, high)
    steeper = [share for share, swings in zip(STEEPER, hunts[len(LOADS) * len(SETTINGS) :], strict=True) if swings]
    return CurveInTime(
        settings=settings,
        chosen=chosen,
        slope=slope,
        hunts_from=slope * min(steeper) if steeper else None,
        looked_to=slope * max(STEEPER),
        says=_says(settings, chosen),
        certifies=CERTIFIES,
    )


def _curve(sensor: str, points: list[CurvePoint], hysteresis_k: float, up_s: float, down_s: float) -> FanCurve:
    told = [(point.at_c, point.duty) for point in points]
    return FanCurve(sensor=sensor, points=told, hysteresis_k=hysteresis_k, up_s=up_s, down_s=down_s)


def _loaded(build: Build, case: Case, load: float) -> Case:
    """The case at a share of its watts, without its bursts."""
    table = FigureTable(build)
    watts = {s: load * table.figures[watts_address(case.workload.id, s)].value for s in case.workload.watts}
    return replace(case, workload=case.workload.model_copy(update={"watts": watts, "burst": {}}))


def _says(settings: list[Setting], chosen: int | None) -> str:
    if chosen is None:
        least = min(settings, key=lambda one: len(one.hunts_at))
        return (
            f"It hunts at {', '.join(f'{100 * load:.0f} %' for load in least.hunts_at)} of the load whatever is typed in "
            "here: choose a sensor that follows the load more slowly."
        )
    one = settings[chosen]
    lively = "" if chosen == 0 else f", which a hysteresis of {settings[0].hysteresis_k:g} K does not"
    return (
        f"With {one.hysteresis_k:g} K of hysteresis, {one.up_s:g} s up and {one.down_s:g} s down it holds still at every "
        f"load{lively}."
    )
