"""How large a part is: as it was measured, as its own figures say, or as its class is."""

from dataclasses import dataclass
from functools import singledispatch
from typing import Final

from krill.catalogue.bodies import Body, bodies, body_of_class, radiator_body
from krill.document.figures import Figure, detail
from krill.document.part_base import Part
from krill.document.parts import Fan, Radiator
from krill.document.quantities import figures_of, tolerance_of
from krill.document.solids import Panel, Sink, Spreader

#: lengths that decide may rest on these alone; on a class's or a guess they may not
KNOWN: Final = ("measured", "datasheet", "stated", "calibrated")
#: half width of what somebody read off a ruler and gave no tolerance, mm
RULER_MM: Final = 0.5
#: of lengths that only a class states
CLASS: Final = "class"


@dataclass(frozen=True, slots=True)
class Measure:
    """A length, the half width of its 90 % interval and where it comes from; mm."""

    mm: float
    half_mm: float
    origin: str

    @property
    def known(self) -> bool:
        """Whether somebody measured it, or a data sheet says it."""
        return self.origin in KNOWN


@dataclass(frozen=True, slots=True)
class Extent:
    """A part's size in its own axes."""

    x: Measure
    y: Measure
    z: Measure
    body: Body | None

    @property
    def measures(self) -> tuple[Measure, Measure, Measure]:
        return self.x, self.y, self.z


def extent_of(part: Part) -> Extent | None:
    """The size of a part; None where neither it nor its class says."""
    outline = part.outline
    body = body_of(part)
    if outline is not None and outline.size_mm is not None:
        half = RULER_MM if outline.plus_minus_mm is None else float(outline.plus_minus_mm)
        x, y, z = (Measure(float(side), half, "stated") for side in outline.size_mm)
        return Extent(x, y, z, body)
    of_class = None if body is None else _of_body(body)
    own = _own(part, of_class)
    return own if own is not None else of_class


def body_of(part: Part) -> Body | None:
    """The outline class that a part names, else that of its class."""
    named = None if part.outline is None else part.outline.body
    return bodies()[named] if named is not None else body_of_class(part.class_)


def _of_body(body: Body) -> Extent:
    x, y, z = (Measure(value, half, CLASS) for value, half in body.size)
    return Extent(x, y, z, body)


def measure(model: Part, field: str) -> Measure | None:
    """A figure of a part as a length; None where it states none."""
    figure: Figure | None = getattr(model, field)
    return None if figure is None else of_figure(figure, type(model), field)


def of_figure(figure: Figure, model: type, field: str) -> Measure:
    """A stated figure as a length, its tolerance that of its field where it states none."""
    given = detail(figure)
    spread = tolerance_of(figures_of(model)[field], given)
    return Measure(float(given.value), max(spread.minus, spread.plus), given.origin or "stated")


@singledispatch
def _own(part: Part, of_class: Extent | None) -> Extent | None:
    """What a kind's own figures say of its size, what they leave out by its class; None where they say nothing."""
    return None


@_own.register
def _fan(part: Fan, of_class: Extent | None) -> Extent | None:
    size, thickness = measure(part, "size_mm"), measure(part, "thickness_mm")
    if size is None and thickness is None:
        return None
    x = size or (of_class.x if of_class else None)
    z = thickness or (of_class.z if of_class else None)
    if x is None or z is None:
        return None
    return Extent(x, x, z, of_class.body if of_class else None)


@_own.register
def _radiator(part: Radiator, of_class: Extent | None) -> Extent:
    known = radiator_body()
    section = float(part.section_mm)
    port, far = known.tanks[min(known.tanks, key=lambda size: abs(size - section))]
    length = section * part.sections + port[0] + far[0]
    half = (port[1] ** 2 + far[1] ** 2) ** 0.5
    return Extent(
        Measure(length, half, CLASS),
        Measure(section + known.rim[0], known.rim[1], CLASS),
        Measure(float(part.thickness_mm), known.thickness_half, CLASS),
        None,
    )


@_own.register
def _sink(part: Sink, of_class: Extent | None) -> Extent | None:
    width, length = measure(part, "width_mm"), measure(part, "length_mm")
    base, fins = measure(part, "base_mm"), measure(part, "fin_height_mm")
    if width is None or length is None or base is None or fins is None:
        return None
    half = (base.half_mm**2 + fins.half_mm**2) ** 0.5
    return Extent(width, length, Measure(base.mm + fins.mm, half, fins.origin), None)


@_own.register
def _panel(part: Panel, of_class: Extent | None) -> Extent | None:
    width, height, thickness = (measure(part, field) for field in ("width_mm", "height_mm", "thickness_mm"))
    return None if width is None or height is None or thickness is None else Extent(width, height, thickness, None)


@_own.register
def _spreader(part: Spreader, of_class: Extent | None) -> Extent | None:
    width, length, thickness = (measure(part, field) for field in ("width_mm", "length_mm", "thickness_mm"))
    return None if width is None or length is None or thickness is None else Extent(width, length, thickness, None)


#: m/s2
G: Final = 9.81
#: of a mass that somebody weighed
WEIGHED_SHARE: Final = 0.05
#: of one that only a class tells
CLASS_MASS_SHARE: Final = 0.2


def mass_of_body(part: Part, extent: Extent | None) -> tuple[float, float] | None:
    """Mass of a part and the half width of it, g: as stated, else by its outline class; None where neither says."""
    if part.mass_g is not None:
        value = float(detail(part.mass_g).value)
        return value, WEIGHED_SHARE * value
    if isinstance(part, Radiator):
        known, thick = radiator_body().section_mass_g, float(part.thickness_mm)
        mass = part.sections * known[min(known, key=lambda size: abs(size - thick))]
        return mass, CLASS_MASS_SHARE * mass
    return None if extent is None or extent.body is None else extent.body.mass_g


def weight_n(mass_g: float) -> float:
    """What so many grams weigh."""
    return mass_g / 1000 * G
