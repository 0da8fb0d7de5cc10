"""Air that cannot be: paths that repeat a part or lead nowhere, ducts without a section, air drawn in from inside."""

import itertools
from collections.abc import Iterator

from krill.document.build import Build, leaves
from krill.document.kinds import kinds_with
from krill.document.parts import Cooler, Duct
from krill.errors import Problem


def air_problems(build: Build) -> Iterator[Problem]:
    used: dict[str, str] = {}
    kind_of = {zone.id: zone.kind for zone in build.zones}
    for path in build.air_paths:
        if path.start == path.end and not any(build.part(item).kind == "fan" for item in leaves(path.elements)):
            yield Problem(
                f"{path.id}/to_zone", "the path ends where it starts and has no fan", "another zone, or a fan in it"
            )
        for item in leaves(path.elements):
            if not build.part(item).in_air:
                allowed = ", ".join(kinds_with("in_air"))
                yield Problem(f"{path.id}/elements", f"'{item}' is a {build.part(item).kind}", allowed)
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
        if item.recirculated_share is None and item.apart_mm is None and item.mouths != "opposite_faces":
            yield Problem(f"{item.id}/recirculated_share", "neither a share nor a distance", "one of the two")
