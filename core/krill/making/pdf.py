"""A sheet as PDF at 1:1, on pages of a printer: tiles that overlap, each with its scale bar and the marks to join it by."""

from math import ceil
from typing import Any, Final, Literal

from krill.errors import DocumentRefused, Problem
from krill.making.sheet import Circle, Layer, Line, Sheet

Paper = Literal["a4", "a3", "letter"]
#: width and height of a page held upright, mm
PAPERS: Final[dict[Paper, tuple[float, float]]] = {"a4": (210.0, 297.0), "a3": (297.0, 420.0), "letter": (215.9, 279.4)}
#: what a printer leaves white, how far tiles overlap, the foot of a page with its bar; mm
MARGIN: Final = 10.0
OVERLAP: Final = 10.0
FOOT: Final = 16.0
BAR_MM: Final = 100.0
MOST_PAGES: Final = 60
_WIDTH: Final[dict[Layer, float]] = {"cut": 0.25, "mark": 0.12, "outline": 0.25, "note": 0.1}


def pdf_of(sheet: Sheet, paper: Paper = "a4") -> bytes:
    """Pages of one paper: the tiles by rows from the upper left, then one page of what must be said.

    DocumentRefused where they are more than anybody joins.
    """
    across, down = tiles(sheet, paper)
    if across * down > MOST_PAGES:
        what = f"{across * down} pages of {paper.upper()} for {sheet.width:g} x {sheet.height:g} mm"
        raise DocumentRefused([Problem("template/paper", what, f"up to {MOST_PAGES}: a larger paper, SVG or DXF")])
    from fpdf import FPDF  # a tenth of a second, and only templates need it

    wide, high = PAPERS[paper]
    pdf = FPDF(unit="mm", format=(wide, high))
    pdf.set_auto_page_break(False)
    pdf.set_title(_latin(sheet.title))
    step_x, step_y = wide - 2 * MARGIN - OVERLAP, high - 2 * MARGIN - FOOT - OVERLAP
    for row in range(down):
        for column in range(across):
            pdf.add_page()
            _tile(pdf, sheet, column * step_x, row * step_y, wide, high)
            _foot(pdf, f"{sheet.title} - page {row * across + column + 1} of {across * down}, 1:1", high)
    pdf.add_page()
    _words(pdf, sheet)
    return bytes(pdf.output())


def tiles(sheet: Sheet, paper: Paper) -> tuple[int, int]:
    """Pages across and down."""
    wide, high = PAPERS[paper]
    step_x, step_y = wide - 2 * MARGIN - OVERLAP, high - 2 * MARGIN - FOOT - OVERLAP
    return (
        max(ceil((sheet.width - OVERLAP) / step_x), 1),
        max(ceil((sheet.height - OVERLAP) / step_y), 1),
    )


def _tile(pdf: Any, sheet: Sheet, left: float, above: float, wide: float, high: float) -> None:
    """What falls on one page; ``left`` and ``above`` are how much of the drawing lies before it."""
    shown = wide - 2 * MARGIN, high - 2 * MARGIN - FOOT
    pdf.set_draw_color(0)
    with pdf.rect_clip(MARGIN, MARGIN, *shown):
        for line in sheet.lines:
            _line(pdf, sheet, line, left, above)
        for circle in sheet.circles:
            _circle(pdf, sheet, circle, left, above)
        pdf.set_font("helvetica", size=9)
        for note in sheet.notes:
            pdf.text(MARGIN + note.x - left, MARGIN + sheet.height - note.y - above, _latin(note.text))
    pdf.set_line_width(0.1)
    pdf.set_dash_pattern(dash=2, gap=2)
    pdf.rect(MARGIN, MARGIN, *shown)  # fold or cut here: the next page overlaps by ten millimetres
    pdf.line(MARGIN + shown[0] - OVERLAP, MARGIN, MARGIN + shown[0] - OVERLAP, MARGIN + shown[1])
    pdf.line(MARGIN, MARGIN + shown[1] - OVERLAP, MARGIN + shown[0], MARGIN + shown[1] - OVERLAP)
    pdf.set_dash_pattern()


def _line(pdf: Any, sheet: Sheet, line: Line, left: float, above: float) -> None:
    pdf.set_line_width(_WIDTH[line.layer])
    pdf.line(
        MARGIN + line.x0 - left,
        MARGIN + sheet.height - line.y0 - above,
        MARGIN + line.x1 - left,
        MARGIN + sheet.height - line.y1 - above,
    )


def _circle(pdf: Any, sheet: Sheet, circle: Circle, left: float, above: float) -> None:
    pdf.set_line_width(_WIDTH[circle.layer])
    radius = circle.diameter / 2
    pdf.circle(MARGIN + circle.x - left, MARGIN + sheet.height - circle.y - above, radius)


def _foot(pdf: Any, text: str, high: float) -> None:
    """The scale bar, which is measured before anything is cut, and which page this is."""
    y = high - MARGIN - 6
    pdf.set_line_width(0.3)
    pdf.line(MARGIN, y, MARGIN + BAR_MM, y)
    for x in (MARGIN, MARGIN + BAR_MM):
        pdf.line(x, y - 2, x, y + 2)
    pdf.set_font("helvetica", size=8)
    pdf.text(MARGIN + BAR_MM + 3, y + 1, "100 mm: measure it before you cut")
    pdf.text(MARGIN, y + 6, _latin(text))


def _words(pdf: Any, sheet: Sheet) -> None:
    pdf.set_xy(MARGIN, MARGIN)
    pdf.set_font("helvetica", size=13)
    pdf.multi_cell(0, 7, _latin(sheet.title), new_x="LMARGIN", new_y="NEXT")
    pdf.set_font("helvetica", size=10)
    for text in sheet.says:
        pdf.multi_cell(0, 6, _latin(f"- {text}"), new_x="LMARGIN", new_y="NEXT")


def _latin(text: str) -> str:
    """Text in what the printed font has."""
    return text.encode("latin-1", "replace").decode("latin-1")
