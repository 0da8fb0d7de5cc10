"""Speeds for a wanted total sound level: all fans scaled together, or one group of them."""

import numpy as np

from krill.document.build import Build
from krill.document.parts import Fan
from krill.errors import DocumentRefused, Problem
from krill.prediction.answer.solving import solve_cases
from krill.prediction.answer.sound import total_at
from krill.prediction.predict import cases_of
from krill.sizing.result import SpeedForLevel

FASTEST, SLOWEST = 1.0, 0.02


def speed_for_level(
    build: Build, workload: str, wanted_dba: float, fans: list[str] | None = None, room_c: float | None = None
) -> SpeedForLevel:
    """One factor on the speeds of the named fans (all that are not locked where none is named) so that the total is ``wanted_dba``.

    Fans stop at full speed and at their start duty; where the rest alone is louder, or full speed is quieter than
    wanted, ``reached`` is False and ``because`` says so. DocumentRefused names a fan that is not there.
    """
    known = {part.id: part for part in build.parts if isinstance(part, Fan)}
    group = [fan for fan in known if not {fan, f"movers/{fan}"} & set(build.locked)] if fans is None else fans
    for fan in group:
        if fan not in known:
            raise DocumentRefused([Problem(f"fans/{fan}", "there is no such fan", ", ".join(known) or "(no fan)")])
    solved = solve_cases(build, cases_of(build, [workload], room_c, throttles=False))
    speeds = {mover: float(speed[0]) for mover, speed in solved.solution.speeds.items()}
    lowest = {fan: solved.figure(f"{fan}/start_duty", 0, 0.0) for fan in group}
    highest = {fan: solved.figure(f"{fan}/highest_duty", 0, 1.0) for fan in group}
    running = [fan for fan in group if speeds[fan] > 0.0]

    def scaled(factor: float) -> dict[str, float]:
        return speeds | {fan: min(max(factor * speeds[fan], lowest[fan]), highest[fan]) for fan in running}

    def level(factor: float) -> float:
        return total_at(solved, 0, scaled(factor))

    fastest = max((highest[fan] / speeds[fan] for fan in running), default=FASTEST)
    quietest, loudest = level(SLOWEST), level(fastest)
    reached = bool(running) and quietest <= wanted_dba <= loudest
    if reached:
        from scipy.optimize import brentq  # a third of a second, and only this question needs it

        factor, because = float(brentq(lambda f: level(f) - wanted_dba, SLOWEST, fastest, xtol=1e-6)), "reached"
    elif wanted_dba > loudest or not running:
        factor, because = fastest, f"at full speed these fans make {loudest:.1f} dBA, no more"
    else:
        factor, because = SLOWEST, f"at their lowest speed {quietest:.1f} dBA are left: look at what is not scaled"
    chosen = scaled(factor)
    return SpeedForLevel(
        wanted_dba=wanted_dba,
        reached=reached,
        total_dba=level(factor),
        factor=factor,
        duties={fan: _duty(known[fan], chosen[fan]) for fan in running},
        because=because,
    )


def _duty(fan: Fan, speed: float) -> float:
    """The duty that makes a share of rated speed, by the fan's own map where it has one."""
    if not fan.duty_speed:
        return speed
    duty, share = np.asarray(sorted(fan.duty_speed), dtype=np.float64).T
    return float(np.interp(speed, share, duty))
