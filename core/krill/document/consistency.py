"""What a schema cannot say: ids that are unique, references that end somewhere, curves that fall."""

import itertools
from collections.abc import Iterator
from typing import Final

from krill.document.addresses import all_ids, stated_figures, stated_lengths
from krill.document.air_rules import air_problems
from krill.document.build import Build, Loop, leaves
from krill.document.figures import detail
from krill.document.fit_rules import Missing, fit_problems, fit_references
from krill.document.hop_rules import hop_problems
from krill.document.kinds import MOVER_KINDS, kinds_with
from krill.document.order_rules import order_problems, order_references
from krill.document.parts import Duct, Mover, Source, Supply
from krill.document.quantities import tolerance_of
from krill.document.solid_rules import solid_problems
from krill.errors import Problem


def problems_of(build: Build) -> list[Problem]:
    """Every inconsistency of a document, in the order of its sections."""
    found = list(_duplicate_ids(build))
    if found:
        return found
    found += _references(build)
    if not found:
        found += _loops(build)
        found += air_problems(build)
        found += solid_problems(build)
        found += _routes(build)
        found += _workloads(build)
        found += _curves(build)
        found += _impossible_figures(build)
        found += _housing(build)
        found += fit_problems(build)
        found += order_problems(build)
    return found


def _housing(build: Build) -> Iterator[Problem]:
    """A housing that states its inside has one."""
    for axis, side in enumerate(build.housing.inner_size_mm or ()):
        if not 0 < float(side) <= MAX_SIDE_MM:
            yield Problem(f"housing/inner_size_mm/{axis}", f"{float(side):g}", f"more than 0, up to {MAX_SIDE_MM:g} mm")


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
    kinds["feed"] = kinds.get("feed", set()) | {part.id for part in build.parts if isinstance(part, Supply)}

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
            yield from missing(f"{hop.id}/parts", hop.parts, "part")
            yield from missing(f"{hop.id}/zone", [hop.zone] if hop.zone else [], "zone")
    yield from _workload_references(build, kinds, missing)
    yield from fit_references(build, missing)
    yield from order_references(build, missing)
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
            if not build.part(item).in_loop:
                allowed = ", ".join(kinds_with("in_loop"))
                yield Problem(f"{loop.id}/elements", f"'{item}' is a {build.part(item).kind}", allowed)
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


def _routes(build: Build) -> Iterator[Problem]:
    yield from hop_problems(build)
    routed = {route.place for route in build.routes}
    for place in build.place_owners():
        if place not in routed:
            yield Problem(f"{place}/route", "the heat of this place has no route", "a route with its hops")


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
        if isinstance(part, Mover) and part.curve is not None:
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
    for address, figure, quantity in itertools.chain(stated_figures(build), stated_lengths(build)):
        value = float(detail(figure).value)
        if not quantity.holds(value):
            yield Problem(address, f"{value:g}", quantity.allowed())
        elif not quantity.is_plausible(value):
            yield Problem(address, f"{value:g} cannot be", quantity.plausible())
        tolerance = tolerance_of(quantity, detail(figure))
        half, widest = max(tolerance.minus, tolerance.plus), quantity.widest(value)
        if half > widest:
            yield Problem(f"{address}/plus_minus", f"{half:g}", f"up to {quantity.in_unit(widest)} either way")


MAX_SIDE_MM: Final = 1e4
