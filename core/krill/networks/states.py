"""States of the machine over a batch: watts of each source, speeds of each mover, temperatures outside.

The batch is the flat product case x sample: sample s of case c stands in row c * samples + s.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.components.supplies import carriers, loss_w
from krill.document.addresses import watts_address
from krill.document.build import Build, Command, FanCurve, Workload, Zone
from krill.document.parts import Fan, Mover, Pump, Source, Supply
from krill.document.solids import Panel, Sink
from krill.networks.pattern import ThermalPattern
from krill.networks.pursuit import Pursuit
from krill.networks.structure import Structure
from krill.physics.atmosphere import standard_pressure

Array = NDArray[np.float64]

PUMP_POWER_EXPONENT = 2.5
FAN_POWER_EXPONENT = 3.0


STOPPED = Command(off=True)
#: by source, (batch,): the share of its watts that one which throttles is left with
Shares = dict[str, Array]
#: where draws of the first room's temperature stand; one that is NaN leaves the room as it is asked for
ROOM_ADDRESS = "asked/room_c"


def duty_address(mover: str) -> str:
    """Where the draws of a mover's duty stand; one that is NaN leaves the mover as the workload tells it."""
    return f"movers/{mover}"


def sensor_nodes(structure: Structure, sensor: str) -> list[int]:
    """Nodes that a sensor in a place, zone or loop reads the warmest of; none where it reads no temperature."""
    own = [i for i, name in enumerate(structure.node_names) if name == sensor]
    return own or [i for i, name in enumerate(structure.node_names) if name.startswith(f"{sensor}/junction")]


@dataclass(frozen=True)
class Case:
    """One question: a workload in a room at a temperature; ``stopped`` movers stand still whatever they are told.

    Places that throttle do so unless ``throttles`` is off: a machine is sized for all of its watts.
    """

    workload: Workload
    room_c: float
    altitude_m: float = 0.0
    stopped: frozenset[str] = frozenset()
    throttles: bool = True


class MachineStates:
    """What the cases ask of a build, as arrays over the batch."""

    def __init__(self, build: Build, cases: list[Case], samples: int, values: Values) -> None:
        self.build = build
        self.cases = cases
        self.samples = samples
        self.values = values
        self.cores = np.repeat(np.array([case.workload.cores for case in cases]), self.samples)
        self.pressure_pa = standard_pressure(self._by_case([case.altitude_m for case in cases]))
        outside = [zone for zone in build.zones if zone.kind == "outside"]
        columns = [self._outside(zone) for zone in outside]
        self.outside_c = np.stack(columns, axis=1) if columns else np.zeros((values.batch, 0))
        self._watts: dict[str, Array] = {}
        self._followed: dict[str, Pursuit] = {}
        self.movers = [part for part in build.parts if isinstance(part, Mover)]

    @property
    def follows_temperature(self) -> bool:
        """Whether any mover's speed depends on a solved temperature."""
        return any(command.curve for case in self.cases for command in case.workload.movers.values())

    def _by_case(self, per_case: list[float]) -> Array:
        return np.repeat(np.asarray(per_case, dtype=np.float64), self.samples)

    def _outside(self, zone: Zone) -> Array:
        """Own temperature, or the asked room where the zone refers to the build's first room."""
        if zone.room is not None and zone.room == self.build.rooms[0].id:
            asked, drawn = self._by_case([case.room_c for case in self.cases]), self.values.drawn(ROOM_ADDRESS)
            asked = asked + self._room_doubt(zone.room)
            return asked if drawn is None else np.where(np.isnan(drawn), asked, drawn)
        address = f"{zone.room or zone.id}/air_c"
        return np.broadcast_to(self.values(address), (self.values.batch,)).astype(np.float64)

    @property
    def may_throttle(self) -> NDArray[np.bool_]:
        """Rows whose places throttle where they are told to, (batch,)."""
        return self._by_case([float(case.throttles) for case in self.cases]) > 0

    def _room_doubt(self, room: str) -> Array | float:
        """What the room is drawn beside its stated temperature, K (batch,): whatever temperature is asked for."""
        drawn = self.values.drawn(f"{room}/air_c")
        return 0.0 if drawn is None else drawn - drawn[0]

    def watts(self, source: str) -> Array:
        """Heat of a source in each case that does not throttle, W (batch,); worked out once."""
        if source not in self._watts:
            self._watts[source] = self._watts_of(source)
        return self._watts[source]

    def _watts_of(self, source: str) -> Array:
        whole, pieces = self._whole_of(source), []
        for index, case in enumerate(self.cases):
            value = self.values(watts_address(case.workload.id, source), 0.0)
            rows = slice(index * self.samples, (index + 1) * self.samples)
            pieces.append(np.broadcast_to(value, (self.values.batch,))[rows])
        return np.concatenate(pieces) * whole

    def _whole_of(self, source: str) -> Array:
        """All heat of a source over the watts that are told: those of its chip alone are the share of its first place."""
        part = self.build.part(source)
        if not isinstance(part, Source) or part.power_kind != "chip" or len(part.places) == 1:
            return np.asarray(1.0)
        return 1.0 / np.maximum(self.values(f"{part.places[0].id}/power_share", 1.0), 1e-3)

    def speeds(self, T: Array, structure: Structure, last: dict[str, Array] | None) -> dict[str, Array]:
        """Share of rated speed of every mover, (batch,), at node temperatures T."""
        found = {}
        for mover in self.movers:
            pieces = []
            for index, case in enumerate(self.cases):
                rows = slice(index * self.samples, (index + 1) * self.samples)
                command = STOPPED if mover.id in case.stopped else case.workload.movers.get(mover.id)
                old = None if last is None else last[mover.id][rows]
                pieces.append(self._speed(mover, command, T[rows], structure, old, rows))
            found[mover.id] = np.concatenate(pieces)
            drawn = self.values.drawn(duty_address(mover.id))
            if drawn is not None:
                told = self._duty(mover, np.nan_to_num(drawn), slice(None))
                found[mover.id] = np.where(np.isnan(drawn), found[mover.id], told)
        return found

    def asked_speeds(self, T: Array, structure: Structure) -> tuple[dict[str, Array], dict[str, Array]]:
        """What the commands ask of every mover at T, (batch,): once it has warmed to T, and once it has cooled to T.

        Between the two a curve with hysteresis leaves a mover as it runs.
        """
        warmed = self.speeds(T, structure, None)
        cooled = dict(warmed)
        curves = {
            (mover.id, case): command.curve
            for case, asked in enumerate(self.cases)
            for mover in self.movers
            if (command := asked.workload.movers.get(mover.id)) is not None and command.curve is not None
        }
        for hysteresis in {float(curve.hysteresis_k) for curve in curves.values() if curve.hysteresis_k}:
            later = self.speeds(T + hysteresis, structure, None)
            for (mover, case), curve in curves.items():
                if float(curve.hysteresis_k) == hysteresis:
                    rows = slice(case * self.samples, (case + 1) * self.samples)
                    cooled[mover] = cooled[mover].copy()
                    cooled[mover][rows] = later[mover][rows]
        return warmed, cooled

    def _speed(
        self, mover: Mover, command: Command | None, T: Array, structure: Structure, old: Array | None, rows: slice
    ) -> Array:
        count = T.shape[0]
        if command is None:
            return np.ones(count)
        if command.off:
            return np.zeros(count)
        if command.speed_rpm is not None:
            rated = np.broadcast_to(self.values(f"{mover.id}/rated_rpm"), (self.values.batch,))[rows]
            return np.asarray(float(command.speed_rpm) / rated)
        if command.curve is not None:
            wanted = self._duty(mover, self._on_curve(command.curve, T, structure, rows), rows)
            return wanted if old is None else self._towards(f"{mover.id}/{rows.start}", old, wanted)
        return self._duty(mover, np.full(count, float(command.duty or 0.0)), rows)

    def _towards(self, key: str, old: Array, wanted: Array) -> Array:
        """The next speed on the way to where curve and machine agree."""
        pursuit = self._followed.setdefault(key, Pursuit(old.shape))
        return pursuit.next(old, wanted)

    def _duty(self, mover: Mover, duty: Array, rows: slice) -> Array:
        """Speed share of a duty by the fan's own map, else equal to it; a fan below its start duty stands still."""
        if isinstance(mover, Fan):
            start = np.broadcast_to(self.values(f"{mover.id}/start_duty", 0.0), (self.values.batch,))[rows]
            speed = duty
            if mover.duty_speed:
                at, share = np.asarray(sorted(mover.duty_speed), dtype=np.float64).T
                speed = np.interp(duty, at, share)
            return np.where(duty < 0.9 * start, 0.0, speed)
        return duty

    def _on_curve(self, curve: FanCurve, T: Array, structure: Structure, rows: slice) -> Array:
        at, duty = np.asarray(curve.points, dtype=np.float64).T
        supply = next((p for p in self.build.parts if isinstance(p, Supply) and p.id == curve.sensor), None)
        if supply is not None:
            return np.asarray(np.interp(100.0 * self.load_share(supply)[rows], at, duty))
        sensed = np.max(T[:, sensor_nodes(structure, curve.sensor)], axis=1)
        return np.asarray(np.interp(sensed, at, duty))

    def mover_watts(self, mover: Mover, speed: Array) -> Array:
        """Electric power at a share of rated speed."""
        exponent = PUMP_POWER_EXPONENT if isinstance(mover, Pump) else FAN_POWER_EXPONENT
        return np.asarray(self.values(f"{mover.id}/power_w", 0.0) * speed**exponent)

    def _carried(self, supply: Supply, watts: dict[str, Array]) -> Array:
        """Of the watts of parts what a supply carries, (batch,); supplies that carry one part share it evenly."""
        found = np.zeros(self.values.batch)
        for part_id, asked in watts.items():
            sharing = carriers(self.build, self.build.part(part_id))
            if supply in sharing:
                found = found + asked / len(sharing)
        return found

    def _sources_w(self, kept: Shares) -> dict[str, Array]:
        sources = [part.id for part in self.build.parts if isinstance(part, Source)]
        return {source: self.watts(source) * kept.get(source, 1.0) for source in sources}

    def load_share(self, supply: Supply) -> Array:
        """Watts of the sources that a supply carries over its rating, (batch,)."""
        return np.asarray(self._carried(supply, self._sources_w({})) / self.values(f"{supply.id}/rating_w", 500.0))

    def supply_load(self, supply: Supply, speeds: dict[str, Array], kept: Shares) -> Array:
        """Watts asked of a supply, (batch,): the sources, fans and pumps that it carries; ``kept`` of those that throttle."""
        movers = {part.id: self.mover_watts(part, speeds[part.id]) for part in self.movers}
        return self._carried(supply, self._sources_w(kept) | movers)

    def supply_loss(self, supply: Supply, speeds: dict[str, Array], kept: Shares) -> Array:
        """What a supply turns into heat at what it carries, W (batch,)."""
        return loss_w(supply, self.supply_load(supply, speeds, kept), self.values)

    def source_power(self, structure: Structure, part: Source | Supply, watts: Array) -> Array:
        """Watts of a part on its places by their shares; what no place names goes into the box. (batch, node)"""
        power = np.zeros((self.values.batch, structure.nodes))
        spare = self._spare_node(structure)
        shares = [self.values(f"{place.id}/power_share", 1.0) for place in part.places]
        total = np.maximum(sum(shares, np.zeros(1)), 1e-9)
        each = watts / np.maximum(total, 1.0)
        for place, share in zip(part.places, shares, strict=True):
            power[:, structure.node_of[place.id]] += each * share
        if spare is not None:
            power[:, spare] += watts * np.maximum(1.0 - total, 0.0)
        return power

    def node_power(
        self, structure: Structure, speeds: dict[str, Array], pattern: ThermalPattern, kept: Shares
    ) -> Array:
        """Watts into each heat node; given temperatures at the outside ones. (batch, node)

        ``kept`` is the share of its watts that each source which throttles is left with, (batch,).
        """
        power = np.zeros((self.values.batch, structure.nodes))
        spare = self._spare_node(structure)
        for part in self.build.heat_sources():
            if isinstance(part, Supply):
                watts = self.supply_loss(part, speeds, kept)
            else:
                watts = self.watts(part.id) * kept.get(part.id, 1.0)
            power += self.source_power(structure, part, watts)
        for mover in self.movers:
            self._add_mover(power, structure, mover, self.mover_watts(mover, speeds[mover.id]), spare)
        for body, watts in self.sun_watts().items():
            power[:, structure.body_nodes[body]] += watts
        power[:, pattern.given] = self.outside_c
        return power

    def sun_watts(self) -> dict[str, Array]:
        """What bodies take up of the sun on the face that they turn outside, W by their ids."""
        outside = {zone.id for zone in self.build.zones if zone.kind == "outside"}
        found: dict[str, Array] = {}
        for part in self.build.parts:
            if isinstance(part, Panel | Sink) and part.outside in outside and self.values.has(f"{part.id}/sun_w_m2"):
                other = "height_mm" if isinstance(part, Panel) else "length_mm"
                area = self.values(f"{part.id}/width_mm") * self.values(f"{part.id}/{other}")
                found[part.id] = np.asarray(self.values(f"{part.id}/sun_w_m2") * area)
        return found

    def _add_mover(self, power: Array, structure: Structure, mover: Mover, watts: Array, spare: int | None) -> None:
        share: Array = np.asarray(1.0)
        flow = structure.air
        if isinstance(mover, Pump):
            share, flow = np.minimum(self.values(f"{mover.id}/coolant_share"), 1.0), structure.coolant
        if flow is not None and mover.id in flow.parts:
            power[:, flow.active_nodes[flow.parts.index(mover.id)]] += share * watts
            watts = (1.0 - share) * watts
        if spare is not None:
            power[:, spare] += watts

    def _spare_node(self, structure: Structure) -> int | None:
        """Where heat goes that no part names: the first box's air, else the first zone."""
        boxes = [zone.id for zone in self.build.zones if zone.kind == "box"] or [z.id for z in self.build.zones]
        return structure.zone_nodes[boxes[0]] if boxes else None
