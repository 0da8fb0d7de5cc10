"""What is colder than the dew point of the air around it gets wet: an outside station in winter, a cold loop in a warm room."""

from collections.abc import Iterator

from krill.document.build import Zone
from krill.physics.moist_air import dew_point, vapour_pressure
from krill.prediction.answer.result import Notice
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.notice import note, warning

#: relative humidity of air that belongs to no room, as rooms have by class
USUAL_HUMIDITY, USUAL_HALF = 0.5, 0.15


class _Air:
    """Water in the air of every zone, at the central humidity and at the upper end of its band."""

    def __init__(self, solved: Solved, row: int) -> None:
        self._solved, self._row = solved, row
        self.zones = {zone.id: zone for zone in solved.build.zones}
        self.outside = [zone for zone in solved.build.zones if zone.kind == "outside"]

    def temperature(self, zone: str) -> float:
        return float(self._solved.solution.temperature[self._row, self._solved.structure.zone_nodes[zone]])

    def humidity(self, zone: Zone, *, upper: bool) -> float:
        """Of an outside zone, 0..1."""
        figure = self._solved.table.figures.get(f"{zone.room}/humidity_share")
        value, half = (USUAL_HUMIDITY, USUAL_HALF) if figure is None else (figure.value, figure.tolerance.plus)
        return min(value + half if upper else value, 1.0)

    def dew(self, zone: str, *, upper: bool) -> float:
        """Dew point of a zone, C; a box holds the water of the dampest air that it breathes."""
        breathes = self._breathes(zone)
        return max(float(dew_point(self.temperature(o.id), self.humidity(o, upper=upper))) for o in breathes)

    def source(self, zone: str) -> Zone:
        """The outside zone whose water a zone's air holds."""
        return max(
            self._breathes(zone),
            key=lambda o: self.humidity(o, upper=False) * float(vapour_pressure(self.temperature(o.id))),
        )

    def _breathes(self, zone: str) -> list[Zone]:
        if self.zones[zone].kind == "outside":
            return [self.zones[zone]]
        paths = self._solved.build.air_paths
        ends = {end for path in paths if zone in (path.start, path.end) for end in (path.start, path.end)}
        return [other for other in self.outside if other.id in ends] or self.outside


def dew_notices(solved: Solved, case: int) -> Iterator[Notice]:
    """Every body and loop of a workload that stands colder than the dew point of an air around it."""
    row = solved.central(case)
    air = _Air(solved, row)
    for address, name, temperature, zone in _cold_things(solved, row):
        if temperature < air.dew(zone, upper=True):
            yield _notice(air, address, name, temperature, zone)


def _cold_things(solved: Solved, row: int) -> Iterator[tuple[str, str, float, str]]:
    """(address, name, C, zone) of bodies at each of their sides and of loops in the air of the boxes or of the room."""
    T = solved.solution.temperature[row]
    node_of = {node: zone for zone, node in solved.structure.zone_nodes.items()}
    for side in solved.network.pattern.sides:
        yield side.body.id, side.body.name or side.body.id, float(T[side.node]), node_of[side.zone]
    flow = solved.structure.coolant
    boxes = [zone.id for zone in solved.build.zones if zone.kind == "box"]
    around = boxes or [zone.id for zone in solved.build.zones][:1]
    for loop in solved.build.loops if flow is not None else []:
        assert flow is not None
        coldest = float(T[flow.nodes_of(loop.id)].min())
        for zone in around:
            yield loop.id, f"The coolant of {loop.name or loop.id}", coldest, zone


def _notice(air: _Air, address: str, name: str, temperature: float, zone: str) -> Notice:
    central = air.dew(zone, upper=False)
    wet = temperature < central
    humidity = 100 * air.humidity(air.source(zone), upper=not wet)
    point = central if wet else air.dew(zone, upper=True)
    where = air.zones[zone].name or zone
    told = (
        f"{name} is {temperature:.0f} °C, under the dew point of {where}, {point:.0f} °C at {humidity:.0f} % humidity"
    )
    if wet:
        return warning(address, f"{told}: water comes down on it and runs where it may short something.")
    return note(address, f"{told}, the damp end of what is stated: water may come down on it.")
