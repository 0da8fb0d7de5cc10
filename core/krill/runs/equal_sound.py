"""A run's fans turned so that it is as loud as another one: the factor on their speeds, by the fan laws of the model."""

from dataclasses import dataclass
from typing import Final

from krill.document.build import Build, Command
from krill.document.parts import Fan
from krill.prediction.answer.solving import Solved
from krill.prediction.answer.sound import total_at
from krill.runs.as_run import commanded_build

#: how far fans are turned down; upwards their rated speed is the end
SLOWEST: Final = 0.2
STEPS: Final = 24
#: levels this near are one, dB
EQUAL_DB: Final = 0.1


@dataclass(frozen=True)
class EqualSound:
    """Levels of two runs by the model, dBA at the listener, and what makes the second as loud as the first.

    ``factor`` is on the speeds of its fans; ``reached_dba`` is as near as they get.
    """

    first_dba: float
    second_dba: float
    factor: float
    reached_dba: float

    @property
    def reached(self) -> bool:
        return abs(self.reached_dba - self.first_dba) <= EQUAL_DB

    @property
    def says(self) -> str:
        """What was done to the second run, in words."""
        if abs(self.factor - 1.0) < 0.005:
            return f"both make {self.first_dba:.1f} dBA by the model"
        told = (
            f"its fans at {self.factor:.2f} of the speed they ran, {self.second_dba:.1f} to {self.reached_dba:.1f} dBA"
        )
        return told if self.reached else f"{told}; {self.first_dba:.1f} dBA are beyond them"


def equal_sound(first: Solved, second: Solved) -> EqualSound:
    """The factor that brings the second's fans to the level of the first, by bisection: louder with speed throughout."""
    target, now = (total_at(solved, 0, _speeds(solved)) for solved in (first, second))
    fans = _fans(second)
    if not fans or abs(now - target) <= EQUAL_DB:
        return EqualSound(target, now, 1.0, now)

    def level(factor: float) -> float:
        return total_at(second, 0, _speeds(second) | {fan: speed * factor for fan, speed in fans.items()})

    low, high = (SLOWEST, 1.0) if now > target else (1.0, max(1.0, 1.0 / max(fans.values())))
    for _ in range(STEPS):
        middle = (low + high) / 2
        low, high = (middle, high) if level(middle) < target else (low, middle)
    factor = (low + high) / 2
    return EqualSound(target, now, factor, level(factor))


def turned(build: Build, workload: str, solved: Solved, factor: float) -> Build:
    """The build with its fans at a factor on the speeds that they ran at."""
    row = solved.central(0)
    rated = {fan: solved.figure(f"{fan}/rated_rpm", row) for fan in _fans(solved)}
    told = {fan: Command(speed_rpm=speed * rated[fan] * factor) for fan, speed in _fans(solved).items()}
    return commanded_build(build, workload, told)


def _speeds(solved: Solved) -> dict[str, float]:
    """Shares of rated speed of everything that turns, at the central figures."""
    row = solved.central(0)
    return {mover: float(speeds[row]) for mover, speeds in solved.solution.speeds.items()}


def _fans(solved: Solved) -> dict[str, float]:
    """Shares of rated speed of fans that turn."""
    fans = {part.id for part in solved.build.parts if isinstance(part, Fan)}
    return {mover: speed for mover, speed in _speeds(solved).items() if mover in fans and speed > 0}
