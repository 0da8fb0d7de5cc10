"""Reads a log of any logger: delimited text with a header, or JSON lines, gzip or not. Nothing is silently dropped.

Lines are kept, repaired, skipped, or of the header; each repair and skip is counted under its reason.
"""

import json
from collections import Counter
from dataclasses import dataclass, field, replace

import numpy as np
import polars as pl
from numpy.typing import NDArray

from krill.errors import ClockUnknown, LogRefused
from krill.logs.clock import Clock, read_clock
from krill.logs.content import text_of
from krill.logs.figures import Column, column_of, decimal_of
from krill.logs.layout import layout_of
from krill.logs.limits import must_have_few_cells, must_have_few_columns, must_have_few_lines, without_overlong
from krill.logs.lines import joined, lines_of
from krill.logs.report import ReadReport
from krill.logs.rows import BLOCK, Body, body_of
from krill.logs.units import Unit, names_and_units, unit_of

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Log:
    """A read log: seconds from its start, one column a channel (row, channel), missing cells NaN.

    ``units`` are those the values are in, "" where none is known; ``written`` as the file spells them; ``states`` tells
    the channels of yes and no; ``left_out`` columns without figures, with the reason.
    """

    names: list[str]
    units: list[str]
    clock: Clock
    values: Array
    report: ReadReport
    written: list[str] = field(default_factory=list)
    states: list[bool] = field(default_factory=list)
    left_out: dict[str, str] = field(default_factory=dict)

    @property
    def time_s(self) -> Array:
        return self.clock.seconds

    @property
    def interval_s(self) -> float:
        """The usual time between rows."""
        return float(np.median(np.diff(self.time_s)))

    def column(self, name: str) -> Array:
        return np.asarray(self.values[:, self.names.index(name)])


def read_log(data: bytes, interval_s: float | None = None, units: dict[str, str] | None = None) -> Log:
    """A log from the bytes of a file; LogRefused with the reason where there is no table in it.

    ``interval_s`` is the time between rows of a log that tells none; ClockUnknown where it is needed and missing.
    ``units`` are those that somebody told of channels by their names.
    """
    report = ReadReport()
    text, report.encoding = text_of(data)
    must_have_few_lines(text)
    physical = without_overlong(lines_of(text), report)
    del text  # up to 200 MB
    report.lines = len(physical)
    if not any(line.strip() for line in physical):
        raise LogRefused(f"the file {_says(report)}; a log needs a header and rows of figures")
    first = next(line for line in physical if line.strip())
    body = _of_json(physical, report) if first.lstrip().startswith("{") else _of_table(physical, report)
    log = _log(body, report, units or {})
    return log if log.clock.told else _on_rows(log, interval_s)


def _says(report: ReadReport) -> str:
    """What a file without a line to read is."""
    return f"has only {', '.join(report.reasons)}" if report.reasons else "is empty"


def _on_rows(log: Log, interval_s: float | None) -> Log:
    """A log without a clock, on the interval that somebody told."""
    if interval_s is None:
        raise ClockUnknown(f"{log.clock.form}; say how many seconds lie between two rows")
    form = f"rows, {interval_s:g} s apart as told"
    return replace(log, clock=replace(log.clock, seconds=log.clock.seconds * interval_s, told=True, form=form))


def _of_json(lines: list[str], report: ReadReport) -> Body:
    rows: list[dict[str, object]] = []
    names: dict[str, None] = {}
    blocks: list[pl.DataFrame] = []
    before = 0
    for line in lines:
        row = _json_object(line)
        if row is None:
            report.skip("empty line" if not line.strip() else "not a JSON object")
            continue
        names |= dict.fromkeys(row)
        rows.append(row)
        must_have_few_columns(len(names))
        must_have_few_cells(before + len(rows), len(names))
        if len(rows) == BLOCK:
            blocks.append(_cells_of_objects(rows, list(names)))
            before, rows = before + len(rows), []
    if before + len(rows) < 2:
        raise LogRefused("fewer than two JSON rows; a log needs rows of figures")
    report.delimiter = "json"
    clean, units = names_and_units(list(names))
    frame = pl.concat([*blocks, _cells_of_objects(rows, list(names))], how="diagonal")
    return Body(clean, units, frame)


def _cells_of_objects(rows: list[dict[str, object]], names: list[str]) -> pl.DataFrame:
    """Fields of objects as cells of text (row, name); what an object has not is empty."""
    cells = {f"c{i}": [_text(row.get(name)) for row in rows] for i, name in enumerate(names)}
    return pl.DataFrame(cells, schema=dict.fromkeys(cells, pl.String))


def _json_object(line: str) -> dict[str, object] | None:
    try:
        row = json.loads(line)
    except (ValueError, RecursionError):
        return None
    return _flat(row) if isinstance(row, dict) else None


def _flat(row: dict[str, object]) -> dict[str, object]:
    """An object's fields, those of an object within it by both names."""
    found: dict[str, object] = {}
    for key, value in row.items():
        found |= {f"{key} {name}": inner for name, inner in value.items()} if isinstance(value, dict) else {key: value}
    return found


def _text(value: object) -> str:
    return "" if value is None else str(value)


def _of_table(physical: list[str], report: ReadReport) -> Body:
    lines, sizes = joined(physical)
    layout = layout_of(lines[:400])
    report.delimiter = layout.delimiter
    must_have_few_cells(len(lines) - layout.first, layout.width)
    for index in range(layout.first):
        if index in layout.header:
            report.header += sizes[index]
        else:
            report.skip("line before the header" if lines[index].strip() else "empty line", sizes[index])
    return body_of(lines, sizes, layout, report)


def _log(body: Body, report: ReadReport, told: dict[str, str]) -> Log:
    names = _unique(body.names, report)
    units = [told.get(name, unit) for name, unit in zip(names, body.units, strict=True)]
    frame = body.frame.rename(dict(zip(body.frame.columns, names, strict=True)))
    decimal = decimal_of(frame)
    report.decimal = decimal or "."
    clock, used = read_clock(frame, names, units, decimal)
    report.time = clock.form
    if clock.newest_first:
        frame = frame.reverse()
        report.tell("newest rows first: turned round")
    repaired = np.zeros(frame.height, dtype=bool)
    repaired[[frame.height - 1 - i for i in body.mended] if clock.newest_first else body.mended] = True
    repaired[list(clock.jumped)] = True
    for reason, times in clock.repairs.items():
        report.tell(reason, times)
    channels = [(n, u) for n, u in zip(names, units, strict=True) if n not in used]
    columns = {name: column_of(frame[name], decimal, unit) for name, unit in channels}
    left_out = {name: "holds no figures" for name, column in columns.items() if not np.isfinite(column.values).any()}
    kept = [(name, unit or columns[name].unit) for name, unit in channels if name not in left_out]
    if not kept:
        raise LogRefused("no column of figures was found beside the time")
    for name in left_out:
        report.tell(f"column '{name}' holds no figures")
    for name, _ in kept:
        repaired |= _told(columns[name], report)
    report.repaired = int(repaired.sum())
    report.kept = report.lines - report.header - report.skipped - report.repaired
    found = [_in_unit(columns[name].values, unit) for name, unit in kept]
    return Log(
        [name for name, _ in kept],
        [unit for _, unit in found],
        clock,
        np.stack([values for values, _ in found], axis=1),
        report,
        [unit for _, unit in kept],
        [columns[name].state for name, _ in kept],
        left_out,
    )


def _told(column: Column, report: ReadReport) -> NDArray[np.bool_]:
    """Rows of a column that were not read as they stand, told of in the report."""
    if column.unread.any():
        report.tell("text where a figure was expected: the cell is left empty", int(column.unread.sum()))
    if column.doubtful.any():
        report.tell("a figure marked as doubtful: taken as it stands", int(column.doubtful.sum()))
    return column.unread | column.doubtful


def _in_unit(values: Array, written: str) -> tuple[Array, str]:
    """Values in the unit that they are kept in; one that nobody knows is left open."""
    unit = unit_of(written) if written else None
    if unit is None:
        return values, ""
    kept = values if unit == Unit(unit.unit) else values * unit.factor + unit.offset
    return kept, unit.unit


def _unique(names: list[str], report: ReadReport) -> list[str]:
    seen: Counter[str] = Counter()
    found = []
    for name in names:
        seen[name] += 1
        if seen[name] > 1:
            report.tell(f"duplicate name '{name}'")
        found.append(name if seen[name] == 1 else f"{name} ({seen[name]})")
    return found
