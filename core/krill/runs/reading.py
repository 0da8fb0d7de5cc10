"""Reads a log of any logger: delimited text with a header, or JSON lines, gzip or not. Nothing is silently dropped.

Lines are kept, repaired or skipped; each repair and skip is counted under its reason. Well-formed lines go through a
compiled reader in one pass; only the others are looked at one by one.
"""

import csv
import gzip
import io
import json
import re
from collections import Counter
from dataclasses import dataclass, field, replace

import numpy as np
import polars as pl
from numpy.typing import NDArray

from krill.errors import ClockUnknown, LogRefused
from krill.runs.clock import Clock, read_clock

Array = NDArray[np.float64]

MAX_BYTES = 50 * 1024 * 1024
MAX_UNPACKED = 400 * 1024 * 1024
LOOK_AHEAD = 60
NUMBER = re.compile(r"^[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?\s*(°?C|W|%|rpm|RPM|V|MHz|K|dBA?)?$")
#: a figure with a decimal comma that was quoted because of it
QUOTED_FIGURE = re.compile(r"^[+-]?\d+,\d+$")
#: how loggers begin the lines that add a file up
SUMMARY = re.compile(r"^(max(imum)?|min(imum)?|average|avg|mean|sum|total|median)\W*$", re.IGNORECASE)
UNIT_IN_NAME = re.compile(r"^(.*?)\s*[\[(]([^\])]{1,12})[\])]\s*$")


@dataclass
class ReadReport:
    """What happened to the lines of a file."""

    encoding: str = "utf-8"
    delimiter: str = ","
    decimal: str = "."
    kept: int = 0
    repaired: int = 0
    skipped: int = 0
    reasons: Counter[str] = field(default_factory=Counter)

    def repair(self, reason: str, lines: int = 1) -> None:
        self.repaired += lines
        self.reasons[reason] += lines

    def skip(self, reason: str, lines: int = 1) -> None:
        self.skipped += lines
        self.reasons[reason] += lines


@dataclass(frozen=True)
class Log:
    """A read log: seconds from its start, one column a channel (row, channel), missing cells NaN."""

    names: list[str]
    units: list[str]
    clock: Clock
    values: Array
    report: ReadReport

    @property
    def time_s(self) -> Array:
        return self.clock.seconds

    def column(self, name: str) -> Array:
        return np.asarray(self.values[:, self.names.index(name)])


def read_log(data: bytes, interval_s: float | None = None) -> Log:
    """A log from the bytes of a file; LogRefused with the reason where there is no table in it.

    ``interval_s`` is the time between rows of a log that tells none; ClockUnknown where it is needed and missing.
    """
    if len(data) > MAX_BYTES:
        raise LogRefused(f"the file has {len(data) / 2**20:.0f} MB; up to {MAX_BYTES // 2**20} MB are read")
    report = ReadReport()
    text = _decode(_unpack(data), report)
    lines = text.splitlines()
    while lines and not lines[-1].strip():
        lines.pop()
    if not lines:
        raise LogRefused("the file is empty; a log needs a header and rows of figures")
    is_json = lines[0].lstrip().startswith("{")
    log = _from_json_lines(lines, report) if is_json else _from_delimited(lines, report)
    return log if log.clock.told else _on_rows(log, interval_s)


def _on_rows(log: Log, interval_s: float | None) -> Log:
    """A log without a clock, on the interval that somebody told."""
    if interval_s is None:
        raise ClockUnknown("no column tells the time; say how many seconds lie between two rows")
    return replace(log, clock=replace(log.clock, seconds=log.clock.seconds * interval_s, told=True))


def _unpack(data: bytes) -> bytes:
    if data[:2] != b"\x1f\x8b":
        return data
    try:
        with gzip.open(io.BytesIO(data)) as stream:
            unpacked = stream.read(MAX_UNPACKED + 1)
    except (OSError, EOFError) as error:
        raise LogRefused(f"the gzip file is damaged: {error}") from None
    if len(unpacked) > MAX_UNPACKED:
        raise LogRefused(f"the file unpacks to more than {MAX_UNPACKED // 2**20} MB")
    return unpacked


def _decode(data: bytes, report: ReadReport) -> str:
    for mark, encoding in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if data.startswith(mark):
            report.encoding = encoding
            return data.decode(encoding, errors="replace")
    head = data[:4096]
    if head.count(0) > len(head) // 4 and head[1:2] == b"\x00":
        report.encoding = "utf-16-le"
        return data.decode("utf-16-le", errors="replace")
    if b"\x00" in head:
        raise LogRefused("the file is binary; a log is text with a header and rows of figures")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        report.encoding = "cp1252"
        return data.decode("cp1252", errors="replace")


def _from_json_lines(lines: list[str], report: ReadReport) -> Log:
    rows, names = [], []
    for line in lines:
        try:
            row = json.loads(line)
            assert isinstance(row, dict)
        except (json.JSONDecodeError, AssertionError):
            report.skip("not a JSON object")
            continue
        names += [key for key in row if key not in names]
        rows.append(row)
    if len(rows) < 2:
        raise LogRefused("fewer than two JSON rows; a log needs rows of figures")
    cells = [[str(row.get(name, "")) for name in names] for row in rows]
    report.delimiter = "json"
    return _table(names, ["" for _ in names], cells, report)


def _split(line: str, delimiter: str) -> list[str]:
    if '"' in line:
        return [cell.strip() for cell in next(csv.reader([line], delimiter=delimiter))]
    return [cell.strip() for cell in line.split(delimiter)]


def _is_number(cell: str) -> bool:
    return bool(NUMBER.match(cell))


def _delimiter(lines: list[str]) -> str:
    best, most = "", 0.0
    for delimiter in (";", "\t", ",", "|"):
        counts = Counter(line.count(delimiter) for line in lines if delimiter in line)
        if counts:
            count, often = counts.most_common(1)[0]
            score = often * min(count, 8)
            if score > most and often >= min(max(2, len(lines) // 3), len(lines)):
                best, most = delimiter, score
    if not best:
        raise LogRefused("no table was found: no comma, semicolon, tab or bar parts the lines into columns")
    return best


def _header(lines: list[str], delimiter: str) -> int:
    """Index of the header: the last mostly textual line before the first row of figures."""
    for index, line in enumerate(lines):
        cells = _split(line, delimiter)
        numbers = sum(_is_number(cell) for cell in cells)
        if len(cells) >= 2 and numbers >= max(1, (len(cells) - 1) // 2):
            before = [i for i in range(index) if len(_split(lines[i], delimiter)) >= 2]
            if not before:
                return -1
            width = len(_split(lines[before[-1]], delimiter))
            wide = [i for i in before[-2:] if len(_split(lines[i], delimiter)) == width]
            return wide[0]
    raise LogRefused("a header but no row of figures was found; a log needs at least two rows of figures")


def _from_delimited(lines: list[str], report: ReadReport) -> Log:
    look = [line for line in lines[:LOOK_AHEAD] if line.strip()]
    delimiter = report.delimiter = _delimiter(look)
    start = _header(lines[:LOOK_AHEAD], delimiter)
    if start > 0:
        report.skip("line before the header", start)
    first = start + 1
    names = _split(lines[start], delimiter) if start >= 0 else []
    width = len(names) or len(_split(lines[0], delimiter))
    names = names or [f"column {i + 1}" for i in range(width)]
    while names and not names[-1]:
        names.pop()
    names, units = _units(names)
    if first < len(lines) and not any(_is_number(cell) for cell in _split(lines[first], delimiter)):
        row = _split(lines[first], delimiter)
        units = [u or (row[i] if i < len(row) else "").strip("[]() ") for i, u in enumerate(units)]
        report.skip("row of units")
        first += 1
    if delimiter != "," and _decimal_comma(lines[first : first + LOOK_AHEAD], delimiter):
        report.decimal = ","
    body = _without_summary(lines[first:], delimiter, report)
    cells = _rows(body, lines[start] if start >= 0 else "", len(names), delimiter, report)
    return _table(names, units, cells, report)


def _without_summary(lines: list[str], delimiter: str, report: ReadReport) -> list[str]:
    """Rows of figures without the lines that a logger adds up at the end of a file: maximum, average and the like."""
    last = len(lines)
    while last and SUMMARY.match(next((cell for cell in _split(lines[last - 1], delimiter) if cell), "")):
        last -= 1
    if last < len(lines):
        report.skip("summary at the end of the file", len(lines) - last)
    return lines[:last]


def _units(names: list[str]) -> tuple[list[str], list[str]]:
    clean, units = [], []
    for name in names:
        found = UNIT_IN_NAME.match(name)
        clean.append(found.group(1).strip() if found else name)
        units.append(found.group(2).strip() if found else "")
    return clean, units


def _decimal_comma(lines: list[str], delimiter: str) -> bool:
    cells = [cell for line in lines for cell in _split(line, delimiter)]
    commas = sum(bool(re.match(r"^[+-]?\d+,\d+$", cell)) for cell in cells)
    points = sum(bool(re.match(r"^[+-]?\d+\.\d+$", cell)) for cell in cells)
    return commas > points


def _rows(lines: list[str], header: str, width: int, delimiter: str, report: ReadReport) -> pl.DataFrame:
    """String cells (row, column); lines of another width are mended or skipped one by one."""
    good: list[str] = []
    wanted = width - 1
    for line in lines:
        if line.count(delimiter) == wanted and '"' not in line and line != header:
            good.append(line)
        else:
            mended = _mended(line, header, width, delimiter, report)
            if mended is not None:
                good.append(mended)
    if len(good) < 2:
        raise LogRefused(f"{len(good)} row of figures; a log needs at least two")
    return pl.read_csv(
        io.BytesIO("\n".join(good).encode()),
        separator=delimiter,
        has_header=False,
        infer_schema=False,
        quote_char=None,
        new_columns=[f"c{i}" for i in range(width)],
    )


def _mended(line: str, header: str, width: int, delimiter: str, report: ReadReport) -> str | None:
    if not line.strip():
        report.skip("empty line")
        return None
    if line == header:
        report.skip("repeated header")
        return None
    cells = _split(line, delimiter)
    while len(cells) > width and not cells[-1]:
        cells.pop()
    if not any(_is_number(cell) for cell in cells):
        report.skip("line without figures")
        return None
    if len(cells) < width:
        report.repair("missing cells at the end of a line")
    elif len(cells) > width:
        report.repair("more cells than the header names: the last ones are left out")
    return delimiter.join(_bare(cell, delimiter) for cell in (cells + [""] * width)[:width])


def _bare(cell: str, delimiter: str) -> str:
    """A cell that was quoted, without the delimiter in it: a decimal comma becomes a point, in a text a space stands."""
    if delimiter not in cell:
        return cell
    return cell.replace(",", ".") if QUOTED_FIGURE.match(cell) else cell.replace(delimiter, " ")


def _unique(names: list[str], report: ReadReport) -> list[str]:
    seen: Counter[str] = Counter()
    found = []
    for name in names:
        seen[name] += 1
        if seen[name] > 1:
            report.reasons[f"duplicate name '{name}'"] += 1
        found.append(name if seen[name] == 1 else f"{name} ({seen[name]})")
    return found


def _table(names: list[str], units: list[str], cells: pl.DataFrame | list[list[str]], report: ReadReport) -> Log:
    names = _unique(names, report)
    frame = (
        cells
        if isinstance(cells, pl.DataFrame)
        else pl.DataFrame({f"c{i}": column for i, column in enumerate(zip(*cells, strict=True))})
    )
    frame = frame.rename(dict(zip(frame.columns, names, strict=True)))
    clock, used = read_clock(frame, names, units, report.decimal)
    channels = [name for name in names if name not in used]
    values = np.empty((frame.height, len(channels)))
    marked = np.zeros(frame.height, dtype=bool)
    for index, name in enumerate(channels):
        values[:, index], bad = _figures(frame[name], report.decimal)
        if not np.all(np.isnan(values[:, index])):
            marked |= bad
    if not channels or np.all(np.isnan(values)):
        raise LogRefused("no column of figures was found beside the time")
    if marked.any():
        report.repair("text where a figure was expected: the cell is left empty", int(marked.sum()))
    for reason, lines in clock.repairs.items():
        report.repair(reason, lines)
    full = ~np.all(np.isnan(values), axis=0)
    kept = [name for name, use in zip(channels, full, strict=True) if use]
    for name, use in zip(channels, full, strict=True):
        if not use:
            report.reasons[f"column '{name}' holds no figures"] += 1
    report.kept = frame.height
    by_name = dict(zip(names, units, strict=True))
    return Log(kept, [by_name[name] for name in kept], clock, values[:, full], report)


def _figures(series: pl.Series, decimal: str) -> tuple[Array, NDArray[np.bool_]]:
    """Numbers of a string column and a mask of cells that hold something else."""
    text = series.str.strip_chars()
    if decimal == ",":
        text = text.str.replace(",", ".", literal=True)
    numbers = text.cast(pl.Float64, strict=False)
    unread = numbers.is_null() & text.is_not_null() & (text != "")
    if unread.any():
        stripped = text.str.replace(r"\s*(°?C|W|%|rpm|RPM|V|MHz|K|dBA?)$", "").cast(pl.Float64, strict=False)
        numbers = numbers.fill_null(stripped)
        unread = numbers.is_null() & text.is_not_null() & (text != "")
    values = numbers.to_numpy().astype(np.float64)
    return values, np.asarray(unread.fill_null(False).to_numpy(), dtype=bool)
