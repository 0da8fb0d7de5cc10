"""Solids that cannot be: pipes pressed shut, fins that overlap, bodies that give heat to nothing, hops in the wrong place."""

from collections.abc import Iterator

from krill.document.build import Bond, Build, leaves
from krill.document.figures import Figure, detail
from krill.document.solids import Body, HeatPipe, Sink, Spreader
from krill.errors import Problem

#: flattened below this share of its diameter the vapour has no room left in any wick
FLATTEST = 0.3


def solid_problems(build: Build) -> Iterator[Problem]:
    """Every inconsistency of solids and of the hops through them."""
    in_paths = {item for path in build.air_paths for item in leaves(path.elements)}
    for part in build.parts:
        if isinstance(part, Body):
            yield from _body(build, part, in_paths)
        if isinstance(part, Sink):
            yield from _fins(part)
        if isinstance(part, HeatPipe):
            yield from _pipe(part)
        if isinstance(part, Spreader):
            yield from _spreader(part)
    for bond in build.bonds:
        yield from _bond(build, bond)


def _bond(build: Build, bond: Bond) -> Iterator[Problem]:
    bodies = {part.id for part in build.parts if isinstance(part, Body)}
    for end, body in (("first", bond.first), ("second", bond.second)):
        if body not in bodies:
            yield Problem(f"{bond.id}/{end}", f"'{body}' is no body", ", ".join(sorted(bodies)) or "(no sink or panel)")
    if bond.first == bond.second:
        yield Problem(f"{bond.id}/second", f"'{bond.second}' is joined to itself", "another body")
    if bond.conductance_w_k is None and bond.seam_mm is None:
        yield Problem(f"{bond.id}/seam_mm", "neither a conductance nor a seam", "conductance_w_k, or seam_mm")


def _number(figure: Figure | None) -> float | None:
    return None if figure is None else float(detail(figure).value)


def _body(build: Build, part: Sink | Body, in_paths: set[str]) -> Iterator[Problem]:
    kinds = {zone.id for zone in build.zones}
    for side, zone in (("outside", part.outside), ("inside", part.inside)):
        if zone is not None and zone not in kinds:
            yield Problem(
                f"{part.id}/{side}", f"there is no zone '{zone}'", ", ".join(sorted(kinds)) or "(there is no zone)"
            )
    if part.outside is None and part.inside is None and part.id not in in_paths:
        yield Problem(
            f"{part.id}/outside", "missing", "the zone whose air takes its heat, or an air path that lists it"
        )
    if part.id in in_paths and part.outside is not None:
        yield Problem(f"{part.id}/outside", "it stands in an air path already", "either an air path or a zone")


def _fins(sink: Sink) -> Iterator[Problem]:
    pitch, thickness, width = _number(sink.fin_pitch_mm), _number(sink.fin_thickness_mm), _number(sink.width_mm)
    for name in ("width_mm", "length_mm", "fin_height_mm", "fin_pitch_mm"):
        if getattr(sink, name) is None and sink.class_ is None:
            yield Problem(f"{sink.id}/{name}", "missing", "millimetres, or a class that has them")
    if pitch is not None and thickness is not None and thickness >= pitch:
        yield Problem(
            f"{sink.id}/fin_pitch_mm", f"{pitch:g} mm with fins of {thickness:g} mm", "a pitch above the thickness"
        )
    if pitch is not None and width is not None and pitch > width:
        yield Problem(f"{sink.id}/fin_pitch_mm", f"{pitch:g} mm on a width of {width:g} mm", "two fins at least")
    cut = _number(sink.cut_share)
    if cut is not None and cut >= 1:
        yield Problem(f"{sink.id}/cut_share", f"{cut}", "a share below 1")
    if sink.facing != "nothing" and sink.facing_mm is None:
        yield Problem(f"{sink.id}/facing_mm", "missing", f"how far the {sink.facing} before the fins is")


def _pipe(pipe: HeatPipe) -> Iterator[Problem]:
    diameter, flat = _number(pipe.diameter_mm), _number(pipe.flat_mm)
    if flat is not None and diameter is not None and not FLATTEST * diameter < flat <= diameter:
        yield Problem(
            f"{pipe.id}/flat_mm",
            f"a {diameter:g} mm pipe pressed to {flat:g} mm",
            f"{FLATTEST * diameter:.1f} mm (no room for vapour below) to {diameter:g} mm",
        )
    lift, total = (
        _number(pipe.lift_mm),
        sum(_number(length) or 0.0 for length in (pipe.evaporator_mm, pipe.adiabatic_mm, pipe.condenser_mm)),
    )
    if lift is not None and abs(lift) > total:
        yield Problem(f"{pipe.id}/lift_mm", f"{lift:g} mm on {total:g} mm of pipe", "no more than the pipe is long")


def _spreader(part: Spreader) -> Iterator[Problem]:
    sizes = (part.width_mm, part.length_mm, part.thickness_mm)
    if part.resistance_k_w is None and part.class_ is None and any(size is None for size in sizes):
        yield Problem(
            f"{part.id}/thickness_mm",
            "neither a resistance, a class, nor all three sizes",
            "resistance_k_w, or width_mm, length_mm and thickness_mm",
        )
