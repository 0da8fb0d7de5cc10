"""What a build offers to vary, to map over and to solve for, in the order that decides most; and the questions asked most."""

from collections.abc import Iterator
from dataclasses import replace
from typing import Any, Final

from krill.catalogue.classes import alike
from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build, Room, Workload, leaves
from krill.document.figures import detail
from krill.document.part_base import Part
from krill.document.parts import Fan, Opening, Plate, Pump, Radiator, Source, Supply
from krill.document.quantities import Quantity, figures_of, quantities
from krill.document.solids import HeatPipe, Interface, Panel, Sink
from krill.errors import DocumentRefused, Problem
from krill.sizing.locks import is_free
from krill.sizing.result import (
    OfferedAxis,
    OfferedNumber,
    OfferedOption,
    OfferedQuestion,
    OfferedUnknown,
    Offers,
)
from krill.sizing.room_varied import SIDES, growing_slots
from krill.sizing.steps.power import has_power_limit
from krill.sizing.steps.step import rounded
from krill.sizing.varied import DUTY, room_address

POWER_SHARES: Final = (0.7, 0.8, 0.9, 1.0)
#: sizes of a sink that are tried, as shares of what it has
GROWN: Final = {
    "fin_height_mm": (0.6, 0.8, 1.0, 1.25, 1.5, 2.0),
    "fin_pitch_mm": (0.6, 0.8, 1.0, 1.25, 1.5),
    "length_mm": (0.8, 1.0, 1.2, 1.5),
    "base_mm": (0.75, 1.0, 1.5),
}
SECTIONS, PIPES = range(1, 7), range(1, 7)
POSITIONS: Final = (
    ((0, 0, -1), "as it is drawn"),
    ((0, 0, 1), "upside down"),
    ((-1, 0, 0), "on its left side"),
    ((0, -1, 0), "on its front"),
)
#: a slot or a side of the housing is tried with so much more, mm
LONGER_MM: Final = (0.0, 5.0, 10.0, 20.0, 40.0)
#: lengths and resistances of a part that a map may run over
MAPPED_UNITS: Final = ("mm", "cm²", "m", "mm²·K/W", "K/W")
#: what a study of a water loop, or of solids, begins with
FIRST_WATER: Final = ("sections", "thickness_mm", "fans/class", "movers/fans", "movers/pumps")
#: what a box and a loop are asked to stay below
BOX_RISE_K: Final = 6.0
COOLANT_RISE_K: Final = 10.0
FIRST_SOLID: Final = ("fin_height_mm", "fin_pitch_mm", "count")


def offers_of(build: Build, workload: str, place: str | None = None) -> Offers:
    """Everything that may be asked of a build in a workload; questions about ``place`` where one is named.

    DocumentRefused names a workload or a place that is not there.
    """
    told = next((item for item in build.workloads if item.id == workload), None)
    if told is None:
        known = ", ".join(item.id for item in build.workloads) or "(there is no workload)"
        raise DocumentRefused([Problem(f"workloads/{workload}", "there is no such workload", known)])
    if place is not None and place not in build.place_owners():
        raise DocumentRefused([Problem(f"place/{place}", "there is no such place", ", ".join(build.place_owners()))])
    table = FigureTable(build)
    return Offers(
        workload=workload,
        axes=_with_first([axis for axis in _axes(build, table, told) if is_free(build, table, axis.address)]),
        numbers=list(_numbers(build, table, told)),
        unknowns=[one for one in _unknowns(build, table, told) if is_free(build, table, one.address)],
        questions=[one for one in _questions(build, told, place) if is_free(build, table, one.address)],
    )


def _name(part: Part) -> str:
    return part.name or part.id


def _axes(build: Build, table: FigureTable, told: Workload) -> Iterator[OfferedAxis]:
    for part in build.parts:
        if isinstance(part, Radiator) and not part.points:
            yield from _of_radiator(part)
    for part in build.parts:
        if isinstance(part, Sink):
            yield from _of_sink(table, part)
    yield from _of_movers(build)
    for part in build.parts:
        if isinstance(part, HeatPipe):
            yield _choices(f"{part.id}/count", f"{_name(part)}: how many", [(n, str(n)) for n in PIPES])
    for part in build.parts:
        if isinstance(part, Plate | Interface):
            yield from _of_class(part)
    yield _choices("housing/gravity", "How the housing stands", [(list(g), name) for g, name in POSITIONS])
    yield from _of_slots(build)
    for source, figure in told.watts.items():
        now = float(detail(figure).value)
        if has_power_limit(build.part(source), now):
            watts = [(round(now * share), f"{round(now * share)} W") for share in POWER_SHARES]
            yield _range(watts_address(told.id, source), f"{_name(build.part(source))}: power limit", watts, "W")


def _of_slots(build: Build) -> Iterator[OfferedAxis]:
    """Gaps of slots, and the sides of the housing that make some of them longer."""
    for slot in build.slots:
        now = float(detail(slot.gap_mm).value)
        yield _range(f"{slot.id}/gap_mm", f"{slot.name or slot.id}: gap", _longer(now), "mm")
    size = build.housing.inner_size_mm
    if size is None:
        return
    for side, (axis, _, _) in SIDES.items():
        if growing_slots(build, side):
            name = f"Housing: {side.removesuffix('_mm')} inside"
            yield _range(f"housing/{side}", name, _longer(float(size[axis])), "mm")


def _longer(now: float) -> list[tuple[float, str]]:
    return [(rounded(now + more, 6), f"{now + more:g} mm") for more in LONGER_MM]


def _choices(address: str, name: str, options: list[tuple[Any, str]], unit: str = "") -> OfferedAxis:
    made: list[OfferedOption] = [OfferedOption(value=value, label=label) for value, label in options]
    return OfferedAxis(address=address, name=name, unit=unit, range=False, first=False, options=made)


def _range(address: str, name: str, options: list[tuple[Any, str]], unit: str) -> OfferedAxis:
    return replace(_choices(address, name, options, unit), range=True)


def _duties(address: str, name: str, low: float, high: float, count: int) -> OfferedAxis:
    values = [round(low + (high - low) * step / (count - 1), 3) for step in range(count)]
    return _range(address, name, [(value, f"{100 * value:.0f} %") for value in values], "")


def _of_radiator(part: Radiator) -> Iterator[OfferedAxis]:
    sections = [(n, f"{n} × {float(part.section_mm):g}") for n in SECTIONS]
    yield _choices(f"{part.id}/sections", f"{_name(part)}: sections, a fan on each", sections)
    made = quantities(Radiator)["thickness_mm"].options
    yield _choices(f"{part.id}/thickness_mm", f"{_name(part)}: thickness", [(n, f"{n} mm") for n in made], "mm")


def _of_sink(table: FigureTable, part: Sink) -> Iterator[OfferedAxis]:
    for field, shares in GROWN.items():
        figure, quantity = table.figures.get(f"{part.id}/{field}"), figures_of(Sink)[field]
        if figure is None or getattr(part, field) is None:
            continue
        values = list(dict.fromkeys(rounded(figure.in_units * share, 2) for share in shares))
        options = [(value, f"{value:g} mm") for value in values]
        yield _range(f"{part.id}/{field}", f"{_name(part)}: {quantity.label}", options, quantity.unit)


def _of_movers(build: Build) -> Iterator[OfferedAxis]:
    fans = [part for part in build.parts if isinstance(part, Fan)]
    pumps = [part for part in build.parts if isinstance(part, Pump)]
    like = alike(fans[0].class_) if fans else []
    if len(like) > 1:
        yield _choices("fans/class", "All fans: which", [(item.id, item.name) for item in like])
    if fans:
        yield _duties("movers/fans", "All fans: duty", 0.3, 1.0, 15)
    for path in build.air_paths:
        own = [fan for fan in fans if fan.id in leaves(path.elements)]
        if own and len(own) < len(fans):
            yield _duties(f"movers/{path.id}", f"{path.name or path.id}: duty", 0.3, 1.0, 8)
    if pumps:
        yield _duties("movers/pumps", "Pump: duty", 0.4, 1.0, 3)
        like = alike(pumps[0].class_) or alike("pump_standard")
        yield _choices("pumps/class", "Pump: which", [(item.id, item.name) for item in like])


def _of_class(part: Plate | Interface) -> Iterator[OfferedAxis]:
    like = alike(part.class_)
    if len(like) > 1:
        name = _name(part) if isinstance(part, Plate) else f"{_name(part)} ({part.id})"
        yield _choices(f"{part.id}/class", name, [(item.id, item.name) for item in like])


def _with_first(axes: list[OfferedAxis]) -> list[OfferedAxis]:
    """The same, those that a study begins with marked: sizes, fans and their speed."""

    def named(endings: tuple[str, ...]) -> list[OfferedAxis]:
        return [axis for axis in axes if any(axis.address.endswith(ending) for ending in endings)]

    water = [found[0] for ending in FIRST_WATER if (found := named((ending,)))]
    solid = named(FIRST_SOLID)[: len(FIRST_SOLID)]
    chosen = water if named(("/sections",)) else solid or water or axes[:2]
    return [replace(axis, first=axis in chosen) for axis in axes]


def _number(address: str, name: str, unit: str, low: float, high: float, *, whole: bool = False) -> OfferedNumber:
    low, high = rounded(low), rounded(high)
    return OfferedNumber(address=address, name=name, unit=unit, low=low, high=high, whole=whole)


def _numbers(build: Build, table: FigureTable, told: Workload) -> Iterator[OfferedNumber]:
    yield from _whole_and_duties(build)
    yield _number(room_address(build), f"{build.rooms[0].name or 'Room'}: air", "°C", 10, 40)
    for source, figure in told.watts.items():
        now = float(detail(figure).value)
        if now > 0:
            name = f"{_name(build.part(source))}: watts"
            yield _number(watts_address(told.id, source), name, "W", 0.4 * now, 1.6 * now)
    for part in build.parts:
        for field, quantity in _mapped(part):
            now = table.figures[f"{part.id}/{field}"].in_units
            if now > 0:
                name = f"{_name(part)}: {quantity.label}"
                yield _number(f"{part.id}/{field}", name, quantity.unit, 0.5 * now, 2 * now)


def _whole_and_duties(build: Build) -> Iterator[OfferedNumber]:
    if any(isinstance(part, Fan) for part in build.parts):
        yield _number("movers/fans", "All fans: duty", "", 0.3, 1.0)
    for part in build.parts:
        if isinstance(part, Radiator) and not part.points:
            yield _number(f"{part.id}/sections", f"{_name(part)}: sections", "", 1, SECTIONS[-1], whole=True)
    if any(isinstance(part, Pump) for part in build.parts):
        yield _number("movers/pumps", "Pump: duty", "", 0.3, 1.0)
    for part in build.parts:
        if isinstance(part, HeatPipe):
            yield _number(f"{part.id}/count", f"{_name(part)}: how many", "", 1, 8, whole=True)


def _mapped(part: Part) -> Iterator[tuple[str, Quantity]]:
    """Figures of a part that somebody stated and that a map may run over."""
    if isinstance(part, Source | Supply):
        return
    for field, quantity in figures_of(type(part)).items():
        drawn = field != "thickness_mm" or isinstance(part, Panel)
        if getattr(part, field) is not None and quantity.unit in MAPPED_UNITS and drawn:
            yield field, quantity


def _unknowns(build: Build, table: FigureTable, told: Workload) -> Iterator[OfferedUnknown]:
    movers = [build.part(mover) for mover, command in told.movers.items() if command.duty is not None]
    if any(isinstance(part, Fan) for part in movers):
        yield OfferedUnknown(address="movers/fans", name="All fans: duty")
    for part in movers:
        yield OfferedUnknown(address=f"movers/{part.id}", name=f"{_name(part)}: {DUTY.label}")
    yield OfferedUnknown(address=room_address(build), name=f"{build.rooms[0].name or 'Room'}: air")
    for source in told.watts:
        yield OfferedUnknown(address=watts_address(told.id, source), name=f"{_name(build.part(source))}: watts")
    for part in build.parts:
        stated_by_points = isinstance(part, Radiator) and part.points is not None
        for field, quantity in quantities(type(part)).items():
            if quantity.whole and not stated_by_points:
                yield OfferedUnknown(address=f"{part.id}/{field}", name=f"{_name(part)}: {quantity.label}")
    for address, figure in table.figures.items():
        owner = build.owner(address.split("/")[0])
        if figure.quantity.varies and owner is not None and not isinstance(owner, Workload | Room):
            name = getattr(owner, "name", "") or address.split("/")[0]
            yield OfferedUnknown(address=address, name=f"{name}: {figure.quantity.label}")


def _of_what_is_shared(build: Build) -> Iterator[OfferedQuestion]:
    """The opening for a box that stays cool, the radiator for a loop that does (common practice: 6 and 10 K over the room)."""
    openings = [part for part in build.parts if isinstance(part, Opening) and part.face is not None]
    box = next((zone for zone in build.zones if zone.kind == "box"), None)
    if openings and box is not None:
        widest = max(openings, key=lambda part: float(detail(part.area_cm2).value))
        yield OfferedQuestion(
            says=f"area of {_name(widest)} for {box.name or box.id} {BOX_RISE_K:g} K over the room",
            address=f"{widest.id}/area_cm2",
            goal="rise",
            of=box.id,
            wanted=BOX_RISE_K,
        )
    radiator = next((part for part in build.parts if isinstance(part, Radiator) and not part.points), None)
    if radiator is not None and build.loops:
        yield OfferedQuestion(
            says=f"sections of {_name(radiator)} for coolant {COOLANT_RISE_K:g} K over the room",
            address=f"{radiator.id}/sections",
            goal="rise",
            of=build.loops[0].id,
            wanted=COOLANT_RISE_K,
        )


def _questions(build: Build, told: Workload, place: str | None) -> Iterator[OfferedQuestion]:
    """About the ceiling of the workload, and what keeps the margin wanted of a place."""
    fans = any(
        command.duty is not None and isinstance(build.part(mover), Fan) for mover, command in told.movers.items()
    )
    ceiling = told.sound_ceiling_dba
    if fans and ceiling is not None:
        yield OfferedQuestion(
            says=f"fan speed for {float(ceiling):g} dBA",
            address="movers/fans",
            goal="level",
            of="",
            wanted=float(ceiling),
        )
    if place is None:
        return
    wanted = float(build.brief.margin_wanted_k)
    keeps = f"{build.place_owners()[place][0].name or place} keeps {wanted:g} K"

    def margin(says: str, address: str) -> OfferedQuestion:
        return OfferedQuestion(says=says, address=address, goal="margin", of=str(place), wanted=wanted)

    yield margin(f"hottest room in which {keeps}", room_address(build))
    if fans:
        yield margin(f"fan speed at which {keeps}", "movers/fans")
    if told.watts:
        most = max(told.watts, key=lambda source: float(detail(told.watts[source]).value))
        yield margin(f"watts of {_name(build.part(most))} with which {keeps}", watts_address(told.id, most))
    yield from _of_what_is_shared(build)
    radiator = next((part for part in build.parts if isinstance(part, Radiator) and not part.points), None)
    sink = next((part for part in build.parts if isinstance(part, Sink)), None)
    if radiator is not None:
        yield margin(f"sections of {_name(radiator)} with which {keeps}", f"{radiator.id}/sections")
    elif sink is not None:
        yield margin(f"fin height of {_name(sink)} with which {keeps}", f"{sink.id}/fin_height_mm")
