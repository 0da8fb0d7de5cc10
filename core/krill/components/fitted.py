"""Figures that follow from how parts fit: what a slot leaves of a gap, what lies in the joints under a plate, what leads
block of a way."""

from collections.abc import Callable, Iterator
from typing import Final, NamedTuple

from krill.document.build import Build
from krill.document.fit import PlateContact
from krill.document.parts import Gap, Obstacle
from krill.document.solids import Interface
from krill.fit.contact import ContactFit, contact_fit
from krill.fit.leads import blocked_share
from krill.fit.stack import left_in, stack_fit

#: doubt of what a pressed pad or putty conducts, over that of its gap (common practice)
LAYER_HALF: Final = 0.25
#: doubt of what missing screws and little force do to a bond line (common practice)
BOND_HALF: Final = 0.2
COVERAGE_HALF: Final = 0.4
#: of what leads block: where they lie once it is closed nobody knows better (estimate)
BLOCKED_HALF: Final = 0.25

#: a figure of the build in SI by its address; None where neither document nor class states it
FigureOf = Callable[[str], float | None]


class Fitted(NamedTuple):
    """A figure that follows, with its half widths of 90 %, in the document's units."""

    part: Gap | Interface | Obstacle
    field: str
    value: float
    below: float
    above: float
    origin: str


def fitted_figures(build: Build, figure: FigureOf) -> Iterator[Fitted]:
    """Every figure that slots, contacts and leads hand to the network."""
    slots = {slot.id: slot for slot in build.slots}
    for part in build.parts:
        if isinstance(part, Gap) and part.slot is not None:
            fit = stack_fit(build, slots[part.slot])
            left, half = left_in(fit)
            yield Fitted(part, "gap_mm", left, half, half, "class" if fit.to_measure else "measured")
        elif isinstance(part, Obstacle) and part.leads and (area := figure(f"{part.id}/area_cm2")) is not None:
            share = blocked_share(build, part.leads, area * 1e6)
            yield Fitted(part, "blocked_share", share, BLOCKED_HALF * share, BLOCKED_HALF * share, "class")
    for contact in build.contacts:
        yield from _of_contact(build, contact, figure)


def _of_contact(build: Build, contact: PlateContact, figure: FigureOf) -> Iterator[Fitted]:
    fit = contact_fit(contact)
    chip, *others = fit.joints
    if chip.interface is not None:
        yield from _of_chip(build.part(chip.interface), fit, figure)
    for joint in others:
        if joint.interface is None or joint.resistance_mm2k_w is None:
            continue
        value, least, most = joint.resistance_mm2k_w, joint.resistance_from, joint.resistance_to
        assert least is not None
        assert most is not None
        own = LAYER_HALF * value
        below, above = (value - least) ** 2 + own**2, (most - value) ** 2 + own**2
        yield Fitted(build.part(joint.interface), "resistance_mm2k_w", value, below**0.5, above**0.5, "class")


def _of_chip(layer: Interface, fit: ContactFit, figure: FigureOf) -> Iterator[Fitted]:
    """The layer on the chip: thicker where force or screws are missing, with what lies in the gap where it floats."""
    extra = fit.joints[0].resistance_mm2k_w
    if extra is not None:
        field = "bond_line_um" if layer.bond_line_um is not None and layer.conductivity_w_mk is not None else None
        if field is None and (pressed := figure(f"{layer.id}/resistance_mm2k_w")) is not None:
            value = pressed * 1e6 + extra
            yield Fitted(layer, "resistance_mm2k_w", value, LAYER_HALF * value, LAYER_HALF * value, "class")
        elif field is not None:
            thick, k = figure(f"{layer.id}/bond_line_um"), figure(f"{layer.id}/conductivity_w_mk")
            assert thick is not None
            assert k is not None
            value = thick * 1e6 + extra * k
            yield Fitted(layer, field, value, LAYER_HALF * value, LAYER_HALF * value, "class")
    if fit.bond_factor != 1.0:
        value = fit.bond_factor * (figure(f"{layer.id}/factor") or 1.0)
        half = BOND_HALF * abs(fit.bond_factor - 1.0)
        yield Fitted(layer, "factor", value, half, half, "class")
    if fit.coverage != 1.0:
        value = fit.coverage * (figure(f"{layer.id}/coverage") or 1.0)
        half = COVERAGE_HALF * (1.0 - fit.coverage)
        yield Fitted(layer, "coverage", value, half, half, "class")
