"""What happens in a machine that somebody logs: loads, temperatures of two and three constants, watts, clocks, speeds."""

from dataclasses import dataclass, field

import numpy as np

DEAD = (0.0, 127.0, -127.0, 128.0, 255.0)
SOURCES = ("processor", "graphics")


@dataclass
class MadeColumn:
    """A channel as it is in truth: values in ``unit``; ``settled`` one figure a load where it is a temperature."""

    kind: str
    part: str
    unit: str
    values: np.ndarray
    digits: int = 1
    settled: list[float] = field(default_factory=list)
    dead: bool = False
    name: str = ""
    spelled: str = ""
    factor: float = 1.0
    offset: float = 0.0
    from_row: int = 0
    resolution: float = 0.0
    read_as: str = ""


@dataclass
class Machine:
    """One evening: seconds, loads as (start, end), the state of each source (row,), 0 or 1."""

    rng: np.random.Generator
    interval_s: float
    several: bool

    def __post_init__(self) -> None:
        rng, minute = self.rng, 60.0
        states = ["both"] if not self.several else ["processor", "graphics", "both"]
        now, self.loads = rng.uniform(3, 8) * minute, []
        for _ in states:
            length = rng.uniform(14, 25) * minute if self.several else rng.uniform(20, 60) * minute
            self.loads.append((now, now + length))
            now += length + (rng.uniform(3, 6) * minute if self.several else 0.0)
        end = self.loads[-1][1] + float(rng.choice([0.0, rng.uniform(2, 8)])) * minute
        self.time_s = np.arange(0.0, end, self.interval_s)
        self.on = {source: np.zeros_like(self.time_s) for source in SOURCES}
        for state, (start, stop) in zip(states, self.loads, strict=True):
            for source in SOURCES:
                if state in (source, "both"):
                    self.on[source][(self.time_s >= start) & (self.time_s < stop)] = 1.0
        # a room that drifts and that nobody logged would have no one settled value to be right about
        self.room_logged = rng.random() < 0.6
        drift = rng.uniform(-0.4, 0.4) if self.room_logged else 0.0
        self.room = rng.uniform(17, 30) + drift * self.time_s / self.time_s[-1]

    def columns(self, watts: bool, busy: bool, cores: int) -> list[MadeColumn]:
        """What was logged of it."""
        return [
            *self._temperatures(cores),
            *self._of_sources(watts, busy),
            *self._movers(),
            *self._others(),
        ]

    def _noisy(self, values, share=0.0, absolute=0.0):
        return values * (1 + share * self.rng.standard_normal(len(values))) + absolute * self.rng.standard_normal(
            len(values)
        )

    def _temperature(self, part: str, rises: dict[str, list[tuple[float, float]]]) -> MadeColumn:
        """``rises`` by source: K at load and seconds of each constant."""
        values = self.room.copy()
        settled = [float(np.mean(self.room[(self.time_s >= a) & (self.time_s < b)])) for a, b in self.loads]
        for source, constants in rises.items():
            for kelvins, tau in constants:
                values += kelvins * followed(self.on[source], self.time_s, tau)
            for i, (start, stop) in enumerate(self.loads):
                middle = np.searchsorted(self.time_s, (start + stop) / 2)
                settled[i] += self.on[source][middle] * sum(k for k, _ in constants)
        step = float(self.rng.choice([0.1, 0.5, 1.0]))
        values = np.round(self._noisy(values, absolute=0.1) / step) * step
        return MadeColumn("temperature", part, "°C", values, int(step < 1.0), settled, resolution=step)

    def _rise(self, total: float) -> list[tuple[float, float]]:
        rng = self.rng
        fast = rng.uniform(0.4, 0.6)
        slow = total * (1 - fast)
        first = (total * fast, rng.uniform(10, 40))
        if rng.random() < 0.4:
            return [first, (slow * 0.7, rng.uniform(150, 260)), (slow * 0.3, rng.uniform(500, 700))]
        return [first, (slow, rng.uniform(180, 500))]

    def _temperatures(self, cores: int) -> list[MadeColumn]:
        rng = self.rng
        columns = [
            self._temperature(
                "processor", {"processor": self._rise(rng.uniform(25, 50)), "graphics": [(rng.uniform(2, 8), 400.0)]}
            ),
            self._temperature(
                "graphics", {"graphics": self._rise(rng.uniform(25, 50)), "processor": [(rng.uniform(1, 4), 400.0)]}
            ),
        ]
        for number in range(cores):
            own = columns[0].values - round(rng.uniform(1, 5)) - number
            columns.append(MadeColumn("temperature", "core", "°C", own, columns[0].digits, name=f"Core {number}"))
        slow = [(rng.uniform(5, 15), rng.uniform(300, 700))]
        for part in ("memory", "drive", "regulators", "supply", "box"):
            if rng.random() < 0.45:
                columns.append(self._temperature(part, {"processor": slow, "graphics": slow}))
        if rng.random() < 0.5:
            columns.append(self._temperature("coolant", {source: [(rng.uniform(3, 8), 350.0)] for source in SOURCES}))
        if self.room_logged:
            columns.append(self._temperature("room", {}))
            columns[-1].settled = []
        return columns

    def _of_sources(self, watts: bool, busy: bool) -> list[MadeColumn]:
        rng, columns, total = self.rng, [], 40.0
        for source, (low, high) in {"processor": (60, 180), "graphics": (100, 320)}.items():
            idle, full = rng.uniform(6, 25), rng.uniform(low, high)
            drawn = idle + (full - idle) * self.on[source]
            total = total + drawn / 0.9
            if watts:
                columns.append(MadeColumn("power", source, "W", np.round(np.maximum(self._noisy(drawn, 0.02), 0.1), 1)))
            if busy:
                used = np.clip(self._noisy(3 + 95 * self.on[source], absolute=1.0), 0, 100)
                columns.append(MadeColumn("load", source, "%", np.round(used), 0))
            if rng.random() < 0.4:
                clock = np.round(self._noisy(900 + 3300 * self.on[source], absolute=15.0))
                columns.append(MadeColumn("clock", source, "MHz", clock, 0))
        if rng.random() < 0.3:
            columns.append(MadeColumn("power", "wall", "W", np.round(self._noisy(total, 0.01), 1)))
        return columns

    def _movers(self) -> list[MadeColumn]:
        rng, columns = self.rng, []
        both = (self.on["processor"] + self.on["graphics"]) / 2
        if rng.random() < 0.6:
            turns = self._noisy(700 + 700 * followed(both, self.time_s, 60.0), absolute=8.0)
            columns.append(MadeColumn("speed", "fan", "rpm", np.round(turns), 0))
        if rng.random() < 0.35:
            turns = self._noisy(np.full_like(self.time_s, 2600.0), absolute=12.0)
            columns.append(MadeColumn("speed", "pump", "rpm", np.round(turns), 0))
        if rng.random() < 0.25:
            flow = self._noisy(np.full_like(self.time_s, 3.4), absolute=0.05)
            columns.append(MadeColumn("flow", "coolant", "l/min", np.round(flow, 2), 2))
        return columns

    def _others(self) -> list[MadeColumn]:
        rng, columns = self.rng, []
        if rng.random() < 0.25:
            volts = self._noisy(np.full_like(self.time_s, 12.0), absolute=0.03)
            columns.append(MadeColumn("voltage", "", "V", np.round(volts, 3), 3))
        if rng.random() < 0.3:
            dead = np.full_like(self.time_s, float(rng.choice(DEAD)))
            name = str(rng.choice(["Sensor 3", "T4", "AUX", "Temp 2"]))
            columns.append(MadeColumn("temperature", "", "°C", dead, 0, dead=True, name=name))
        return columns


def followed(state, time_s, tau):
    """First-order answer to a row of 0 and 1, exact between rows."""
    kept = np.exp(-(time_s[1] - time_s[0]) / tau)
    found, now = np.empty(len(time_s)), 0.0
    for i in range(len(time_s)):
        found[i] = now
        now = state[i] + (now - state[i]) * kept
    return found
