"""Speeds that follow their curves in time: with hysteresis, and as slowly as their firmware lets them."""

import numpy as np
from numpy.typing import NDArray

from krill.document.build import FanCurve
from krill.networks.coupled import CoupledNetwork

Array = NDArray[np.float64]
Speeds = dict[str, Array]


class SpeedControl:
    """What each mover runs at, and what its curve asks of it after the hysteresis; both are shares of rated speed."""

    asked: Speeds
    speeds: Speeds

    def __init__(self, network: CoupledNetwork, T: Array, before: "SpeedControl | None" = None) -> None:
        self._states, self._structure = network.states, network.structure
        self._slow = {
            mover.id: slow for mover in self._states.movers if (slow := self._constants(mover.id)) is not None
        }
        warmed, _ = self._states.asked_speeds(T, self._structure)
        told = before.speeds if before is not None else {}
        self.asked = {
            mover: speed if mover not in self._slow else told.get(mover, speed) for mover, speed in warmed.items()
        }
        self.speeds = dict(self.asked)

    def __bool__(self) -> bool:
        """Whether any speed can move."""
        return bool(self._slow)

    def _constants(self, mover: str) -> tuple[Array, Array] | None:
        """Seconds upwards and downwards, (batch,); None of a mover that follows nothing."""
        curves = [_curve(case.workload.movers.get(mover)) for case in self._states.cases]
        if not any(curves):
            return None
        up, down = (
            np.repeat([0.0 if curve is None else float(getattr(curve, way)) for curve in curves], self._states.samples)
            for way in ("up_s", "down_s")
        )
        return up, down

    def on_the_way(self, seconds: float) -> Speeds:
        """Speeds once they have followed what is asked of them now for so long."""
        return {m: self._followed(m, self.asked[m], seconds) if m in self._slow else s for m, s in self.speeds.items()}

    def _followed(self, mover: str, asked: Array, seconds: float) -> Array:
        up, down = self._slow[mover]
        missing = asked - self.speeds[mover]
        constant = np.where(missing > 0.0, up, down)
        left = np.where(constant > 0.0, np.exp(-seconds / np.maximum(constant, 1e-9)), 0.0)
        return np.asarray(asked - missing * left)

    def after(self, T: Array, seconds: float) -> tuple[Speeds, Speeds]:
        """(asked, speeds) of every mover once it has stood at T for so long."""
        warmed, cooled = self._states.asked_speeds(T, self._structure)
        asked, speeds = dict(self.asked), dict(self.speeds)
        for mover in self._slow:
            asked[mover] = np.clip(self.asked[mover], warmed[mover], np.maximum(cooled[mover], warmed[mover]))
            speeds[mover] = self._followed(mover, asked[mover], seconds)
        return asked, speeds


def _curve(command: object) -> FanCurve | None:
    return getattr(command, "curve", None)
