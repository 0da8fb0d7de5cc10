"""What can go wrong with the air: fans pushed back or stalled, warm air breathed, faces too close to something."""

from collections.abc import Callable, Iterator
from typing import Final

from krill.components.radiator_class import section_range, thickness_range
from krill.components.radiator_table import core_face
from krill.document.geometry import close_to
from krill.document.parts import Cooler, Radiator
from krill.prediction.answer.result import AirElement, Notice
from krill.prediction.answer.solving import Solved, room_of
from krill.prediction.notices.notice import note, warning

FACE_VELOCITY_TABLE = (0.5, 3.0)
WARM_INTAKE_K = 3.0
#: less than this is rest
BACKWARDS_M3_H = -0.01
#: a cooler that gets less than this share of its rated air flow starves
STARVED_SHARE = 0.3


def air_notices(solved: Solved, case: int, air: list[AirElement]) -> Iterator[Notice]:
    """Every notice of the air of one workload that is no matter of temperatures."""
    row = solved.central(case)
    for element in air:
        if element.kind in OF_ELEMENT:
            yield from OF_ELEMENT[element.kind](solved, row, element)
    yield from _close_faces(solved)


def warm_air_notices(solved: Solved, case: int, air: list[AirElement]) -> Iterator[Notice]:
    """Radiators that breathe air which something else has warmed."""
    for element in air:
        warmer = element.inlet_c - room_of(solved, solved.central(case))
        if element.kind == "radiator" and warmer > WARM_INTAKE_K:
            yield note(element.address, f"{element.name} breathes air {warmer:.1f} K warmer than the room.")


def _fan(solved: Solved, row: int, element: AirElement) -> Iterator[Notice]:
    if element.airflow_m3_h < BACKWARDS_M3_H:
        against = f"{-element.airflow_m3_h:.0f} m³/h run against it"
        yield warning(element.address, f"{element.name} is pushed backwards: {against}.")


def _radiator(solved: Solved, row: int, element: AirElement) -> Iterator[Notice]:
    part = solved.build.part(element.address)
    assert isinstance(part, Radiator)
    face = core_face(part.sections, part.section_mm) * solved.figure(f"{part.id}/covered_share", row, 1.0)
    velocity = abs(element.airflow_m3_h) / 3600 / face
    low, high = FACE_VELOCITY_TABLE
    if not low <= velocity <= high and part.core is None:
        yield note(
            part.id,
            f"Face velocity {velocity:.2f} m/s lies outside the class table ({low:g} to {high:g} "
            "m/s): its figures are extrapolated.",
        )
    yield from _outside_the_class(part, element.name)


def _outside_the_class(part: Radiator, name: str) -> Iterator[Notice]:
    """A size beyond the class table, where its figures are not measured points."""
    if part.points:
        return
    low, high = thickness_range(part.section_mm)
    if not low <= part.thickness_mm <= high:
        thin = part.thickness_mm < low
        meant = "heat and drop shrink with its thickness" if thin else f"it is counted as one of {high:g} mm"
        side = "thinner" if thin else "thicker"
        yield note(
            part.id,
            f"{name}, {part.thickness_mm:g} mm, is {side} than its class table ({low:g} to {high:g} mm): "
            f"{meant}. Measured points count instead.",
        )
    smallest, largest = section_range()
    if not smallest <= part.section_mm <= largest:
        yield note(
            part.id,
            f"{name}: sections of {part.section_mm:g} mm lie outside the class table ({smallest:g} to "
            f"{largest:g} mm): counted by their face. Measured points count instead.",
        )


def _cooler(solved: Solved, row: int, element: AirElement) -> Iterator[Notice]:
    part = solved.build.part(element.address)
    assert isinstance(part, Cooler)
    rated = solved.figure(f"{part.id}/rated_airflow_m3_h", row, 0.0) * 3600
    if abs(element.airflow_m3_h) < STARVED_SHARE * rated:
        yield warning(part.id, f"{element.name} gets {abs(element.airflow_m3_h):.1f} m³/h; it is rated at {rated:.0f}.")


#: what may be wrong with an element of an air path, by its kind
OF_ELEMENT: Final[dict[str, Callable[[Solved, int, AirElement], Iterator[Notice]]]] = {
    "fan": _fan,
    "radiator": _radiator,
    "cooler": _cooler,
}


def _close_faces(solved: Solved) -> Iterator[Notice]:
    """A face with openings that something stands close to, where no gap of its path says how close."""
    names = {path.id: path.name or path.id for path in solved.build.air_paths}
    for path, face, gap in close_to(solved.build).values():
        yield note(
            path, f"{names[path]} opens on the {face}, {gap:g} mm from the next thing: what that costs is counted."
        )
