"""How much a log may hold, asked before the work that it would make: LogRefused with the figure and the limit."""

import re
from typing import Final

from krill.errors import LogRefused
from krill.logs.report import ReadReport

MB: Final = 2**20
MAX_BYTES: Final = 50 * MB
MAX_UNPACKED: Final = 200 * MB
MAX_LINES: Final = 5_000_000
MAX_COLUMNS: Final = 512
MAX_CELLS: Final = 20_000_000
#: signs of one cell
MAX_CELL: Final = 4096
#: signs of one line: as many cells as there may be of the longest kind of figure, words and all
MAX_LINE: Final = MAX_COLUMNS * 256
_PARTING: Final = ";,\t|"
#: a run without anything that parts cells
_OVERLONG: Final = re.compile(rf"[^,;|\s]{{{MAX_CELL + 1}}}")


def must_be_small(size: int) -> None:
    if size > MAX_BYTES:
        raise LogRefused(f"the file has {size / MB:.0f} MB; up to {MAX_BYTES // MB} MB are read")


def must_unpack_to_little(size: int) -> None:
    if size > MAX_UNPACKED:
        raise LogRefused(f"the file unpacks to more than {MAX_UNPACKED // MB} MB, which is the limit")


def must_have_few_lines(text: str) -> None:
    """Ends of line are counted, before anything is parted at them."""
    lines = text.count("\n")
    if "\r" in text:
        lines += text.count("\r") - text.count("\r\n")
    if lines > MAX_LINES:
        raise LogRefused(f"the file has {_thousands(lines)} lines; up to {_thousands(MAX_LINES)} are read")


def must_have_few_columns(columns: int) -> None:
    if columns > MAX_COLUMNS:
        raise LogRefused(f"the log has {_thousands(columns)} columns; up to {MAX_COLUMNS} are read")


def must_have_few_cells(rows: int, columns: int) -> None:
    if rows * columns > MAX_CELLS:
        raise LogRefused(
            f"the log has {_thousands(rows)} rows of {columns} columns, {_thousands(rows * columns)} cells; "
            f"up to {_thousands(MAX_CELLS)} are read"
        )


def without_overlong(lines: list[str], report: ReadReport) -> list[str]:
    """Lines, those of an overlong line or cell empty: they are skipped with their reason; too many columns are refused."""
    if max(map(len, lines), default=0) <= MAX_CELL:
        return lines
    kept = []
    for line in lines:
        if len(line) > MAX_CELL and (len(line) > MAX_LINE or _OVERLONG.search(line)):
            must_have_few_columns(1 + max(line.count(delimiter) for delimiter in _PARTING))
            report.tell(f"a cell of more than {MAX_CELL} signs, or a line of more than {MAX_LINE}")
            line = ""
        kept.append(line)
    return kept


def _thousands(count: int) -> str:
    return f"{count:,}".replace(",", " ")
