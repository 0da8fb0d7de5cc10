"""What a build measures: stack height, mass, price, hours; None is unknown, never a guess."""

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.materials import mass_of
from krill.components.figure_table import FigureTable, Values
from krill.components.sinks import fins_of
from krill.document.build import Build, leaves
from krill.document.figures import detail
from krill.document.geometry import stand_of
from krill.document.parts import AnyPart, Fan, Radiator
from krill.document.quantities import figures_of
from krill.document.solids import Panel, Sink
from krill.fit.stack import stack_fit
from krill.sizing.result import Measures, SlotLeft, Stack

Array = NDArray[np.float64]


def known_prices(build: Build) -> dict[str, float]:
    """Prices of the parts that have one."""
    return {part.id: float(detail(part.price).value) for part in build.parts if part.price is not None}


def measures_of(build: Build) -> Measures:
    """Stacks, mass and price of a whole build, with how many parts say nothing of theirs."""
    values = Values(FigureTable(build), 1, {})
    stacks: list[Stack] = [
        Stack(address=part.id, name=part.name or part.id, height_mm=_known(height))
        for part, height in stack_heights(build, values)
    ]
    weighed = [part for part in build.parts if part.is_weighed]
    priced = known_prices(build).values()
    return Measures(
        stacks=stacks,
        height_mm=_known(highest_stack(build, values)),
        mass_g=_known(total_mass(build, values)),
        unweighed=sum(_mass(build, values, part) is None for part in weighed),
        price=sum(priced) if priced else None,
        unpriced=len(build.parts) - len(priced),
        slots=[
            SlotLeft(address=fit.slot, name=fit.name, left_mm=fit.left_mm, half_mm=fit.half_mm, says=fit.says)
            for fit in (stack_fit(build, slot) for slot in build.slots)
        ],
        work_hours=None if build.brief.work_hours is None else float(build.brief.work_hours),
    )


def _known(value: Array) -> float | None:
    first = float(np.ravel(value)[0])
    return None if np.isnan(first) else first


def highest_stack(build: Build, values: Values) -> Array:
    """Height of the highest stack in every row, mm (batch or scalar); NaN where there is none or a depth is unknown."""
    heights = [height for _, height in stack_heights(build, values)]
    return np.asarray(np.max(np.stack(np.broadcast_arrays(*heights)), axis=0)) if heights else np.asarray(np.nan)


def stack_heights(build: Build, values: Values) -> list[tuple[Radiator | Sink, Array]]:
    """Every radiator with its fans and every sink, mm (batch or scalar); NaN where a fan's depth is unknown."""
    found: list[tuple[Radiator | Sink, Array]] = []
    for part in build.parts:
        if isinstance(part, Radiator):
            found.append((part, _radiator_stack(build, values, part)))
        elif isinstance(part, Sink):
            base, fins = (
                values(f"{part.id}/{field}", missing)
                for field, missing in (("base_mm", np.nan), ("fin_height_mm", 0.0))
            )
            found.append((part, 1000 * (base + fins)))
    return found


def _radiator_stack(build: Build, values: Values, radiator: Radiator) -> Array:
    """A radiator with the fans right before and behind it; screws and tolerance take up to 2 mm more (common practice)."""
    height = np.asarray(float(radiator.thickness_mm))
    for path in build.air_paths:
        if radiator.id not in path.elements:
            continue
        at = path.elements.index(radiator.id)
        for beside in path.elements[max(at - 1, 0) : at + 2]:
            fans = [item for item in leaves([beside]) if isinstance(build.part(item), Fan)]
            if fans:
                depths = [1000 * values(f"{fan}/thickness_mm", np.nan) for fan in fans]
                height = height + np.max(np.stack(np.broadcast_arrays(*depths)), axis=0)
    return height


def least_left(build: Build, slots: list[str]) -> tuple[float, float]:
    """(what is left, what is left beyond its tolerance) in the tightest of some slots, mm; NaN where one is not known."""
    fits = [stack_fit(build, slot) for slot in build.slots if slot.id in slots]
    if not fits or any(fit.left_mm is None or fit.half_mm is None for fit in fits):
        return np.nan, np.nan
    tightest = min(fits, key=lambda fit: (fit.left_mm or 0.0) - (fit.half_mm or 0.0))
    assert tightest.left_mm is not None
    assert tightest.half_mm is not None
    return tightest.left_mm, tightest.left_mm - tightest.half_mm


def total_mass(build: Build, values: Values) -> Array:
    """Grams of all parts that state or imply theirs, (batch or scalar); NaN where none does."""
    known = [mass for part in build.parts if (mass := _mass(build, values, part)) is not None]
    return sum(known, np.asarray(0.0)) if known else np.asarray(np.nan)


def _mass(build: Build, values: Values, part: AnyPart) -> Array | None:
    """Grams that a part states, or that follow from its size and material."""
    if part.mass_g is not None:
        return values(f"{part.id}/mass_g") / figures_of(type(part))["mass_g"].factor
    if isinstance(part, Sink):
        volume = fins_of(part, stand_of(build, part), values).metal_volume
    elif isinstance(part, Panel):
        width, height, thickness = (values(f"{part.id}/{field}") for field in ("width_mm", "height_mm", "thickness_mm"))
        volume = width * height * thickness
    else:
        return None
    return np.asarray(1000 * mass_of(part.material, 1.0) * volume)
