"""What a plate lies on: the gap of every joint under it, what fills it, what carries it, and what heat finds there.

The chip sets the plane of the plate. A neighbour that is higher than its step allows, with nothing that gives, carries the
plate: the chip then floats by the difference. Pads push back with their force, which the chip has to do without.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import hypot
from typing import Final, Literal

from krill.document.fit import Joint, PlateContact
from krill.fit import pads
from krill.fit.extents import Measure, of_figure

ContactSays = Literal["touches", "presses little", "floats", "lifts", "clears", "close", "rests"]

#: a neighbour higher than this over what its step allows carries the plate, mm (common practice)
CARRIES_MM: Final = 0.05
#: what must stay free over a neighbour that is not to touch, mm (common practice)
CLEAR_MM: Final = 0.1
#: bond line against pressure, 0.1 to 1 MPa (scaling law, Prasher 2001)
BOND_EXPONENT: Final = -0.166
#: of the mounting force, the least that the chip should keep (common practice)
LEAST_FORCE: Final = 0.5
#: below this share of its force the law of the bond line ends
LOWEST_FORCE: Final = 0.05
#: bond line and coverage by screws that are missing (common practice): (factor, coverage)
TWO_ACROSS: Final = (1.4, 0.95)
TWO_ON_A_SIDE: Final = (3.0, 0.6)
ONE_MISSING: Final = (1.15, 1.0)
#: a paste of 3 W/mK fills a lifted chip's gap to here, air beyond it; mm (estimate)
PASTE_W_MK: Final = 3.0
PASTE_FILLS_MM: Final = 0.3
PUTTY_MM2K_W_PER_MM: Final = 1000.0 / 4.0
#: putty settles to its filler, mm (value from memory)
PUTTY_LEAST_MM: Final = 0.08
#: of a pad that states no conductivity (common practice)
PAD_W_MK: Final = 5.0


@dataclass(frozen=True, slots=True)
class JointFit:
    """One joint: the gap between its top and the plate, what fills it, and what of it heat has to pass."""

    joint: str
    name: str
    interface: str | None
    height_mm: float
    height_half_mm: float
    gap_mm: float
    half_mm: float
    filler: str
    pad_mm: float | None
    pressed: float | None
    pressure_kpa: float | None
    force_n: float | None
    air_mm: float
    resistance_mm2k_w: float | None
    resistance_from: float | None
    resistance_to: float | None
    says: ContactSays
    take_mm: float | None
    choices: list["PadChoice"]


@dataclass(frozen=True, slots=True)
class PadChoice:
    """A stock pad in this gap."""

    pad_mm: float
    pressed: float
    says: ContactSays


@dataclass(frozen=True, slots=True)
class ContactFit:
    """A plate with all that lies under it; ``lifted_mm`` is what carries it above the chip."""

    contact: str
    name: str
    plate: str | None
    lifted_mm: float
    carried_by: str | None
    force_n: float | None
    pads_n: float
    chip_n: float | None
    bond_factor: float
    coverage: float
    says: ContactSays
    worst: str
    joints: list[JointFit]
    to_measure: list[str]


def contact_fit(contact: PlateContact) -> ContactFit:
    """Every joint under a plate, in the first minute after it was screwed down."""
    chip, *others = contact.joints
    chip_top = _height(chip)
    gaps = [(joint, *_gap(chip_top, joint)) for joint in others]
    lifted, by = _carried(gaps)
    joints = [_chip_joint(chip, lifted)]
    joints += [_beside(joint, gap, lifted, half, carries=joint.id == by) for joint, gap, half in gaps]
    force = None if contact.force_n is None else of_figure(contact.force_n, PlateContact, "force_n")
    pads_n = sum(joint.force_n or 0.0 for joint in joints)
    chip_n = None if force is None else max(force.mm - pads_n, 0.0)
    factor, coverage = _screws(contact)
    if force is not None and chip_n is not None:
        factor *= max(chip_n / force.mm, LOWEST_FORCE) ** BOND_EXPONENT
    worst = max(joints, key=lambda joint: _GRAVITY[joint.says])
    return ContactFit(
        contact=contact.id,
        name=contact.name or contact.id,
        plate=contact.plate,
        lifted_mm=lifted,
        carried_by=by,
        force_n=None if force is None else force.mm,
        pads_n=pads_n,
        chip_n=chip_n,
        bond_factor=factor,
        coverage=coverage,
        says=worst.says,
        worst=worst.joint,
        joints=joints,
        to_measure=[joint.name or joint.id for joint in contact.joints if not _height(joint).known],
    )


_GRAVITY: Final[dict[ContactSays, int]] = {
    "touches": 0, "clears": 0, "presses little": 1, "close": 1, "lifts": 2, "rests": 3, "floats": 4,
}  # fmt: skip


def _height(joint: Joint) -> Measure:
    return of_figure(joint.height_mm, Joint, "height_mm")


def _gap(chip: Measure, joint: Joint) -> tuple[float, float]:
    """Between a joint's top and the plate that lies on the chip, and the half width of it, mm."""
    height, step = _height(joint), of_figure(joint.step_mm, Joint, "step_mm")
    return chip.mm + step.mm - height.mm, hypot(chip.half_mm, height.half_mm, step.half_mm)


def _carried(gaps: list[tuple[Joint, float, float]]) -> tuple[float, str | None]:
    """How far the hardest neighbour lifts the plate off the chip, mm, and which it is; a pad gives to its largest strain."""
    lifted, by = 0.0, None
    for joint, gap, _ in gaps:
        needs = _hard_height(joint) - gap
        if needs > max(lifted, CARRIES_MM):
            lifted, by = needs, joint.id
    return lifted, by


def _hard_height(joint: Joint) -> float:
    """The gap below which what fills it gives no more, mm."""
    if joint.filler == "pad" and joint.pad_mm is not None:
        return of_figure(joint.pad_mm, Joint, "pad_mm").mm * (1.0 - pads.PADS[joint.hardness].largest)
    return PUTTY_LEAST_MM if joint.filler == "putty" else 0.0


def _chip_joint(chip: Joint, lifted: float) -> JointFit:
    height = _height(chip)
    air = max(lifted - PASTE_FILLS_MM, 0.0)

    def extra(gap: float) -> float:
        beyond = max(gap - PASTE_FILLS_MM, 0.0)
        return 1000.0 * (min(gap, PASTE_FILLS_MM) / PASTE_W_MK + beyond / pads.AIR_W_MK)

    found = _fit_of(chip, height, lifted, height.half_mm, air, "floats" if lifted else "touches")
    return _with_resistance(found, extra) if lifted else found


def _beside(joint: Joint, bare: float, lifted: float, half: float, *, carries: bool) -> JointFit:
    """A joint beside the chip; ``bare`` is its gap with the plate on the chip, ``lifted`` how far it is carried above that."""
    height, gap = _height(joint), bare + lifted
    if joint.filler == "pad" and joint.pad_mm is not None:
        return _padded(joint, height, bare, gap, half, carries=carries)
    if joint.filler in ("putty", "paste"):
        found = _fit_of(joint, height, gap, half, 0.0, "lifts" if carries else "touches")
        return _with_resistance(found, lambda mm: max(mm, PUTTY_LEAST_MM) * PUTTY_MM2K_W_PER_MM)
    says: ContactSays = "rests" if carries else "clears" if gap - half >= CLEAR_MM else "close"
    found = _fit_of(joint, height, gap, half, max(gap, 0.0), says)
    if joint.interface is None:
        return found
    return _with_resistance(found, lambda mm: 1000.0 * max(mm, 0.0) / pads.AIR_W_MK + pads.FACES_MM2K_W)


def _padded(joint: Joint, height: Measure, bare: float, gap: float, half: float, *, carries: bool) -> JointFit:
    assert joint.pad_mm is not None
    pad, k = of_figure(joint.pad_mm, Joint, "pad_mm").mm, PAD_W_MK
    if joint.conductivity_w_mk is not None:
        k = of_figure(joint.conductivity_w_mk, Joint, "conductivity_w_mk").mm
    pressed = float(pads.strain(pad, gap))
    pressure = float(pads.pressure_kpa(pressed, joint.hardness))
    area = None if joint.area_mm2 is None else of_figure(joint.area_mm2, Joint, "area_mm2").mm
    strains = [(stock, float(pads.strain(stock, bare))) for stock in pads.STOCK_MM]
    says = "lifts" if carries else _pad_says(pressed, joint)
    return replace(
        _with_resistance(
            _fit_of(joint, height, gap, half, max(gap - pad, 0.0), says),
            lambda mm: float(pads.resistance_mm2k_w(pad, mm, k)),
        ),
        pad_mm=pad,
        pressed=pressed,
        pressure_kpa=pressure,
        force_n=None if area is None else pressure * area / 1000.0,
        take_mm=pads.pick(bare, half, joint.hardness),
        choices=[PadChoice(stock, share, _pad_says(share, joint)) for stock, share in strains],
    )


def _with_resistance(found: JointFit, law: Callable[[float], float]) -> JointFit:
    """With what heat finds in the gap, and in the narrowest and the widest that it may be."""
    ends = [law(max(found.gap_mm + sign * found.half_mm, 0.0)) for sign in (-1.0, 1.0)]
    return replace(found, resistance_mm2k_w=law(found.gap_mm), resistance_from=min(ends), resistance_to=max(ends))


def _pad_says(pressed: float, joint: Joint) -> ContactSays:
    if pressed < 0.0:
        return "floats"
    if pressed < pads.TOUCHES:
        return "presses little"
    return "touches" if pressed <= pads.PADS[joint.hardness].largest + 1e-9 else "lifts"


def _fit_of(
    joint: Joint,
    height: Measure,
    gap: float,
    half: float,
    air: float,
    says: ContactSays,
) -> JointFit:
    return JointFit(
        joint=joint.id,
        name=joint.name or joint.id,
        interface=joint.interface,
        height_mm=height.mm,
        height_half_mm=height.half_mm,
        gap_mm=gap,
        half_mm=half,
        filler=joint.filler,
        pad_mm=None,
        pressed=None,
        pressure_kpa=None,
        force_n=None,
        air_mm=air,
        resistance_mm2k_w=None,
        resistance_from=None,
        resistance_to=None,
        says=says,
        take_mm=None,
        choices=[],
    )


def _screws(contact: PlateContact) -> tuple[float, float]:
    """(factor on the chip's bond line, coverage) of the screws that hold the plate."""
    used = contact.screws if contact.screws_used is None else contact.screws_used
    if used >= contact.screws:
        return 1.0, 1.0
    if used == contact.screws - 1:
        return ONE_MISSING
    return TWO_ACROSS if contact.diagonal else TWO_ON_A_SIDE
