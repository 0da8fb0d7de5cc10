"""What a simulated machine does to its own watts: gives them up at a temperature, keeps under a limit that may fall."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.parts import Source
from krill.prediction.answer.solving import Solved

Array = NDArray[np.float64]

#: a firmware gives up all of its watts over so many kelvins about the limit, and never more than leaves this share
BAND_K, LEAST_SHARE = 1.0, 0.05
#: clock of a chip follows its watts by this power: volts come down with the clock (common practice, 2 to 3)
WATTS_BY_CLOCK = 2.5
#: clocks at all watts, MHz; what no class says is a chip of the second kind
CLOCK_MHZ = {"processor": 4600.0, "graphics": 2500.0}


@dataclass(frozen=True)
class PowerLimit:
    """What a source may draw from the start of its load, W, and what it may draw after a while.

    ``told`` is whether the machine reports it; a limit of the board that nobody set is not.
    """

    source: str
    watts: float
    falls_to_w: float | None = None
    after_s: float = 60.0
    over_s: float = 30.0
    told: bool = True

    def at(self, seconds: Array | float) -> Array:
        """Watts allowed so long after the load began."""
        if self.falls_to_w is None:
            return np.full(np.shape(seconds), self.watts)
        fallen = np.clip((np.asarray(seconds) - self.after_s) / max(self.over_s, 1e-9), 0.0, 1.0)
        return np.asarray(self.watts + (self.falls_to_w - self.watts) * fallen)


@dataclass(frozen=True)
class Held:
    """One source that may be held back: its watts on the nodes, the nodes it is held at with their limits, C."""

    source: str
    watts: float
    on_nodes: Array
    nodes: NDArray[np.intp]
    limits_c: Array
    limit: PowerLimit | None

    def share(self, since_s: float, T: Array) -> tuple[float, int | None]:
        """Share of its watts at node temperatures, and the node that sets it (None: its limit, or nothing)."""
        allowed = 1.0 if self.limit is None else min(float(self.limit.at(since_s)) / max(self.watts, 1e-9), 1.0)
        if not self.nodes.size:
            return allowed, None
        by_place = (self.limits_c + BAND_K / 2 - T[self.nodes]) / BAND_K
        worst = int(np.argmin(by_place))
        by_heat = float(np.clip(by_place[worst], LEAST_SHARE, 1.0))
        if by_heat >= allowed:
            return allowed, None
        return by_heat, int(self.nodes[worst]) if by_heat > LEAST_SHARE else None


def held_sources(solved: Solved, limits: list[PowerLimit]) -> list[Held]:
    """Every source of a solved load that throttles or has a limit."""
    by_source = {limit.source: limit for limit in limits}
    found = []
    for part in solved.build.parts:
        if not isinstance(part, Source):
            continue
        places = [
            (solved.structure.node_of[place.id], float(solved.network.values(f"{place.id}/at_c/throttle").flat[0]))
            for place in part.places
            if place.throttles and any(limit.kind == "throttle" for limit in place.limits)
        ]
        if places or part.id in by_source:
            watts = solved.network.states.watts(part.id)
            on_nodes = solved.network.states.source_power(solved.structure, part, watts)[0]
            nodes, limits_c = zip(*places, strict=True) if places else ((), ())
            found.append(
                Held(
                    part.id,
                    float(watts[0]),
                    on_nodes,
                    np.array(nodes, dtype=np.intp),
                    np.array(limits_c, dtype=float),
                    by_source.get(part.id),
                )
            )
    return found


def clock_mhz(source: str, share: Array) -> Array:
    """Clock of a source that draws a share of its watts, MHz."""
    full = next((mhz for word, mhz in CLOCK_MHZ.items() if word in source), CLOCK_MHZ["graphics"])
    return np.asarray(full * share ** (1.0 / WATTS_BY_CLOCK))
