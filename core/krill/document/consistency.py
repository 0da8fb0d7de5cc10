"""What a schema cannot say: ids that are unique, references that end somewhere, curves that fall."""

import itertools
from collections.abc import Callable, Iterator
from typing import Final

from krill.document.build import Build, Feed, Hop, Loop, Recirculation, Zone, leaves
from krill.document.figures import Figure, detail
from krill.document.parts import MOVER_KINDS, Cooler, Duct, Fan, Pump, Source, Supply
from krill.errors import Problem

LOOP_KINDS: Final = (
    "pump", "plate", "radiator", "tube", "fitting", "coupling", "flow_meter", "strainer", "reservoir",
)  # fmt: skip
AIR_KINDS: Final = ("fan", "radiator", "opening", "filter", "duct", "gap", "obstacle", "cooler", "supply")
#: a place may give its heat to the stream through one of these
STREAM_KINDS: Final = ("cooler", "supply", "obstacle", "duct")

Missing = Callable[[str, list[str], str], Iterator[Problem]]


def problems_of(build: Build) -> list[Problem]:
    """Every inconsistency of a document, in the order of its sections."""
    found = list(_duplicate_ids(build))
    if found:
        return found
    found += _references(build)
    if not found:
        found += _loops(build)
        found += _air(build)
        found += _routes(build)
        found += _workloads(build)
        found += _curves(build)
        found += _impossible_figures(build)
    return found


def all_ids(build: Build) -> list[tuple[str, str]]:
    """(id, what it belongs to) of everything that has an address."""
    ids = [(item.id, "room") for item in build.rooms]
    for part in build.parts:
        ids.append((part.id, "part"))
        if isinstance(part, Source | Supply):
            ids += [(place.id, "place") for place in part.places]
    for kind, items in (
        ("machine", build.machines),
        ("zone", build.zones),
        ("air path", build.air_paths),
        ("recirculation", build.recirculations),
        ("loop", build.loops),
        ("workload", build.workloads),
        ("feed", build.feeds),
        ("lead", build.leads),
        ("slot", build.slots),
        ("due", build.dues),
    ):
        ids += [(item.id, kind) for item in items]
    for route in build.routes:
        ids.append((route.id, "route"))
        ids += [(hop.id, "hop") for hop in route.hops]
    return ids


def _duplicate_ids(build: Build) -> Iterator[Problem]:
    seen: dict[str, str] = {}
    for item, kind in all_ids(build):
        if item in seen:
            yield Problem(item, f"two elements have this id: a {seen[item]} and a {kind}", "an id of its own for each")
        seen[item] = kind


def _references(build: Build) -> Iterator[Problem]:
    kinds: dict[str, set[str]] = {}
    for item, kind in all_ids(build):
        kinds.setdefault(kind, set()).add(item)

    def missing(where: str, ids: list[str], kind: str) -> Iterator[Problem]:
        for item in ids:
            if item not in kinds.get(kind, set()):
                known = ", ".join(sorted(kinds.get(kind, set()))) or f"(there is no {kind})"
                yield Problem(where, f"there is no {kind} '{item}'", known)

    yield from _part_references(build, missing)
    for mix in build.recirculations:
        yield from missing(f"{mix.id}/from_path", [mix.exhaust], "air path")
        yield from missing(f"{mix.id}/to_path", [mix.intake], "air path")
    for loop in build.loops:
        yield from missing(f"{loop.id}/elements", leaves(loop.elements), "part")
    for path in build.air_paths:
        yield from missing(f"{path.id}/elements", leaves(path.elements), "part")
        yield from missing(f"{path.id}/from_zone", [path.start], "zone")
        yield from missing(f"{path.id}/to_zone", [path.end], "zone")
    for route in build.routes:
        yield from missing(f"{route.id}/place", [route.place], "place")
        for hop in route.hops:
            yield from missing(f"{hop.id}/part", [hop.part] if hop.part else [], "part")
            yield from missing(f"{hop.id}/zone", [hop.zone] if hop.zone else [], "zone")
    yield from _workload_references(build, kinds, missing)
    brief = build.brief
    for name, room in (("coolest_room", brief.coolest_room), ("hottest_room", brief.hottest_room)):
        yield from missing(f"brief/{name}", [room] if room else [], "room")
    yield from missing("brief/worst_workloads", brief.worst_workloads, "workload")


def _part_references(build: Build, missing: Missing) -> Iterator[Problem]:
    for zone in build.zones:
        yield from missing(f"{zone.id}/room", [zone.room] if zone.room else [], "room")
        yield from missing(f"{zone.id}/beyond", [zone.beyond] if zone.beyond else [], "zone")
    for part in build.parts:
        yield from missing(f"{part.id}/feed", [part.feed] if part.feed else [], "feed")
        if isinstance(part, Duct):
            yield from missing(f"{part.id}/leak_zone", [part.leak_zone] if part.leak_zone else [], "zone")


def _workload_references(build: Build, kinds: dict[str, set[str]], missing: Missing) -> Iterator[Problem]:
    for workload in build.workloads:
        yield from missing(f"{workload.id}/watts", list(workload.watts), "part")
        yield from missing(f"{workload.id}/burst", list(workload.burst), "part")
        yield from missing(f"{workload.id}/movers", list(workload.movers), "part")
        for command in workload.movers.values():
            sensors = kinds.get("place", set()) | kinds.get("loop", set()) | kinds.get("zone", set())
            sensors |= {part.id for part in build.parts if isinstance(part, Supply)}
            if command.curve and command.curve.sensor not in sensors:
                yield Problem(
                    f"{workload.id}/movers",
                    f"there is no sensor '{command.curve.sensor}'",
                    "a place, a loop, a zone, or a supply whose load is followed",
                )


def _loops(build: Build) -> Iterator[Problem]:
    used: dict[str, str] = {}
    for loop in build.loops:
        ids = leaves(loop.elements)
        for item in ids:
            if build.part(item).kind not in LOOP_KINDS:
                yield Problem(f"{loop.id}/elements", f"'{item}' is a {build.part(item).kind}", ", ".join(LOOP_KINDS))
            if item in used:
                yield Problem(
                    f"{loop.id}/elements", f"'{item}' is already in '{used[item]}'", "a part sits in one loop once"
                )
            used[item] = loop.id
        yield from _pump_of(build, loop, ids)
    breathing = {item for path in build.air_paths for item in leaves(path.elements)}
    for item in used:
        if build.part(item).kind == "radiator" and item not in breathing:
            yield Problem(f"{item}/air", f"radiator '{item}' breathes no air", "an air path that lists it")


def _pump_of(build: Build, loop: Loop, ids: list[str]) -> Iterator[Problem]:
    if not any(build.part(item).kind == "pump" for item in ids):
        yield Problem(f"{loop.id}/elements", "the loop has no pump", "at least one pump among its elements")
    if len(loop.elements) < 2:
        yield Problem(f"{loop.id}/elements", "one element alone makes no loop", "two or more elements in flow order")


def _air(build: Build) -> Iterator[Problem]:
    used: dict[str, str] = {}
    kind_of = {zone.id: zone.kind for zone in build.zones}
    for path in build.air_paths:
        if path.start == path.end and not any(build.part(item).kind == "fan" for item in leaves(path.elements)):
            yield Problem(
                f"{path.id}/to_zone", "the path ends where it starts and has no fan", "another zone, or a fan in it"
            )
        for item in leaves(path.elements):
            if build.part(item).kind not in AIR_KINDS:
                yield Problem(f"{path.id}/elements", f"'{item}' is a {build.part(item).kind}", ", ".join(AIR_KINDS))
            if item in used:
                yield Problem(
                    f"{path.id}/elements", f"'{item}' is already in '{used[item]}'", "a part sits in one path once"
                )
            used[item] = path.id
    yield from _ducts_and_coolers(build)
    yield from _recirculations(build)
    if "outside" not in kind_of.values():
        yield Problem("zones", "there is no outside zone", "at least one, with a room or a temperature of its own")
    for zone in build.zones:
        if zone.beyond is not None and (zone.kind == "outside" or zone.beyond == zone.id):
            yield Problem(f"{zone.id}/beyond", f"'{zone.beyond}' behind a {kind_of[zone.id]}", "a box and another zone")
        if zone.kind == "outside" and (zone.room is None) == (zone.air_c is None):
            yield Problem(
                f"{zone.id}/room", "an outside zone needs a room or a temperature of its own", "one of the two"
            )
        if zone.kind == "box" and (zone.room is not None or zone.air_c is not None):
            yield Problem(f"{zone.id}/kind", "the air of a box is solved", "kind outside for a given temperature")


def _ducts_and_coolers(build: Build) -> Iterator[Problem]:
    for part in build.parts:
        if isinstance(part, Duct):
            round_, sides = part.bore_mm is not None, (part.width_mm is not None) + (part.height_mm is not None)
            if round_ == (sides == 2) or sides == 1:
                yield Problem(
                    f"{part.id}/bore_mm", "the section of the duct is not given once", "a bore, or width and height"
                )
            if (part.leak_cm2 is None) != (part.leak_zone is None):
                yield Problem(f"{part.id}/leak_zone", "a leak needs an area and a zone", "both leak_cm2 and leak_zone")
        if isinstance(part, Cooler) and part.points:
            flows = [point.airflow_m3_h for point in part.points]
            if any(b <= a for a, b in itertools.pairwise(flows)):
                yield Problem(f"{part.id}/points", "the air flows do not rise", "points in rising air flow")


def _recirculations(build: Build) -> Iterator[Problem]:
    kind_of = {zone.id: zone.kind for zone in build.zones}
    path_of = {path.id: path for path in build.air_paths}
    seen: set[str] = set()
    for item in build.recirculations:
        if kind_of[path_of[item.intake].start] != "outside":
            yield Problem(f"{item.id}/to_path", f"'{item.intake}' breathes from inside", "a path that starts outside")
        if kind_of[path_of[item.exhaust].end] != "outside":
            yield Problem(f"{item.id}/from_path", f"'{item.exhaust}' ends inside", "a path that ends outside")
        if item.intake in seen:
            yield Problem(f"{item.id}/to_path", f"'{item.intake}' has a recirculation already", "one for each intake")
        seen.add(item.intake)


def _routes(build: Build) -> Iterator[Problem]:
    in_loops = {item for loop in build.loops for item in leaves(loop.elements)}
    routed: set[str] = set()
    for route in build.routes:
        if route.place in routed:
            yield Problem(f"{route.id}/place", f"'{route.place}' has a route already", "one route for each place")
        routed.add(route.place)
        for position, hop in enumerate(route.hops):
            yield from _hop(build, hop, last=position == len(route.hops) - 1, in_loops=in_loops)
    for place in build.place_owners():
        if place not in routed:
            yield Problem(f"{place}/route", "the heat of this place has no route", "a route with its hops")


def _hop(build: Build, hop: Hop, *, last: bool, in_loops: set[str]) -> Iterator[Problem]:
    if last and hop.kind == "interface":
        yield Problem(hop.id, "the route ends nowhere", "a plate, a stream or an air hop at its end")
    if not last and hop.kind != "interface":
        yield Problem(hop.id, f"a hop of kind {hop.kind} ends the route", "interfaces before it, nothing after it")
    if hop.kind in ("interface", "plate"):
        kind = build.part(hop.part).kind if hop.part else None
        if kind != hop.kind:
            yield Problem(f"{hop.id}/part", f"{hop.part!r} is {kind or 'not given'}", f"a part of kind {hop.kind}")
        elif hop.kind == "plate" and hop.part not in in_loops:
            yield Problem(f"{hop.id}/part", f"plate '{hop.part}' sits in no loop", "a plate that a loop lists")
    if hop.kind == "stream":
        kind = build.part(hop.part).kind if hop.part else None
        if kind not in STREAM_KINDS:
            yield Problem(f"{hop.id}/part", f"{hop.part!r} is {kind or 'not given'}", ", ".join(STREAM_KINDS))
        elif hop.part not in {item for path in build.air_paths for item in leaves(path.elements)}:
            yield Problem(f"{hop.id}/part", f"'{hop.part}' stands in no air path", "a part that an air path lists")
        elif kind in ("obstacle", "duct") and hop.resistance_k_w is None:
            yield Problem(
                f"{hop.id}/resistance_k_w", "missing", f"a resistance, which a {kind} does not have of itself"
            )
    if hop.kind == "air" and hop.zone is None:
        yield Problem(f"{hop.id}/zone", "missing", "the zone whose air takes the heat")


def _workloads(build: Build) -> Iterator[Problem]:
    for workload in build.workloads:
        for item in workload.watts:
            if not isinstance(build.part(item), Source):
                yield Problem(
                    f"{workload.id}/watts/{item}", f"'{item}' is not a source", "sources; a supply's loss is computed"
                )
        for item, command in workload.movers.items():
            if build.part(item).kind not in MOVER_KINDS:
                yield Problem(
                    f"{workload.id}/movers/{item}", f"'{item}' is a {build.part(item).kind}", "a fan or a pump"
                )
            given = [name for name in ("duty", "speed_rpm", "curve", "off") if getattr(command, name) is not None]
            if len(given) != 1:
                yield Problem(
                    f"{workload.id}/movers/{item}", f"{len(given)} commands", "one of duty, speed_rpm, curve, off"
                )


def _curves(build: Build) -> Iterator[Problem]:
    for part in build.parts:
        if isinstance(part, Fan | Pump) and part.curve is not None:
            yield from _curve(part.id, [(float(q), float(p)) for q, p in part.curve])


def _curve(part_id: str, points: list[tuple[float, float]]) -> Iterator[Problem]:
    where = f"{part_id}/curve"
    if len(points) < 2:
        yield Problem(where, f"{len(points)} point", "two or more points, flow and pressure")
        return
    flows, heads = [p[0] for p in points], [p[1] for p in points]
    if flows[0] < 0 or any(b <= a for a, b in itertools.pairwise(flows)):
        yield Problem(where, "the flows do not rise from point to point", "flows from 0 upwards")
    if min(heads) < 0:
        yield Problem(where, f"a pressure of {min(heads)}", "pressures of 0 or more")
    rises = sum(1 for i in range(1, len(heads)) if heads[i] > heads[i - 1] and (i == 1 or heads[i - 1] <= heads[i - 2]))
    if rises > 1:
        yield Problem(where, f"the curve rises {rises} times", "a falling curve, at most one rise (a stall dip)")


def _impossible_figures(build: Build) -> Iterator[Problem]:
    for address, figure in figure_fields(build):
        field = address.split("/")[1]
        value = detail(figure).value
        if field in ("air_c", "at_c", "level_dba"):
            if not -100 <= value <= 300:
                yield Problem(address, f"{value}", "-100 to 300")
        elif value < 0 or (value == 0 and field not in MAY_BE_ZERO):
            yield Problem(address, f"{value}", "more than 0" if value == 0 else "0 or more")
        elif field in SHARES and value > 1:
            yield Problem(address, f"{value}", "a share from 0 to 1")
        elif field == "blocked_share" and value > 0.95:
            yield Problem(address, f"{value}", "a share up to 0.95: what blocks all belongs out of the path")


MAY_BE_ZERO: Final = (
    "watts", "power_share", "power_w", "price", "roughness_mm", "loss", "dust", "leak_cm2", "recirculated_share", "wall_w_k",
    "blocked_share", "pressure_pa",
)  # fmt: skip
SHARES: Final = (
    "power_share", "coverage", "free_area_share", "coolant_share", "efficiency", "start_duty", "highest_duty", "dust",
    "covered_share", "fill_share", "recirculated_share",
)  # fmt: skip


_FIGURE_NAMES: Final[dict[type, list[str]]] = {}


def figure_fields(build: Build) -> Iterator[tuple[str, Figure]]:
    """Every figure that stands in the document, with its address: id/field, or id/field/key in a table by id."""
    for room in build.rooms:
        yield f"{room.id}/air_c", room.air_c
    for part in build.parts:
        yield from _figures_of(part.id, part)
        if isinstance(part, Source | Supply):
            for place in part.places:
                yield from _figures_of(place.id, place)
                for limit in place.limits:
                    yield f"{place.id}/at_c/{limit.kind}", limit.at_c
    simple: list[Zone | Loop | Recirculation | Feed] = [*build.zones, *build.loops, *build.recirculations, *build.feeds]
    for item in simple:
        yield from _figures_of(item.id, item)
    for route in build.routes:
        for hop in route.hops:
            yield from _figures_of(hop.id, hop)
    for workload in build.workloads:
        for source, figure in workload.watts.items():
            yield f"{workload.id}/watts/{source}", figure


def _figures_of(item: str, model: object) -> Iterator[tuple[str, Figure]]:
    for field in figure_names(type(model)):
        figure = getattr(model, field)
        if figure is not None:
            yield f"{item}/{field}", figure


def figure_names(model: type) -> list[str]:
    """Names of the fields of a model that hold a figure; looked up once a model."""
    if model not in _FIGURE_NAMES:
        fields = getattr(model, "model_fields", {})
        _FIGURE_NAMES[model] = [name for name, info in fields.items() if "FigureDetail" in str(info.annotation)]
    return _FIGURE_NAMES[model]
