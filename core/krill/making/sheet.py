"""A flat drawing at 1:1 in millimetres: x to the right, y up, from the lower left corner of what is cut."""

from dataclasses import dataclass, field
from typing import Literal

#: cut: a line to cut along; mark: a centre or guide; outline: where the sheet ends; note: text beside
Layer = Literal["cut", "mark", "outline", "note"]


@dataclass(frozen=True, slots=True)
class Circle:
    x: float
    y: float
    diameter: float
    layer: Layer = "cut"


@dataclass(frozen=True, slots=True)
class Line:
    x0: float
    y0: float
    x1: float
    y1: float
    layer: Layer = "mark"


@dataclass(frozen=True, slots=True)
class Note:
    """Text that begins at a point, ``height`` mm high."""

    x: float
    y: float
    text: str
    height: float = 4.0


@dataclass(frozen=True)
class Sheet:
    """What is drawn, how large it is, and what must be said beside it."""

    title: str
    width: float
    height: float
    circles: list[Circle] = field(default_factory=list)
    lines: list[Line] = field(default_factory=list)
    notes: list[Note] = field(default_factory=list)
    says: list[str] = field(default_factory=list)


def rectangle(x: float, y: float, width: float, height: float, layer: Layer) -> list[Line]:
    """Four lines round."""
    corners = [(x, y), (x + width, y), (x + width, y + height), (x, y + height)]
    return [Line(*a, *b, layer) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]


def cross(x: float, y: float, arm: float) -> list[Line]:
    """A centre mark."""
    return [Line(x - arm, y, x + arm, y), Line(x, y - arm, x, y + arm)]
