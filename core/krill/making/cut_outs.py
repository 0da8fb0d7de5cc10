"""What is cut into a face for the fans, radiators and boards that lie on it: openings, holes, how far each may be off.

Hole patterns and cut-outs are those of the outline classes (fixed by what is sold, value from memory): the template says
which of them nobody has measured. Allowances and tolerances by way of making are common practice.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import ceil
from typing import Final, Literal

import numpy as np

from krill.catalogue.bodies import Body, bodies
from krill.document.build import Build
from krill.document.part_base import Face, Part
from krill.document.parts import Fan, Radiator
from krill.errors import DocumentRefused, Problem
from krill.fit.extents import body_of, extent_of
from krill.fit.placed_boxes import SIDES, boxes_of
from krill.making.sheet import Circle, Note, Sheet, cross, rectangle

Process = Literal["by_hand", "hole_saw", "jigsaw", "laser", "print"]
PROCESSES: Final[tuple[Process, ...]] = ("by_hand", "hole_saw", "jigsaw", "laser", "print")
#: widths of the way that a laser burns (acrylic, value from memory), half of it each side of its line
KERF_MM: Final = 0.2
#: a printed hole comes out this much small
PRINT_UNDER_MM: Final = 0.3
#: a hole saw cuts this much wider than its size, +- 0.4; sizes that shops have
SAW_OVER_MM: Final = 0.7
SAWS_MM: Final = (
    19, 22, 25, 29, 32, 35, 38, 41, 44, 48, 51, 57, 60, 64, 68, 76, 79, 83, 89, 92, 95, 102, 105, 108, 111, 114, 121, 127, 133,
    140, 152,
)  # fmt: skip
#: a jigsaw stays this far inside its line, and what is filed to the line is so far off, half width of 90 % (common practice)
SAW_INSIDE_MM: Final = 1.0
JIGSAW_MM: Final = 0.7
#: (position, size) of one screw hole, half width of 90 %, mm
OFF_BY: Final[dict[Process, tuple[float, float]]] = {
    "by_hand": (0.5, 0.15),
    "laser": (0.1, 0.1),
    "print": (0.3, 0.15),
}
#: screws through holes of fans and boards, outside diameter mm
SCREWS: Final = {"M2.5": 2.5, "M3": 3.0, "6-32": 3.5}
#: which two axes of the housing a face shows, and whether it is seen mirrored from outside
_SHOWN: Final[dict[Face, tuple[int, int, bool]]] = {
    "front": (0, 2, False),
    "back": (0, 2, True),
    "left": (1, 2, True),
    "right": (1, 2, False),
    "bottom": (0, 1, True),
    "top": (0, 1, False),
}
#: of a face whose housing states no size
_UNKNOWN_MM: Final = (300.0, 200.0)


@dataclass(frozen=True, slots=True)
class Pattern:
    """Where a part's middle lies on the face as seen from outside, its opening and its screw holes, mm."""

    part: str
    name: str
    x: float
    y: float
    opening_mm: float | None
    holes: list[tuple[float, float]]
    hole_mm: float
    by_class: bool


def cut_sheet(build: Build, face: Face, process: Process) -> Sheet:
    """The template of a face, seen from outside. DocumentRefused where nothing lies on it that is cut for."""
    across, up, mirrored = _SHOWN[face]
    size = build.housing.inner_size_mm
    width, height = _UNKNOWN_MM if size is None else (float(size[across]), float(size[up]))
    patterns = _patterns(build, face, width, height)
    if not patterns:
        raise DocumentRefused([Problem(f"face/{face}", "nothing lies on it that is cut for", _faces_with_cuts(build))])
    sheet = Sheet(f"{build.name}: {face}, seen from outside", width, height)
    sheet.lines.extend(rectangle(0, 0, width, height, "outline"))
    for pattern in patterns:
        _draw(sheet, pattern, process)
    sheet.says.extend(_says(patterns, process, size is None))
    if mirrored:
        sheet.says.append("Mirrored against the view from above or inside: lay it on the outside of the face.")
    return sheet


def _patterns(build: Build, face: Face, width: float, height: float) -> list[Pattern]:
    """Patterns of the parts on a face, and of the boards that stand on it; what has no position stands in a row."""
    parts = [part for part in build.parts if part.face == face and isinstance(part, Fan | Radiator)]
    fans = [part for part in parts if isinstance(part, Fan)]
    chosen: list[Part] = [*fans] if fans else [*parts]
    rows = _row([_span(part) for part in chosen], width)
    found = []
    for part, x in zip(chosen, rows, strict=True):
        placed = _on_face(build, part, face, width)
        body = _fan_body(part)
        if body is not None:
            found.append(_pattern(part, *(placed or (x, height / 2)), body))
    return found + _boards(build, face, width)


def _boards(build: Build, face: Face, width: float) -> list[Pattern]:
    """Holes for the stand-offs of boards whose undersides look at the face."""
    boxes = boxes_of(build)
    found = []
    for at, part in enumerate(boxes.parts):
        body = boxes.extents[at].body
        if body is None or not body.mount_mm or body.mount_hole_mm is None or not boxes.stands_on(at, face):
            continue
        half = boxes.half[at]
        own = np.array([[x - half[0], y - half[1], -half[2]] for x, y in body.mount_mm])
        points = boxes.middle[at] + own @ boxes.turned[at].T
        holes = [_seen(face, width, point) for point in points.tolist()]
        middle = _seen(face, width, boxes.middle[at].tolist())
        found.append(Pattern(part.id, part.name or part.id, *middle, None, holes, body.mount_hole_mm, True))
    return found


def _screwed_faces(build: Build) -> list[Face]:
    """Faces that a board stands on."""
    boxes = boxes_of(build)
    boards = [at for at, extent in enumerate(boxes.extents) if extent.body is not None and extent.body.mount_mm]
    return [face for face in SIDES if any(boxes.stands_on(at, face) for at in boards)]


def _on_face(build: Build, part: Part, face: Face, width: float) -> tuple[float, float] | None:
    if part.outline is None or part.outline.position_mm is None or build.housing.inner_size_mm is None:
        return None
    return _seen(face, width, part.outline.position_mm)


def _seen(face: Face, width: float, point: Sequence[float]) -> tuple[float, float]:
    """Where a point of the housing lies on a face that is so wide, seen from outside."""
    across, up, mirrored = _SHOWN[face]
    x, y = float(point[across]), float(point[up])
    return (width - x if mirrored else x), y


def _span(part: Part) -> float:
    extent = extent_of(part)
    return 120.0 if extent is None else extent.x.mm


def _row(spans: list[float], width: float) -> list[float]:
    """Middles of things side by side, touching, the whole row in the middle of a width."""
    ends = [0.0]
    for span in spans:
        ends.append(ends[-1] + span)
    start = (width - ends[-1]) / 2
    return [start + (a + b) / 2 for a, b in pairwise(ends)]


def _fan_body(part: Part) -> Body | None:
    """The outline whose holes a part is screwed by: its own, or that of a fan as wide as a radiator's section."""
    if isinstance(part, Radiator):
        section = float(part.section_mm)
        return next((body for body in bodies().values() if body.holes_mm and body.size[0][0] == section), None)
    body = body_of(part)
    return body if body is not None and body.holes_mm is not None else None


def _pattern(part: Part, x: float, y: float, body: Body) -> Pattern:
    assert body.holes_mm is not None
    assert body.hole_mm is not None
    sections = part.sections if isinstance(part, Radiator) else 1
    pitch = body.size[0][0]
    middles = [x + (i - (sections - 1) / 2) * pitch for i in range(sections)]
    half = body.holes_mm / 2
    holes = [(mx + sx * half, y + sy * half) for mx in middles for sx in (-1, 1) for sy in (-1, 1)]
    return Pattern(
        part.id, part.name or part.id, x, y, body.cut_mm if sections == 1 else None, holes, body.hole_mm, True
    )


def _draw(sheet: Sheet, pattern: Pattern, process: Process) -> None:
    if pattern.opening_mm is not None:
        sheet.circles.append(Circle(pattern.x, pattern.y, drawn(pattern.opening_mm, process, large=True)))
    for x, y in pattern.holes:
        sheet.circles.append(Circle(x, y, drawn(pattern.hole_mm, process, large=False)))
        sheet.lines.extend(cross(x, y, 4.0))
    sheet.lines.extend(cross(pattern.x, pattern.y, 8.0))
    sheet.notes.append(Note(pattern.x - 20, pattern.y + 6, pattern.name))


def drawn(wanted_mm: float, process: Process, *, large: bool) -> float:
    """Diameter of the line to follow so that a hole of the wanted diameter comes out.

    >>> round(drawn(116, "laser", large=True), 3), round(drawn(4.3, "print", large=False), 3), drawn(116, "hole_saw", large=True)
    (115.8, 4.6, 114.7)
    """
    if process == "laser":
        return wanted_mm - KERF_MM
    if process == "print":
        return wanted_mm + PRINT_UNDER_MM
    if process == "hole_saw" and large:
        return saw_for(wanted_mm) + SAW_OVER_MM
    return wanted_mm


def saw_for(wanted_mm: float) -> int:
    """The largest saw that cuts no wider than what is wanted; the smallest there is where all do."""
    return max((saw for saw in SAWS_MM if saw + SAW_OVER_MM <= wanted_mm), default=SAWS_MM[0])


def off_by(process: Process) -> tuple[float, float]:
    """(position, size) that a screw hole is off, half widths of 90 %, mm; who saws the openings drills the holes by hand."""
    return OFF_BY.get(process, OFF_BY["by_hand"])


def passes(hole_mm: float, screw_mm: float, process: Process) -> bool:
    """Whether four screws of a pattern go through holes that lie as far off as this way of making puts them.

    >>> passes(4.3, 3.0, "by_hand"), passes(4.3, 3.5, "by_hand"), passes(4.3, 3.5, "laser")
    (True, False, True)
    """
    position, size = off_by(process)
    return hole_mm - size >= screw_mm + 2 * position


def _says(patterns: list[Pattern], process: Process, no_size: bool) -> list[str]:
    says = ["Measure the scale bar before you cut: it must be 100.0 mm long, within 0.5 mm."]
    if no_size:
        says.append("The housing states no inner size: the outline is drawn as 300 x 200 mm.")
    unmeasured = [pattern.name for pattern in patterns if pattern.by_class]
    if unmeasured:
        says.append(f"Measure this on the part in hand, hole to hole: {', '.join(unmeasured)} (holes by class).")
    openings = sorted({pattern.opening_mm for pattern in patterns if pattern.opening_mm is not None})
    if process == "hole_saw":
        says += [
            f"For an opening of {wide:g} mm take the hole saw {saw_for(wide)} mm; it cuts {saw_for(wide) + SAW_OVER_MM:.1f}."
            for wide in openings
        ]
    if process == "jigsaw":
        says.append(
            f"Saw {SAW_INSIDE_MM:g} mm inside the line from a drilled hole and file to it: the edge lies within {JIGSAW_MM:g} mm."
        )
    if process == "laser":
        says.append(
            f"Lines are drawn {KERF_MM / 2:g} mm inside the openings: tell the service that the kerf is taken off."
        )
    if process == "print":
        says.append(f"Holes are drawn {PRINT_UNDER_MM:g} mm wider: they come out that much small.")
    position, size = off_by(process)
    hole = min(pattern.hole_mm for pattern in patterns)
    for screw, diameter in SCREWS.items():
        if diameter < hole and not passes(hole, diameter, process):
            wider = ceil(10 * (diameter + 2 * position + size) - 1e-6) / 10
            says.append(
                f"{screw} screws need holes of {wider:.1f} mm or slots: each hole is {position:g} mm off its place."
            )
    says.append("Cutting and drilling: eye and hearing protection, the sheet clamped, edges deburred.")
    return says


def _faces_with_cuts(build: Build) -> str:
    faces = {part.face for part in build.parts if part.face and isinstance(part, Fan | Radiator)}
    return (
        ", ".join(sorted(faces | set(_screwed_faces(build)))) or "a fan or radiator with a face, a board with a place"
    )
