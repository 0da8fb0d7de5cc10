"""A sheet as SVG whose unit is the millimetre."""

from typing import Final
from xml.sax.saxutils import escape

from krill.making.sheet import Layer, Sheet

#: margin round what is drawn, and the room below for what is said, mm
MARGIN: Final = 10.0
LINE_MM: Final = 6.0
BAR_MM: Final = 100.0
_STROKE: Final[dict[Layer, str]] = {
    "cut": 'stroke="#000" stroke-width="0.25"',
    "mark": 'stroke="#000" stroke-width="0.12"',
    "outline": 'stroke="#000" stroke-width="0.25" stroke-dasharray="4 2"',
    "note": 'stroke="none"',
}


def svg_of(sheet: Sheet) -> str:
    """The sheet with its scale bar and sentences; width and height in mm, one user unit a millimetre."""
    width = max(sheet.width, BAR_MM) + 2 * MARGIN
    height = sheet.height + 2 * MARGIN + LINE_MM * (len(sheet.says) + 4)
    rows = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:g}mm" height="{height:g}mm" viewBox="0 0 {width:g} {height:g}">',
        f"<title>{escape(sheet.title)}</title>",
        f'<g transform="translate({MARGIN:g} {MARGIN + sheet.height:g}) scale(1 -1)" fill="none">',
    ]
    rows += [
        f'<line x1="{line.x0:.4f}" y1="{line.y0:.4f}" x2="{line.x1:.4f}" y2="{line.y1:.4f}" {_STROKE[line.layer]}/>'
        for line in sheet.lines
    ]
    rows += [
        f'<circle cx="{circle.x:.4f}" cy="{circle.y:.4f}" r="{circle.diameter / 2:.4f}" {_STROKE[circle.layer]}/>'
        for circle in sheet.circles
    ]
    rows.append("</g>")
    rows += [_text(MARGIN + note.x, MARGIN + sheet.height - note.y, note.text, note.height) for note in sheet.notes]
    rows += _below(sheet)
    rows.append("</svg>")
    return "\n".join(rows) + "\n"


def _below(sheet: Sheet) -> list[str]:
    """Title, scale bar and what is said, beneath the drawing."""
    y = sheet.height + 2 * MARGIN
    bar = y + LINE_MM
    rows = [
        _text(MARGIN, y, sheet.title, 4.5),
        f'<path id="scale-bar" d="M{MARGIN:g} {bar:g}H{MARGIN + BAR_MM:g}" fill="none" {_STROKE["cut"]}/>',
        f'<path d="M{MARGIN:g} {bar - 2:g}v4M{MARGIN + BAR_MM:g} {bar - 2:g}v4" fill="none" {_STROKE["cut"]}/>',
        _text(MARGIN + BAR_MM + 3, bar + 1.5, "100 mm", 4),
    ]
    return rows + [_text(MARGIN, bar + LINE_MM * (i + 1.2), text, 3.6) for i, text in enumerate(sheet.says)]


def _text(x: float, y: float, text: str, height: float) -> str:
    return (
        f'<text x="{x:g}" y="{y:g}" font-family="sans-serif" font-size="{height:g}" fill="#000">{escape(text)}</text>'
    )
