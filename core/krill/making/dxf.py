"""A sheet as DXF R12: circles, lines and text in millimetres, what is cut and what is marked on layers of their own."""

from collections.abc import Iterable

from krill.making.sheet import Sheet

_COLOURS = {"cut": 7, "mark": 8, "outline": 3, "note": 5}


def dxf_of(sheet: Sheet) -> str:
    """The drawing; the scale bar and sentences of a printed template have no place in what a machine follows."""
    rows: list[tuple[int, object]] = [(0, "SECTION"), (2, "HEADER"), (9, "$ACADVER"), (1, "AC1009")]
    rows += [(9, "$EXTMIN"), (10, 0.0), (20, 0.0), (30, 0.0)]
    rows += [(9, "$EXTMAX"), (10, sheet.width), (20, sheet.height), (30, 0.0), (0, "ENDSEC")]
    rows += [(0, "SECTION"), (2, "TABLES"), (0, "TABLE"), (2, "LAYER"), (70, len(_COLOURS))]
    for layer, colour in _COLOURS.items():
        rows += [(0, "LAYER"), (2, layer.upper()), (70, 0), (62, colour), (6, "CONTINUOUS")]
    rows += [(0, "ENDTAB"), (0, "ENDSEC"), (0, "SECTION"), (2, "ENTITIES")]
    for line in sheet.lines:
        rows += [(0, "LINE"), (8, line.layer.upper()), (10, line.x0), (20, line.y0), (30, 0.0)]
        rows += [(11, line.x1), (21, line.y1), (31, 0.0)]
    for circle in sheet.circles:
        rows += [(0, "CIRCLE"), (8, circle.layer.upper()), (10, circle.x), (20, circle.y), (30, 0.0)]
        rows += [(40, circle.diameter / 2)]
    for note in sheet.notes:
        rows += [
            (0, "TEXT"),
            (8, "NOTE"),
            (10, note.x),
            (20, note.y),
            (30, 0.0),
            (40, note.height),
            (1, _plain(note.text)),
        ]
    rows += [(0, "ENDSEC"), (0, "EOF")]
    return "".join(_pairs(rows))


def _pairs(rows: Iterable[tuple[int, object]]) -> Iterable[str]:
    for code, value in rows:
        yield f"{code:3d}\n{f'{value:.6f}' if isinstance(value, float) else value}\n"


def _plain(text: str) -> str:
    """Text of one line that every reader of the format shows: what lies beyond ASCII as a question mark."""
    return " ".join(text.split()).encode("ascii", "replace").decode()
