"""The time column of a log: found, read in whatever form it has, and mended where the clock jumped."""

import re
from dataclasses import dataclass, field
from datetime import UTC, datetime

import numpy as np
import polars as pl
from numpy.typing import NDArray

Array = NDArray[np.float64]

TIME_NAME = re.compile(r"^(date|time|timestamp|datetime|elapsed|uptime|epoch|zeit|datum|uhrzeit|t|sec|seconds)\b", re.I)
DATETIME_FORMATS = (
    "%Y-%m-%dT%H:%M:%S%.f%#z",
    "%Y-%m-%dT%H:%M:%S%.f",
    "%Y-%m-%d %H:%M:%S%.f",
    "%Y/%m/%d %H:%M:%S%.f",
    "%d.%m.%Y %H:%M:%S%.f",
    "%d/%m/%Y %H:%M:%S%.f",
    "%m/%d/%Y %H:%M:%S%.f",
    "%Y-%m-%dT%H:%M",
)
DAY_S = 86400.0
GAP_FACTOR = 20.0


@dataclass(frozen=True)
class Clock:
    """Seconds from the first row, rising; the wall-clock start where the file tells it."""

    seconds: Array
    start_utc: datetime | None
    repairs: dict[str, int] = field(default_factory=dict)


def read_clock(frame: pl.DataFrame, names: list[str], units: list[str], decimal: str) -> tuple[Clock, set[str]]:
    """The clock of a table of strings and the names of the columns it was read from."""
    candidates = [name for name in names if TIME_NAME.match(name)]
    day = next((n for n in candidates if n.lower().startswith(("date", "datum"))), None)
    hour = next((n for n in candidates if n.lower().startswith(("time", "zeit", "uhrzeit"))), None)
    if day and hour and day != hour:
        joined = frame[day].str.strip_chars() + " " + frame[hour].str.strip_chars()
        stamps = _stamps(joined)
        if stamps is not None:
            return _mended(*stamps), {day, hour}
    for name in candidates:
        unit = units[names.index(name)].lower()
        found = _stamps(frame[name]) or _hours(frame[name]) or _numbers(frame[name], unit, decimal)
        if found is not None:
            return _mended(*found), {name}
    first = _numbers(frame[names[0]], "", decimal)
    if first is not None and len(names) > 1 and np.all(np.diff(first[0]) > 0):
        return _mended(*first), {names[0]}
    rows = np.arange(frame.height, dtype=np.float64)
    return Clock(rows, None, {"no time column: one second a row is assumed": 0}), set()


def _stamps(series: pl.Series) -> tuple[Array, datetime | None] | None:
    text = series.str.strip_chars()
    for form in DATETIME_FORMATS:
        parsed = text.str.to_datetime(form, strict=False)
        if parsed.null_count() <= 0.1 * len(parsed):
            if parsed.dtype.time_zone is not None:  # type: ignore[attr-defined]
                parsed = parsed.dt.convert_time_zone("UTC").dt.replace_time_zone(None)
            stamps = parsed.cast(pl.Datetime("us")).to_numpy().astype("datetime64[us]").astype(np.float64) / 1e6
            stamps[parsed.is_null().to_numpy()] = np.nan
            first = stamps[np.isfinite(stamps)][0]
            return stamps, datetime.fromtimestamp(float(first), UTC)
    return None


def _hours(series: pl.Series) -> tuple[Array, None] | None:
    """Times of day or elapsed h:m:s; a fall back by most of a day is midnight."""
    parts = series.str.strip_chars().str.extract_groups(r"^(\d{1,3}):(\d{2}):(\d{2}(?:[.,]\d+)?)$").struct.unnest()
    if parts.height == 0 or parts[parts.columns[0]].null_count() > 0.1 * parts.height:
        return None
    columns = [
        parts[c].str.replace(",", ".", literal=True).cast(pl.Float64, strict=False).to_numpy() for c in parts.columns
    ]
    seconds = columns[0] * 3600 + columns[1] * 60 + columns[2]
    midnight = np.cumsum(np.concatenate([[0], np.diff(seconds) < -DAY_S / 2]))
    return seconds + midnight * DAY_S, None


def _numbers(series: pl.Series, unit: str, decimal: str) -> tuple[Array, datetime | None] | None:
    text = series.str.strip_chars()
    if decimal == ",":
        text = text.str.replace(",", ".", literal=True)
    values = text.cast(pl.Float64, strict=False).to_numpy().astype(np.float64)
    finite = values[np.isfinite(values)]
    if len(finite) < 0.9 * len(values) or len(finite) < 2:
        return None
    scale = {"ms": 1e-3, "min": 60.0, "h": 3600.0}.get(unit, 1.0)
    if finite[0] > 1e11:
        scale = 1e-3
    seconds = values * scale
    first = float(finite[0] * scale)
    return seconds, datetime.fromtimestamp(first, UTC) if 1e9 < first < 1e10 else None


def _mended(stamps: Array, start: datetime | None) -> Clock:
    """Rising seconds: missing stamps are filled in, jumps back or far ahead are joined by the usual step."""
    repairs: dict[str, int] = {}
    missing = ~np.isfinite(stamps)
    if missing.any():
        rows = np.arange(len(stamps))
        stamps = np.interp(rows, rows[~missing], stamps[~missing])
        repairs["missing time: filled in between its neighbours"] = int(missing.sum())
    steps = np.diff(stamps)
    usual = float(np.median(steps[steps > 0])) if np.any(steps > 0) else 1.0
    back = steps < 0
    ahead = steps > max(GAP_FACTOR * usual, 3600.0)
    if np.any(back | ahead):
        steps = np.where(back | ahead, usual, steps)
        repairs["clock jump: joined by the usual step"] = int(np.sum(back | ahead))
    return Clock(np.concatenate([[0.0], np.cumsum(steps)]), start, repairs)
