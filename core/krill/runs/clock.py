"""The time column of a log: found, read in whatever form it has, and mended where the clock jumped."""

import re
from dataclasses import dataclass, field
from datetime import UTC, datetime

import numpy as np
import polars as pl
from numpy.typing import NDArray

Array = NDArray[np.float64]

TIME_NAME = re.compile(
    r"^(date|time|timestamp|datetime|elapsed|uptime|epoch|t|sec|seconds|zeit|datum|uhrzeit|laufzeit|temps|heure|horodatage"
    r"|hora|tiempo|fecha|czas|godzina|data)(?![^\W_])",
    re.IGNORECASE,
)
#: columns that count rows: no time, however evenly they rise
ROW_NAME = re.compile(r"^(#|no\.?|nr\.?|n°|row|index|idx|sample|line|zeile|ligne|fila|lp\.?)$", re.IGNORECASE)
DAY_NAMES = ("date", "datum", "fecha", "data")
HOUR_NAMES = ("time", "zeit", "uhrzeit", "heure", "hora", "czas", "godzina")
#: days before the first reading of a form that both could mean stand in the order of how common they are
DAYS = (
    "%Y-%m-%d", "%Y/%m/%d", "%d.%m.%Y", "%d/%m/%Y", "%m/%d/%Y", "%d-%m-%Y", "%d.%m.%y", "%d/%m/%y", "%m/%d/%y",
    "%d %b %Y", "%d-%b-%Y", "%b %d %Y", "%d %B %Y", "%B %d %Y",
)  # fmt: skip
HOURS = ("%H:%M:%S%.f", "%I:%M:%S %p", "%H:%M", "%I:%M %p")
DATETIME_FORMATS = (
    "%Y-%m-%dT%H:%M:%S%.f%#z",
    "%Y-%m-%dT%H:%M:%S%.f",
    "%Y-%m-%dT%H:%M",
    *(f"{day} {hour}" for hour in HOURS for day in DAYS),
)
#: rows by which a form of time is told
TOLD_BY = 64
#: units of a number that counts time, s
SECONDS = {"ms": 1e-3, "s": 1.0, "sec": 1.0, "seconds": 1.0, "min": 60.0, "minutes": 60.0, "h": 3600.0, "hours": 3600.0}
_UNIT_IN_NAME = re.compile(r"[\s_(\[]+(ms|s|sec|seconds|min|minutes|h|hours)[)\]]?$", re.IGNORECASE)
DAY_S = 86400.0
GAP_FACTOR = 20.0
#: where more rows than this share have a stamp of their own, equal ones are no rounding
MOSTLY_NEW = 0.7


@dataclass(frozen=True)
class Clock:
    """Seconds from the first row, rising; the wall-clock start where the file tells it.

    Where no column tells the time, ``told`` is false and the seconds are row numbers.
    """

    seconds: Array
    start_utc: datetime | None
    repairs: dict[str, int] = field(default_factory=dict)
    told: bool = True


def read_clock(frame: pl.DataFrame, names: list[str], units: list[str], decimal: str) -> tuple[Clock, set[str]]:
    """The clock of a table of strings and the names of the columns it was read from."""
    candidates = [name for name in names if TIME_NAME.match(name)]
    day = next((n for n in candidates if n.lower().startswith(DAY_NAMES)), None)
    hour = next((n for n in candidates if n.lower().startswith(HOUR_NAMES)), None)
    if day and hour and day != hour:
        joined = frame[day].str.strip_chars() + " " + frame[hour].str.strip_chars()
        stamps = _stamps(joined)
        if stamps is not None:
            return _mended(*stamps), {day, hour}
    for name in candidates:
        unit = units[names.index(name)].lower() or _unit_of(name)
        found = _stamps(frame[name]) or _hours(frame[name]) or _numbers(frame[name], unit, decimal)
        if found is not None:
            return _mended(*found), {name}
    for name in names:
        if name not in candidates and frame[name].head(TOLD_BY).str.contains(":", literal=True).any():
            found = _stamps(frame[name]) or _hours(frame[name])
            if found is not None:
                return _mended(*found), {name}
    first = None if ROW_NAME.match(names[0].strip()) else _numbers(frame[names[0]], _unit_of(names[0]), decimal)
    if first is not None and len(names) > 1 and np.all(np.diff(first[0]) > 0):
        return _mended(*first), {names[0]}
    rows = np.arange(frame.height, dtype=np.float64)
    return Clock(rows, None, told=False), set()


def _unit_of(name: str) -> str:
    found = _UNIT_IN_NAME.search(name)
    return found.group(1).lower() if found else ""


def _stamps(series: pl.Series) -> tuple[Array, datetime | None] | None:
    text = series.str.strip_chars().str.replace(r",(\d{1,6})$", ".$1").str.replace_all(r"\s+", " ")
    few = text.head(TOLD_BY)
    for form in DATETIME_FORMATS:
        if few.str.to_datetime(form, strict=False).null_count() > 0.1 * len(few):
            continue
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
    """Times of day or elapsed h:m:s, with or without seconds; a fall back by most of a day is midnight."""
    form = r"^(\d{1,3}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*([AaPp][Mm])?$"
    parts = series.str.strip_chars().str.extract_groups(form).struct.unnest()
    if parts.height == 0 or parts[parts.columns[0]].null_count() > 0.1 * parts.height:
        return None
    hours, minutes, seconds = (
        parts[c].str.replace(",", ".", literal=True).cast(pl.Float64, strict=False).to_numpy()
        for c in parts.columns[:3]
    )
    half = parts[parts.columns[3]].str.to_lowercase()
    if half.null_count() < parts.height:
        hours = hours % 12 + np.where((half == "pm").fill_null(value=False).to_numpy(), 12.0, 0.0)
    whole = hours * 3600 + minutes * 60 + np.nan_to_num(seconds)
    midnight = np.cumsum(np.concatenate([[0], np.diff(whole) < -DAY_S / 2]))
    return whole + midnight * DAY_S, None


def _numbers(series: pl.Series, unit: str, decimal: str) -> tuple[Array, datetime | None] | None:
    text = series.str.strip_chars()
    if decimal == ",":
        text = text.str.replace(",", ".", literal=True)
    values = text.cast(pl.Float64, strict=False).to_numpy().astype(np.float64)
    finite = values[np.isfinite(values)]
    if len(finite) < 0.9 * len(values) or len(finite) < 2:
        return None
    scale = SECONDS.get(unit, 1.0)
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
    stamps = _spread(stamps)
    steps = np.diff(stamps)
    usual = float(np.median(steps[steps > 0])) if np.any(steps > 0) else 1.0
    back = steps < 0
    ahead = steps > max(GAP_FACTOR * usual, 3600.0)
    if np.any(back | ahead):
        steps = np.where(back | ahead, usual, steps)
        repairs["clock jump: joined by the usual step"] = int(np.sum(back | ahead))
    return Clock(np.concatenate([[0.0], np.cumsum(steps)]), start, repairs)


def _spread(stamps: Array) -> Array:
    """Rows that share a stamp, as where seconds are not written, evenly over the time to the next one."""
    new = np.flatnonzero(np.concatenate([[True], np.diff(stamps) != 0]))
    if len(new) < 2 or len(new) > MOSTLY_NEW * len(stamps):
        return stamps
    step = float(np.median(np.diff(stamps[new]))) / float(np.median(np.diff(new)))
    # the first and the last group may be parts of one: their rows stand at the usual distance
    first, last = new[1], new[-1]
    inside = np.interp(np.arange(first, last + 1), new[1:], stamps[new[1:]])
    before = stamps[first] - step * np.arange(first, 0, -1)
    after = stamps[last] + step * np.arange(1, len(stamps) - last)
    return np.concatenate([before, inside, after])
