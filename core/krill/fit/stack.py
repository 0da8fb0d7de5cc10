"""A stack in its slot: what it takes, what is left, and whether that is enough.

Thicknesses add up, their tolerances in quadrature (independent parts): the sum of 90 % half widths squared is that of the
sum. Fits where at least the tolerance is left; between minus and plus the tolerance only measuring tells (common practice).
"""

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot
from typing import Final, Literal

from krill.catalogue.bodies import radiator_body
from krill.document.build import Build
from krill.document.fit import Layer, Slot, parts_in
from krill.document.parts import Fan, Filter, Opening, Radiator
from krill.errors import DocumentRefused, Problem
from krill.fit.extents import Measure, body_of, extent_of, of_figure

Says = Literal["fits", "fits by class", "measure", "does not fit", "unknown"]
Breathes = Literal["freely", "well", "loudly", "starved"]

#: share of a fan's or radiator's span that stays free before a closed face: loss 1, 4.3, 20 on the face velocity (0.8
#: (span / 4 gap)^2, the law of a close panel; the losses are common practice)
FREE_SHARE: Final[tuple[tuple[Breathes, float], ...]] = (("freely", 0.22), ("well", 0.11), ("loudly", 0.05))
#: blades keep this much from anything (common practice)
BLADES_MM: Final = 1.0
#: openings that are made to lie before blades
GUARDS: Final = ("opening_guard", "opening_stamped_guard")
#: a screw holds from so many millimetres in the thread of a flange, and ends so far before a tube (common practice)
HOLD_MM: Final = 1.3
BEFORE_TUBE_MM: Final = 2.0
#: a stack that leaves nothing is predicted with so much: what its unevenness lets through (estimate)
LEAST_GAP_MM: Final = 0.2


@dataclass(frozen=True, slots=True)
class InStack:
    """One thing in a stack: from where to where it reaches behind the slot's beginning, mm; ``half_mm`` of its end."""

    part: str | None
    kind: str
    name: str
    thickness_mm: float
    thickness_half_mm: float
    from_mm: float
    to_mm: float
    half_mm: float
    origin: str


@dataclass(frozen=True, slots=True)
class Screws:
    """How far screws hold in the radiator's flange, and how far before its tubes they end, mm."""

    length_mm: float
    hold_mm: float
    before_tube_mm: float
    half_mm: float
    says: Literal["fit", "measure", "too short", "reach the tubes"]


@dataclass(frozen=True, slots=True)
class StackFit:
    """What a slot's stack takes and leaves; figures are None where something in it has no thickness."""

    slot: str
    name: str
    gap_mm: float
    gap_half_mm: float
    takes_mm: float | None
    left_mm: float | None
    half_mm: float | None
    says: Says
    standing: list[InStack]
    unknown: list[str]
    to_measure: list[str]
    breathes: Breathes | None
    wants_mm: float | None
    span_mm: float | None
    blades_mm: float | None
    blades_half_mm: float | None
    rubs_on: str | None
    screws: Screws | None


def stack_fit(build: Build, slot: Slot) -> StackFit:
    """The stack of a slot against its gap."""
    gap = of_figure(slot.gap_mm, Slot, "gap_mm")
    layers = [_layer(build, item) for item in slot.stack]
    unknown = [name for _, _, name, thick in layers if thick is None]
    standing = _standing(layers)
    takes = left = half = None
    if not unknown:
        takes = sum(item.thickness_mm for item in standing)
        left = gap.mm - takes
        half = hypot(gap.half_mm, standing[-1].half_mm if standing else 0.0)
    to_measure = [] if gap.known else [slot.name or slot.id]
    to_measure += [name for _, _, name, thick in layers if thick is not None and not thick.known]
    span = _breathing_span(build, slot)
    blades = _blades(build, slot, left)
    return StackFit(
        slot=slot.id,
        name=slot.name or slot.id,
        gap_mm=gap.mm,
        gap_half_mm=gap.half_mm,
        takes_mm=takes,
        left_mm=left,
        half_mm=half,
        says=_says(left, half, bool(to_measure)),
        standing=standing,
        unknown=unknown,
        to_measure=to_measure,
        breathes=None if span is None or left is None else breathes(left, span),
        wants_mm=None if span is None else FREE_SHARE[1][1] * span,
        span_mm=span,
        blades_mm=None if blades is None else blades[0],
        blades_half_mm=None if blades is None else blades[1],
        rubs_on=None if blades is None else blades[2],
        screws=_screws(build, slot, layers),
    )


def breathes(gap_mm: float, span_mm: float) -> Breathes:
    """How a fan or radiator of a span breathes before a closed face."""
    return next((word for word, share in FREE_SHARE if gap_mm >= share * span_mm), "starved")


def left_in(fit: StackFit) -> tuple[float, float]:
    """What a slot leaves for a gap, and the half width of it, mm; a stack that collides leaves next to nothing.

    DocumentRefused where something in the stack has no thickness.
    """
    if fit.left_mm is None or fit.half_mm is None:
        what = f"'{fit.unknown[0]}' in the slot '{fit.slot}' has no thickness"
        raise DocumentRefused([Problem(f"{fit.slot}/stack", what, "a thickness, an outline, or a class that has one")])
    return max(fit.left_mm, LEAST_GAP_MM), fit.half_mm


def _says(left: float | None, half: float | None, by_class: bool) -> Says:
    if left is None or half is None:
        return "unknown"
    if left < half:
        return "does not fit" if left <= -half else "measure"
    return "fits by class" if by_class else "fits"


Layers = list[tuple[str | None, str, str, Measure | None]]


def _layer(build: Build, item: str | Layer) -> tuple[str | None, str, str, Measure | None]:
    """(part, kind, name, thickness) of an item of a stack."""
    layer = item if isinstance(item, Layer) else Layer(part=item)
    stated = None if layer.thickness_mm is None else of_figure(layer.thickness_mm, Layer, "thickness_mm")
    if layer.part is None:
        return None, "layer", layer.name or "layer", stated
    part = build.part(layer.part)
    extent = extent_of(part)
    return part.id, part.kind, layer.name or part.name or part.id, stated or (extent.z if extent else None)


def _standing(layers: Layers) -> list[InStack]:
    found: list[InStack] = []
    at, square = 0.0, 0.0
    for part, kind, name, thick in layers:
        if thick is None:
            break
        square += thick.half_mm**2
        end = at + thick.mm
        found.append(InStack(part, kind, name, thick.mm, thick.half_mm, at, end, square**0.5, thick.origin))
        at = end
    return found


def _breathing_span(build: Build, slot: Slot) -> float | None:
    """Span of what breathes at the end of a slot, mm: the fan or radiator that stands last; None where nothing does."""
    if slot.ends == "open":
        return None
    parts = [build.part(item) for item in parts_in(slot) if item]
    last = next((part for part in reversed(parts) if isinstance(part, Fan | Radiator)), None)
    if isinstance(last, Radiator):
        return float(last.section_mm)
    extent = None if last is None else extent_of(last)
    return None if extent is None else extent.x.mm


def _blades(build: Build, slot: Slot, left: float | None) -> tuple[float, float, str] | None:
    """(room before the blades less what they keep, its half width, what they would rub on) of the tightest fan."""
    found = []
    items = parts_in(slot)
    for at, item in enumerate(items):
        part = build.part(item) if item else None
        body = body_of(part) if isinstance(part, Fan) else None
        if body is not None and body.blades is not None:
            behind, half = body.blades
            beside = _beside_fan(build, slot, items, at, left)
            found += [(behind + free - BLADES_MM, half, what) for free, what in beside]
    return min(found, default=None)


def _beside_fan(
    build: Build, slot: Slot, items: list[str | None], at: int, left: float | None
) -> Iterator[tuple[float, str]]:
    """(free mm, what) of flat things on either face of a fan; wires before it are made for it."""
    if at == 0 and slot.begins in ("closed", "perforated"):
        yield 0.0, "the panel"
    for item in items[max(at - 1, 0) : at] + items[at + 1 : at + 2]:
        part = build.part(item) if item else None
        if isinstance(part, Filter) or (isinstance(part, Opening) and part.class_ not in GUARDS):
            yield 0.0, part.name or part.id
    if at == len(items) - 1 and left is not None and slot.ends != "open":
        yield max(left, 0.0), slot.ends_at or "what the slot ends at"


def _screws(build: Build, slot: Slot, layers: Layers) -> Screws | None:
    """Screws through all that stands before the first radiator, into its flange."""
    if slot.screw_mm is None:
        return None
    at = next((i for i, (part, kind, _, _) in enumerate(layers) if part and kind == "radiator"), None)
    before = layers[:at] if at is not None else []
    if at is None or any(thick is None for *_, thick in before):
        return None
    thick = [measure for *_, measure in before if measure is not None]
    depth, half = radiator_body().to_tube
    length, passed = float(slot.screw_mm), sum(item.mm for item in thick)
    half = hypot(half, *(item.half_mm for item in thick))
    hold, spare = length - passed, passed + depth - length
    return Screws(length, hold, spare, half, _screws_say(hold, spare))


def _screws_say(hold: float, spare: float) -> Literal["fit", "measure", "too short", "reach the tubes"]:
    if hold < HOLD_MM:
        return "too short"
    if spare <= 0.0:
        return "reach the tubes"
    return "fit" if spare >= BEFORE_TUBE_MM else "measure"
