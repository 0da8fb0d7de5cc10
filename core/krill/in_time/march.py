"""The march through time: steps as long as their error allows, flows worked out anew once what they hang on has moved."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.parts import Source
from krill.errors import NotConverged
from krill.in_time.lag import Lag
from krill.in_time.legs import Bursts, Leg
from krill.in_time.room import Room
from krill.in_time.speeds import SpeedControl, Speeds
from krill.in_time.track import Moment, Track
from krill.interruption import must_go_on
from krill.networks.coupled import CoupledNetwork, Passage
from krill.networks.states import MachineStates, Shares
from krill.networks.tr_bdf2 import Driving, TimeStep, time_step

Array = NDArray[np.float64]

#: error of a step that is let pass, K: curves are then good to twice as much
TOLERANCE_K: Final = 1e-2
#: share of it where a speed follows a temperature: a steep curve makes much of little
FOLLOWING: Final = 0.3
#: flows and films are worked out anew once a fluid, a zone or a body has moved by so many tolerances
REFRESH: Final = 20.0
#: steps longer than this are those of a machine that settles: there the flows are those of its temperatures, K
LONG_S, SETTLED_K = 30.0, 1e-5
_WHOLE: Final = np.ones(1)
#: the first step after something was switched, the shortest and the longest one, s
FIRST_S, SHORTEST_S, LONGEST_S = 0.02, 1e-4, 600.0
#: a step grows and shrinks by no more than this at once
GROWS, SHRINKS, SAFE = 4.0, 0.2, 0.85
#: where a speed follows a temperature it is looked at so often, s: sampled more rarely a steady fan would seem to swing
LOOKED_AT_S: Final = 30.0
#: a step in which a speed would move by more is halved, unless it is as short as this
SPEED_STEP, SPEED_SHORTEST_S = 0.05, 0.25
#: flows are worked out anew once a speed has moved by so much of the rated one
TURNED: Final = 2e-3
MOST_STEPS: Final = 10_000


@dataclass
class Marched:
    """Where a machine stands: at the end of a leg, or before the first."""

    T: Array
    speeds: SpeedControl | None = None
    states: MachineStates | None = None
    room_k: Array | None = None
    lag: Lag | None = None


@dataclass
class _Now:
    """The state of a march between two steps: what was made linear when, and the flows' part of it before that."""

    t: float
    T: Array
    kept: Shares
    passage: Passage | None = None
    made_s: float = 0.0
    made_at: Array = field(default_factory=lambda: np.empty(0))
    older: tuple[float, Array] | None = None
    linear: tuple[Array, Array] = field(default_factory=lambda: (np.empty(0), np.empty(0)))
    shares: Shares = field(default_factory=dict)
    power: Array = field(default_factory=lambda: np.empty(0))


class March:
    """A leg of a machine in time, over a batch of cases and samples that all take the same steps."""

    def __init__(
        self,
        network: CoupledNetwork,
        capacity: Array,
        leg: Leg,
        start: Marched,
        room: Room,
        tolerance_k: float = TOLERANCE_K,
    ) -> None:
        self._network, self._leg = network, leg
        self._heat = network.pattern.network
        self._control = SpeedControl(network, start.T, start.speeds)
        self._tolerance, self._capacity = tolerance_k, capacity
        if self._control:
            # where flows change all the time, air on its way through ducts and radiators follows them at once
            self._tolerance, self._capacity = FOLLOWING * tolerance_k, capacity.copy()
            self._capacity[:, _air_on_its_way(network)] = 0.0
        self._bursts = Bursts(network.states, leg, start.states)
        self._room = room
        self._warmed = np.zeros(len(start.T)) if start.room_k is None else start.room_k
        self._holds = network.throttling if network.throttling else None
        self._lag = Lag(network.throttling, start.lag)
        self._watts = self._watts_of_sources()
        self._matters = _what_flows_hang_on(network)
        self._start, self._begins_s = start, 0.0

    def run(self, track: Track, begins_s: float) -> Marched:
        """March to the end of the leg; every step goes to the track. Rooms count from the march's own beginning."""
        end, self._begins_s = 60.0 * self._leg.minutes, begins_s
        now = _Now(0.0, self._start.T.copy(), dict(self._network.throttling.start(len(self._start.T))))
        kinks = [kink for kink in self._bursts.kinks() if 0.0 < kink < end] + [end]
        h, refused = FIRST_S, False
        track.add(self._moment(now, begins_s))
        for _ in range(MOST_STEPS):
            must_go_on()
            most = min(LOOKED_AT_S if self._control else LONGEST_S, max(self._lag.longest_s(now.T), SHORTEST_S))
            h = step_towards(kinks[0] - now.t, min(h, most), refused)
            taken, h = self._step(now, h)
            refused = taken is None
            if taken is None:
                continue
            turns = self._lag.after(now.T, taken[0].end, taken[0].kept, taken[1])
            self._advance(now, taken)
            track.add(self._moment(now, begins_s), taken[0].stage, begins_s + now.t - taken[1])
            if now.t >= kinks[0] - 1e-9:
                kinks.pop(0)
                turns = True
            if turns:
                h = FIRST_S
                now.older = None
            if not kinks:
                return Marched(now.T, self._control, self._network.states, self._warmed, self._lag)
        raise NotConverged(
            f"{MOST_STEPS} steps in time led to minute {now.t / 60:.1f} of {self._leg.minutes:g}: something swings; look at "
            "the fan curves"
        )

    def _step(self, now: _Now, h: float) -> tuple[tuple[TimeStep, float, Speeds, Speeds] | None, float]:
        """A step that may be taken, with the next one's length; None and a shorter one where it may not."""
        driving = self._driving(now, h)
        step = time_step(self._heat, self._capacity, now.T, h, driving)
        worst = float(np.abs(step.error).max()) / self._tolerance if np.isfinite(step.end).all() else np.inf
        if worst > 1.0:
            if h <= SHORTEST_S:
                raise NotConverged(f"no step in time is short enough at minute {now.t / 60:.2f}")
            shrinks = SHRINKS if not np.isfinite(worst) else max(SHRINKS, SAFE * worst ** (-1 / 3))
            return None, max(h * shrinks, SHORTEST_S)
        if (sooner := self._begins_to_hold(now, step, h, driving)) is not None:
            return None, sooner
        asked, speeds = (
            self._control.after(step.end, h) if self._control else (self._control.asked, self._control.speeds)
        )
        if _moved(self._control.speeds, speeds) > SPEED_STEP and h > SPEED_SHORTEST_S:
            return None, max(0.5 * h, SPEED_SHORTEST_S)
        grows = GROWS if worst == 0.0 else min(GROWS, SAFE * worst ** (-1 / 3))
        return (step, h, asked, speeds), h * max(grows, SHRINKS)

    def _begins_to_hold(self, now: _Now, step: TimeStep, h: float, driving: Driving) -> float | None:
        """A shorter step that ends where the central row's first place meets its limit, where one does within this one."""
        if self._holds is None or h <= 10 * SHORTEST_S:
            return None
        if (late := self._lag.crosses(now.T, step.end)) is not None:
            return max(late * h, SHORTEST_S)
        fresh = [s for s, share in step.kept.items() if share[0] < 1.0 and now.kept[s][0] >= 1.0]
        if not fresh:
            return None
        free = time_step(self._heat, self._capacity, now.T, h, Driving(**{**vars(driving), "holds": None}))
        at = self._holds.meets(now.T[0], free.end[0])
        return None if at is None or at > 0.98 else max(at * h, SHORTEST_S)

    def _advance(self, now: _Now, taken: tuple[TimeStep, float, Speeds, Speeds]) -> None:
        step, h, asked, speeds = taken
        self._warmed = self._room.warmed(self._warmed, self._put_in(now.power), h)
        now.t += h
        now.T, now.kept = step.end, step.kept
        self._control.asked, self._control.speeds = asked, speeds

    def _driving(self, now: _Now, h: float) -> Driving:
        """What drives the next step: the network as it is at its start, its flows going on as they did."""
        self._refresh(now, h)
        J, p = now.linear
        if now.older is not None:
            at, older = now.older
            assert now.passage is not None
            J = J + min(0.5 * h / (now.made_s - at), 1.0) * (now.passage.matrix - older)
        begin, finish = (self._bursts.shares(now.t + at) for at in (1e-9, h - 1e-9))
        start = self._power(now, self._times(begin, now.kept)) + p
        end = start.copy()
        for source, share in finish.items():
            more = (share - begin[source]) * now.kept.get(source, _WHOLE)
            if more.any():
                end += more[:, None] * self._watts[source]
        for power, at in ((start, 0.0), (end, h)):
            given = self._network.states.outside_c + self._room.over(self._begins_s + now.t + at, self._warmed)
            power[:, self._heat.given] = given
        watts = {s: begin.get(s, _WHOLE)[:, None] * self._watts[s] for s in now.kept}
        return Driving(J, start, end, now.kept, watts, self._holds and self._lag.holds(h, now.T))

    def _power(self, now: _Now, shares: Shares) -> Array:
        """Watts into the nodes at shares near those that they were last worked out for in full."""
        power = now.power
        for source, share in shares.items():
            more = share - now.shares.get(source, _WHOLE)
            if more.any():
                power = power + more[:, None] * self._watts[source]
        return power

    def _times(self, shares: Shares, kept: Shares) -> Shares:
        return {s: shares.get(s, _WHOLE) * kept.get(s, _WHOLE) for s in shares.keys() | kept.keys()}

    def _refresh(self, now: _Now, h: float) -> None:
        """Flows, films, watts and what is linear of them, where temperatures or speeds have moved enough."""
        moved = np.inf if now.passage is None else float(np.abs(now.T - now.made_at)[:, self._matters].max(initial=0.0))
        speeds = self._control.on_the_way(0.5 * h) if self._control else self._control.speeds
        turned = np.inf if now.passage is None else _moved(now.passage.speeds, speeds)
        near = (REFRESH * self._tolerance, TURNED) if h < LONG_S else (SETTLED_K, 1e-7)
        if moved < near[0] and turned <= near[1]:
            return
        before = now.passage
        now.shares = self._times(self._bursts.shares(now.t + 1e-9), now.kept)
        now.passage = self._network.frozen(now.T, speeds, now.shares, before)
        now.power = now.passage.power
        smooth = before is not None and now.t > now.made_s and turned < SPEED_STEP
        now.older = (now.made_s, before.matrix) if smooth and before is not None else None
        now.linear = self._heat.linear(now.T, now.passage.matrix, now.passage.laws)
        now.made_s, now.made_at = now.t, now.T

    def _watts_of_sources(self) -> Shares:
        """All watts of each source that bursts or may be held back on the nodes, (batch, node)."""
        network = self._network
        found = dict(network.throttling.full_power())
        for part in network.build.parts:
            if isinstance(part, Source) and part.id in self._bursts.sources - found.keys():
                found[part.id] = network.states.source_power(network.structure, part, network.states.watts(part.id))
        return found

    def _put_in(self, power: Array) -> Array:
        inside = np.ones(power.shape[1], dtype=bool)
        inside[self._heat.held] = False
        return np.asarray(power[:, inside].sum(axis=1))

    def _moment(self, now: _Now, begins_s: float) -> Moment:
        shares = self._times(self._bursts.shares(now.t + 1e-9), now.kept)
        return Moment(begins_s + now.t, now.T, dict(self._control.speeds), shares, now.kept)


def step_towards(until: float, h: float, refused: bool) -> float:
    """A step, s, that leaves no tiny one before what comes after ``until`` seconds.

    It may be stretched a little to end there, but not where a longer one was refused just now: that would be asked again.
    """
    if until <= h:
        return until
    if until - h >= 0.5 * h:
        return h
    return until if until <= 1.2 * h and not refused else 0.5 * until


def _moved(before: Speeds, now: Speeds) -> float:
    """By how much the speed that moved most has moved."""
    return max((float(np.abs(now[mover] - speed).max()) for mover, speed in before.items()), default=0.0)


def _air_on_its_way(network: CoupledNetwork) -> list[int]:
    """Nodes of air between zones."""
    flow = network.structure.air
    if flow is None:
        return []
    ends = np.concatenate([flow.junction_nodes, flow.active_nodes])
    return sorted(set(ends[ends >= 0].tolist()) - set(network.structure.zone_nodes.values()))


def _what_flows_hang_on(network: CoupledNetwork) -> Sequence[int]:
    """Nodes of fluids, zones and bodies, and those of links that follow their temperatures."""
    structure, links = network.structure, network.pattern.network.links
    nodes = {*structure.zone_nodes.values(), *structure.body_nodes.values(), *(item.node for item in structure.mixed)}
    nodes |= {*links.inner.tolist(), *links.outer.tolist()}
    for flow in (structure.coolant, structure.air):
        if flow is not None:
            ends = np.concatenate([flow.junction_nodes, flow.active_nodes, flow.tail_nodes, flow.head_nodes])
            nodes |= set(ends[ends >= 0].tolist())
    return sorted(nodes)
