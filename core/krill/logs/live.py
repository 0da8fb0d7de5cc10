"""The open protocol of live runs: batches of rows as JSON lines or CSV, read and written.

JSON lines: the first line is the header, each further one a row ``[steady seconds, figure, ...]`` with null where nothing
was read. CSV: a header line ``t [s],name [unit],...``; what the JSON header says beside the channels is told apart.
"""

import csv
import io
import json
import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from krill.errors import DocumentRefused, Problem

Array = NDArray[np.float64]

MOST_ROWS: Final = 5_000
MOST_CHANNELS: Final = 200
MOST_NAME: Final = 120
#: clocks and sequence numbers are below this
_FAR: Final = 1e12
_SESSION: Final = re.compile(r"[A-Za-z0-9-]{1,40}")
_WITH_UNIT: Final = re.compile(r"(?P<name>.*\S)\s*\[(?P<unit>[^\]]*)\]")


@dataclass(frozen=True)
class Channel:
    """A column by its name and unit."""

    name: str
    unit: str


@dataclass(frozen=True)
class Batch:
    """Rows of one session of a logger, numbered; both of its clocks at one moment of them, s.

    ``steady_s`` (row,) counts from the session's start and never goes back; ``values`` (row, channel) are NaN where missing.
    """

    session: str
    sequence: int
    clock_s: float
    steady_at_s: float
    interval_s: float
    channels: tuple[Channel, ...]
    steady_s: Array
    values: Array


def read_json_lines(text: str) -> Batch:
    """DocumentRefused names the line and what is allowed."""
    lines = text.splitlines()
    header = _parsed(lines[0] if lines else "", "line 1", "a JSON object: session, sequence, clock, steady, channels")
    if not isinstance(header, dict):
        raise _refused("line 1", "is no header", "a JSON object: session, sequence, clock, steady, channels")
    listed = header.get("channels")
    if not isinstance(listed, list) or not all(isinstance(one, dict) for one in listed):
        raise _refused("line 1/channels", "is no list of channels", '[{"name": "...", "unit": "..."}]')
    channels = _channels([(one.get("name"), one.get("unit", "")) for one in listed])
    rows = [
        _row(_parsed(line, f"line {number}", _ROW), f"line {number}", len(channels))
        for number, line in enumerate(lines[1:], 2)
        if line.strip()
    ]
    return _batch(header, channels, rows)


def read_csv(text: str, told: Mapping[str, Any]) -> Batch:
    """As ``read_json_lines``; ``told`` holds session, sequence, clock, steady and interval_s."""
    lines = list(csv.reader(io.StringIO(text)))
    if not lines or len(lines[0]) < 2:
        raise _refused("line 1", "is no header", "t [s],name [unit],...")
    channels = _channels([_parted(cell) for cell in lines[0][1:]])
    rows = [
        _row([_figure(cell, f"line {number}") for cell in line], f"line {number}", len(channels))
        for number, line in enumerate(lines[1:], 2)
        if line
    ]
    return _batch(told, channels, rows)


def _parted(cell: str) -> tuple[str, str]:
    match = _WITH_UNIT.fullmatch(cell.strip())
    return (match["name"], match["unit"]) if match else (cell.strip(), "")


def _figure(cell: str, where: str) -> float | None:
    if not cell.strip():
        return None
    try:
        return float(cell)
    except ValueError:
        raise _refused(where, f"'{cell[:40]}' is no figure", "a figure with a point, or nothing") from None


_ROW: Final = "[seconds, figure or null, ...]"


def _parsed(line: str, where: str, allowed: str) -> Any:
    try:
        return json.loads(line)
    except (ValueError, RecursionError):
        raise _refused(where, "is no JSON", allowed) from None


def _row(cells: Any, where: str, channels: int) -> list[float]:
    if not isinstance(cells, list) or len(cells) != channels + 1:
        count = len(cells) - 1 if isinstance(cells, list) else 0
        raise _refused(where, f"has {count} figures", f"{channels}, one a channel, after the seconds")
    figures = [math.nan if cell is None else _number(cell, where) for cell in cells]
    if not math.isfinite(figures[0]):
        raise _refused(where, "has no time", "seconds since the session's start")
    return figures


def _number(cell: Any, where: str) -> float:
    if isinstance(cell, bool) or not isinstance(cell, int | float) or not abs(cell) < _FAR:
        raise _refused(where, f"{str(cell)[:40]} is no figure", f"figures below {_FAR:g}, or null")
    return float(cell)


def _channels(told: list[tuple[Any, Any]]) -> tuple[Channel, ...]:
    if not 0 < len(told) <= MOST_CHANNELS:
        raise _refused("channels", f"there are {len(told)}", f"1 to {MOST_CHANNELS}")
    names = [name for name, _ in told]
    for name, unit in told:
        if not isinstance(name, str) or not 0 < len(name) <= MOST_NAME or not name.isprintable():
            raise _refused("channels", f"{str(name)[:40]!r} is no name", f"1 to {MOST_NAME} printable characters")
        if not isinstance(unit, str) or len(unit) > 20 or not (unit.isprintable() or not unit):
            raise _refused("channels", f"{str(unit)[:40]!r} is no unit", "up to 20 printable characters")
    if len(set(names)) < len(names):
        again = next(name for name in names if names.count(name) > 1)
        raise _refused("channels", f"'{again}' is there twice", "each name once")
    return tuple(Channel(name, unit) for name, unit in told)


def _batch(told: Mapping[str, Any], channels: tuple[Channel, ...], rows: list[list[float]]) -> Batch:
    session = told.get("session")
    if not isinstance(session, str) or not _SESSION.fullmatch(session):
        raise _refused("session", f"{str(session)[:40]!r}", "1 to 40 letters, figures and hyphens")
    sequence = told.get("sequence")
    if isinstance(sequence, bool) or not isinstance(sequence, int) or not 0 <= sequence < 2**31:
        raise _refused("sequence", f"{str(sequence)[:40]}", "a whole number from 0")
    if not 0 < len(rows) <= MOST_ROWS:
        raise _refused("rows", f"there are {len(rows)}", f"1 to {MOST_ROWS} in one batch")
    clocks = {}
    for name in ("clock", "steady", "interval_s"):
        value = told.get(name)
        if isinstance(value, bool) or not isinstance(value, int | float) or not abs(value) < _FAR:
            raise _refused(name, f"{str(value)[:40]}", "seconds")
        clocks[name] = float(value)
    if not 0.01 <= clocks["interval_s"] <= 3600:
        raise _refused("interval_s", f"{clocks['interval_s']:g}", "0.01 to 3600 s between two rows")
    table = np.array(rows, dtype=np.float64)
    return Batch(
        session=session,
        sequence=sequence,
        clock_s=clocks["clock"],
        steady_at_s=clocks["steady"],
        interval_s=clocks["interval_s"],
        channels=channels,
        steady_s=table[:, 0],
        values=table[:, 1:],
    )


def _refused(where: str, what: str, allowed: str) -> DocumentRefused:
    return DocumentRefused([Problem(where, what, allowed)])
