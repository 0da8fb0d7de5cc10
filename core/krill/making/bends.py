"""A panel with flanges bent from one sheet: its flat outline, its bend lines, where its face lies in the flat.

A bend of 90 degrees takes pi/2 (R + K t) of sheet, measured where the sheet is neither stretched nor pressed (K of its
thickness from the inside; 0.42 of soft sheet over a radius as thick as itself, common practice).
"""

from dataclasses import dataclass, replace
from math import pi
from typing import Final, Literal

from krill.errors import DocumentRefused, Problem
from krill.making.sheet import Line, Sheet

Flanges = Literal["all", "sides", "ends"]

NEUTRAL: Final = 0.42
SHEETS_MM: Final = (0.5, 4.0)
FLANGES_MM: Final = (4.0, 100.0)
#: a flange that a brake can hold is at least so many thicknesses and the radius deep (common practice)
DEEP: Final = 4.0
#: (edge of a flange, angle) of one bend, half widths of 90 % (common practice)
OFF_MM: Final = 0.5
OFF_DEG: Final = 1.0


@dataclass(frozen=True, slots=True)
class Bends:
    """Flanges so deep outside, at the left and right side, at the two ends or all round, of a sheet so thick; mm."""

    flange_mm: float
    sheet_mm: float = 1.5
    at: Flanges = "all"

    @property
    def radius_mm(self) -> float:
        """Inside radius: as thick as the sheet."""
        return self.sheet_mm

    @property
    def allowance_mm(self) -> float:
        """What a bend takes of the sheet.

        >>> round(Bends(20, 1.5).allowance_mm, 3)
        3.346
        """
        return pi / 2 * (self.radius_mm + NEUTRAL * self.sheet_mm)

    @property
    def deduction_mm(self) -> float:
        """What the flat is shorter than both outsides together, for each bend.

        >>> round(Bends(20, 1.5).deduction_mm, 3)
        2.654
        """
        return 2 * (self.radius_mm + self.sheet_mm) - self.allowance_mm


def with_flanges(face: Sheet, bends: Bends) -> Sheet:
    """The flat of a face with flanges: all that is drawn on it moved, the outline and the bend lines of the flat.

    DocumentRefused where no brake bends it.
    """
    _must_be_bent(bends)
    added = bends.flange_mm - bends.deduction_mm
    dx, dy = (added if bends.at in ("all", end) else 0.0 for end in ("sides", "ends"))
    moved = replace(
        face,
        width=face.width + 2 * dx,
        height=face.height + 2 * dy,
        circles=[replace(circle, x=circle.x + dx, y=circle.y + dy) for circle in face.circles],
        lines=[_moved(line, dx, dy) for line in face.lines if line.layer != "outline"],
        notes=[replace(note, x=note.x + dx, y=note.y + dy) for note in face.notes],
        says=[*face.says, *_says(bends)],
    )
    leg = bends.flange_mm - bends.radius_mm - bends.sheet_mm
    bend, ends = leg + bends.allowance_mm / 2, leg + bends.allowance_mm
    moved.lines.extend(_outline(moved, ends if dx else 0.0, ends if dy else 0.0))
    for at in (bend, moved.width - bend) if dx else ():
        moved.lines.append(Line(at, ends if dy else 0.0, at, moved.height - (ends if dy else 0.0)))
    for at in (bend, moved.height - bend) if dy else ():
        moved.lines.append(Line(ends if dx else 0.0, at, moved.width - (ends if dx else 0.0), at))
    return moved


def _must_be_bent(bends: Bends) -> None:
    found = []
    if not SHEETS_MM[0] <= bends.sheet_mm <= SHEETS_MM[1]:
        found.append(Problem("panel/sheet_mm", f"{bends.sheet_mm:g}", f"{SHEETS_MM[0]:g} to {SHEETS_MM[1]:g} mm"))
    else:
        least = max(FLANGES_MM[0], DEEP * bends.sheet_mm + bends.radius_mm)
        if not least <= bends.flange_mm <= FLANGES_MM[1]:
            found.append(Problem("panel/flange_mm", f"{bends.flange_mm:g}", f"{least:g} to {FLANGES_MM[1]:g} mm"))
    if found:
        raise DocumentRefused(found)


def _moved(line: Line, dx: float, dy: float) -> Line:
    return Line(line.x0 + dx, line.y0 + dy, line.x1 + dx, line.y1 + dy, line.layer)


def _outline(sheet: Sheet, notch_x: float, notch_y: float) -> list[Line]:
    """A rectangle whose corners are cut out as far as the bends reach, so that neighbouring flanges do not meet."""
    w, h = sheet.width, sheet.height
    x, y = (notch_x, notch_y) if notch_x and notch_y else (0.0, 0.0)
    points = [(x, 0), (w - x, 0), (w - x, y), (w, y), (w, h - y), (w - x, h - y)]
    points += [(w - x, h), (x, h), (x, h - y), (0, h - y), (0, y), (x, y)]
    kept = [point for point, last in zip(points, points[-1:] + points[:-1], strict=True) if point != last]
    return [Line(*a, *b, "outline") for a, b in zip(kept, kept[1:] + kept[:1], strict=True)]


def _says(bends: Bends) -> list[str]:
    return [
        f"Bend lines are marked: {bends.sheet_mm:g} mm sheet, inside radius {bends.radius_mm:g} mm; each bend takes "
        f"{bends.allowance_mm:.2f} mm. Bend a strip first and measure it.",
        f"A bent edge lies within {OFF_MM:g} mm and {OFF_DEG:g}°: drill what must meet another part after bending.",
    ]
