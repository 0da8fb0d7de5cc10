"""The rows of a log's table as cells of text: lines of another width are mended or skipped one by one, with the reason."""

import io
from dataclasses import dataclass, field
from typing import Final

import polars as pl

from krill.errors import LogRefused
from krill.logs.cells import SUMMARY, is_datum, is_figure, is_nothing
from krill.logs.layout import Layout
from krill.logs.limits import must_have_few_cells, must_have_few_columns
from krill.logs.lines import BLANK, BLANKS, cells_of
from krill.logs.report import ReadReport
from krill.logs.units import names_and_units

#: joins mended cells: a sign that no text holds
_JOINT: Final = "\x1f"
#: how a row of figures may begin; any other line is looked at
_DATA_BEGINS: Final = frozenset("0123456789+-.,")
#: and the first cell of one that is no summary and no footer
_FIGURE_BEGINS: Final = frozenset("0123456789+-.")
#: lines that are looked at together
BLOCK: Final = 50_000
#: a second header names at least this share of the columns that are there already
SAME_NAMES: Final = 0.6
#: a last line of fewer cells than this share of the columns is a footer
FOOTER_SHARE: Final = 0.5


@dataclass
class Body:
    """Cells (row, column) as text, the channels' names and units with those that a later header added, mended rows."""

    names: list[str]
    units: list[str]
    frame: pl.DataFrame
    mended: list[int] = field(default_factory=list)


class _Rows:
    """Rows below the header, in blocks: plain ones are parted by the data frame library as a whole, others line by line."""

    def __init__(self, layout: Layout, header: list[str], report: ReadReport) -> None:
        self.layout, self.report = layout, report
        self.header = [cells_of(line, layout.delimiter) for line in header]
        self.names, self.units = list(layout.names), list(layout.units)
        self.blocks: list[pl.DataFrame] = []
        self.before = 0  # rows in the blocks
        self.taken: list[str] = []
        self.sizes: list[int] = []
        self.mended: list[int] = []

    def take_all(self, lines: list[str], sizes: list[int]) -> None:
        at = 0
        while at < len(lines) and not self.taken:
            self.take(lines[at], sizes[at])
            at += 1
        for start in range(at, len(lines), BLOCK):
            block = lines[start : start + BLOCK]
            frame = self._plain(block)
            if frame is None:
                for line, size in zip(block, sizes[start : start + BLOCK], strict=True):
                    self.take(line, size)
            else:
                self._close()
                self.blocks.append(frame)
                self.before += frame.height

    def _plain(self, block: list[str]) -> pl.DataFrame | None:
        """A block in which every line is a row of figures of the header's width; None where one is not."""
        delimiter, width = self.layout.delimiter, len(self.names)
        if delimiter in (BLANKS, BLANK) or not {line[:1] for line in block} <= _FIGURE_BEGINS:
            return None
        text = "\n".join(block)
        if '"' in text or text.count(delimiter) != (width - 1) * len(block) or text.count("\n") != len(block) - 1:
            return None
        try:
            frame = _parted(text, delimiter, width)
        except pl.exceptions.PolarsError:  # a line of more cells, which one of fewer made up for in the count
            return None
        return frame if frame.shape == (len(block), width) else None

    def _close(self) -> None:
        """The lines taken so far become a block."""
        if not self.blocks:
            self._without_beginning()
        if self.taken:
            width = len(self.names)
            lines = [line.replace("\n", " ") + _JOINT * (width - 1 - line.count(_JOINT)) for line in self.taken]
            self.blocks.append(_parted("\n".join(lines), _JOINT, width))
            self.before += len(self.taken)
            self.taken, self.sizes = [], []

    def take(self, line: str, size: int) -> None:
        """One line below the header."""
        delimiter = self.layout.delimiter
        plain = delimiter not in (BLANKS, BLANK) and '"' not in line and line[:1] in _DATA_BEGINS
        if plain and line.count(delimiter) == len(self.names) - 1 and (self.taken or self.blocks):
            self._add(line.replace(delimiter, _JOINT), size)
            return
        if not line.strip():
            self.report.skip("empty line", size)
            return
        self._look_at(cells_of(line, delimiter), size)

    def _look_at(self, cells: list[str], size: int) -> None:
        while len(cells) > len(self.names) and not cells[-1]:
            cells.pop()
        if any(_is_like(cells, row) for row in self.header):
            if self._grows(cells):
                self.report.header += size
            else:
                self.report.skip("repeated header", size)
            return
        if not any(map(is_figure, cells)):
            self.report.skip("line without figures", size)
            return
        width = len(self.names)
        if len(cells) < width:
            self._mend("missing cells at the end of a line")
        elif len(cells) > width:
            self._mend("more cells than the header names: the last ones are left out")
        self._add(_JOINT.join((cells + [""] * width)[:width]), size)

    def _mend(self, reason: str) -> None:
        self.report.tell(reason)
        self.mended.append(self.before + len(self.taken))

    def _add(self, line: str, size: int) -> None:
        self.taken.append(line)
        self.sizes.append(size)

    def _grows(self, cells: list[str]) -> bool:
        """A second header that names the columns that are there and more."""
        names, units = names_and_units(cells)
        if len(names) <= len(self.names):
            return False
        must_have_few_columns(len(names))
        count = len(names) - len(self.names)
        self.names += names[-count:]
        self.units += units[-count:]
        self.report.tell("second header: it adds columns")
        return True

    def _without_beginning(self) -> None:
        """Leaves out lines that add a file up right behind its header."""
        while self.taken and _adds_up(self.taken[0].split(_JOINT)):
            self._drop(0, "summary below the header")

    def without_end(self) -> None:
        """Leaves out lines that add a file up at its end, and a footer that is no row."""
        width = len(self.names)
        while self.taken:
            cells = self.taken[-1].split(_JOINT)
            said = [cell for cell in cells if not is_nothing(cell)]
            last = self.before + len(self.taken) - 1
            if _adds_up(cells):
                self._drop(-1, "summary at the end of the file")
            elif len(said) <= FOOTER_SHARE * width and last in self.mended and _is_word(cells[0]):
                self._drop(-1, "footer")
            else:
                break

    def _drop(self, index: int, reason: str) -> None:
        row = self.before + index % len(self.taken)
        self.report.skip(reason, self.sizes.pop(index))
        self.taken.pop(index)
        self.mended = [m - (index == 0) for m in self.mended if m != row]

    def body(self) -> Body:
        self._close()
        if self.before < 2:
            raise LogRefused(f"{self.before} row of figures; a log needs at least two")
        width = len(self.names)
        must_have_few_cells(self.before, width)
        frame = pl.concat(self.blocks, how="diagonal")
        lacking = [pl.lit(None, pl.String).alias(f"c{i}") for i in range(frame.width, width)]
        return Body(self.names, self.units, frame.with_columns(lacking), self.mended)


def _parted(text: str, separator: str, width: int) -> pl.DataFrame:
    """Lines as cells of text, (line, ``width``); nothing between two separators is null."""
    return pl.read_csv(
        io.BytesIO(text.encode("utf-8", errors="replace")),
        separator=separator,
        has_header=False,
        infer_schema=False,
        quote_char=None,
        new_columns=[f"c{i}" for i in range(width)],
    )


def _is_like(cells: list[str], header: list[str]) -> bool:
    """Whether a line says again what a line of the header says."""
    said = [(cell, again) for cell, again in zip(header, cells, strict=False) if not is_nothing(cell)]
    return len(said) >= 2 and sum(cell == again for cell, again in said) >= SAME_NAMES * len(said)


def _adds_up(cells: list[str]) -> bool:
    """Whether the first thing a row says is a word such as maximum or average."""
    first = next((cell for cell in cells if cell), "")
    return SUMMARY.match(first) is not None


def _is_word(cell: str) -> bool:
    return not is_nothing(cell) and not is_datum(cell)


def body_of(lines: list[str], sizes: list[int], layout: Layout, report: ReadReport) -> Body:
    """The rows below the header; LogRefused where fewer than two are left."""
    rows = _Rows(layout, [lines[index] for index in layout.header], report)
    rows.take_all(lines[layout.first :], sizes[layout.first :])
    rows.without_end()
    return rows.body()
