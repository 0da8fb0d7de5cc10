"""The time column of a log: found, read in whatever form it has, and mended where the clock jumped."""

import re
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from typing import Final

import numpy as np
import polars as pl
from numpy.typing import NDArray

from krill.logs.figures import column_of
from krill.logs.units import named, unit_of

Array = NDArray[np.float64]

TIME_NAME: Final = re.compile(
    r"^(date|time|timestamp|datetime|elapsed|uptime|runtime|epoch|clock time|t|sec|seconds|zeit|zeitstempel|datum|uhrzeit|laufzeit"
    r"|temps|heure|horodatage|hora|tiempo|fecha|marca de tiempo|czas|godzina|data|znacznik czasu)(?![^\W_])",
    re.IGNORECASE,
)
#: columns that count rows: no time, however evenly they rise
ROW_NAME: Final = re.compile(
    r"^(#|no\.?|nr\.?|n°|num(ber)?|row|index|idx|id|sample|line|record|zeile|ligne|fila|lp\.?)$", re.IGNORECASE
)
#: days before the first reading of a form that both could mean stand in the order of how common they are
DAYS: Final = (
    "%Y-%m-%d", "%Y/%m/%d", "%Y.%m.%d", "%d.%m.%Y", "%d/%m/%Y", "%m/%d/%Y", "%d-%m-%Y", "%d.%m.%y", "%d/%m/%y", "%m/%d/%y",
    "%d %b %Y", "%d-%b-%Y", "%d. %b %Y", "%b %d %Y", "%b %d, %Y", "%Y%m%d",
)  # fmt: skip
HOURS: Final = ("%H:%M:%S%.f", "%I:%M:%S %p", "%I:%M:%S%p", "%H:%M", "%I:%M %p")
DATETIME_FORMATS: Final = (
    "%Y-%m-%dT%H:%M:%S%.f%#z",
    "%Y-%m-%dT%H:%M:%S%.f",
    "%Y-%m-%d %H:%M:%S%.f%#z",
    "%Y-%m-%dT%H:%M",
    *(f"{day} {hour}" for hour in HOURS for day in DAYS),
)
#: beginnings of the months' names in five languages, in their order
MONTHS: Final = (
    ("jan", "ene", "sty"), ("feb", "fev", "lut"), ("mar",), ("apr", "avr", "abr", "kwi"), ("may", "mai", "maj"),
    ("jun", "juin", "cze"), ("jul", "juil", "lip"), ("aug", "aou", "ago", "sie"), ("sep", "wrz"), ("oct", "okt", "paz"),
    ("nov", "lis"), ("dec", "dez", "dic", "gru"),
)  # fmt: skip
_ENGLISH: Final = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
#: rows by which a form of time is told
TOLD_BY: Final = 64
#: rows that must read as a time, and steps that must not fall back
MOSTLY: Final = 0.9
DAY_S: Final = 86400.0
HOURS_OF_DAY: Final = 24
GAP_FACTOR: Final = 20.0
#: where more rows than this share have a stamp of their own, equal ones are no rounding
MOSTLY_NEW: Final = 0.7
#: rows whose time falls this many times as often as it rises stand newest first
NEWEST_FIRST: Final = 4
#: counts that are seconds, or milliseconds, since 1970
EPOCH_S: Final = (1e9, 1e10)
_SINCE_1970: Final = ((1.0, "seconds"), (1e-3, "milliseconds"), (1e-6, "microseconds"), (1e-9, "nanoseconds"))
#: days since 1899-12-30 as spreadsheets count them, and a step between rows that seconds are not written with
SHEET_DAYS: Final = (30_000.0, 60_000.0)
SHEET_STEP: Final = 0.005


@dataclass(frozen=True)
class Clock:
    """Seconds from the first row, rising; the wall-clock start where the file tells it, and the form of time in words.

    Where no column tells the time, ``told`` is false and the seconds are row numbers. ``jumped`` are the rows where the
    clock was mended; ``newest_first`` tells that the rows of the file fall in time.
    """

    seconds: Array
    start_utc: datetime | None
    form: str = "no column tells the time"
    repairs: dict[str, int] = field(default_factory=dict)
    jumped: tuple[int, ...] = ()
    told: bool = True
    newest_first: bool = False


@dataclass(frozen=True)
class _Stamps:
    seconds: Array
    start_utc: datetime | None
    form: str
    told: bool = True


def read_clock(frame: pl.DataFrame, names: list[str], units: list[str], decimal: str) -> tuple[Clock, set[str]]:
    """The clock of a table of strings and the names of the columns it was read from."""
    by_name = [name for name in names if TIME_NAME.match(name.strip())]
    others = [name for name in names if name not in by_name and not ROW_NAME.match(name.strip())]
    for name in by_name + [n for n in others if _has(frame[n], r"\d:\d\d|T\d\d")]:
        found = _dated(frame[name])
        if found is not None:
            return _mended(found), {name}
    pair = _day_and_hour(frame, by_name + others)
    if pair is not None:
        return _mended(pair[0]), pair[1]
    for name in by_name:
        found = _hours(frame[name]) if _has(frame[name], "[:h]") else None
        found = found or _counted(frame[name], name, units[names.index(name)], decimal, named_so=True)
        if found is not None:
            return _mended(found), {name}
    for name in others:
        found = _hours(frame[name]) if _has(frame[name], ":") else None
        found = found or _counted(frame[name], name, units[names.index(name)], decimal, named_so=False)
        if found is not None:
            return _mended(found), {name}
    rows = np.arange(frame.height, dtype=np.float64)
    return Clock(rows, None, told=False), set()


def _has(series: pl.Series, pattern: str) -> bool:
    return bool(series.head(TOLD_BY).str.contains(pattern).any())


def _in_english(series: pl.Series) -> pl.Series:
    """Stamps with the months' names in English and one blank between words."""
    text = series.str.strip_chars().str.replace(r",(\d{1,6})$", ".$1").str.replace_all(r"\s+", " ")
    few = text.head(TOLD_BY).drop_nulls()
    if not bool(few.str.contains(r"[^\W\d_]{3}").any()):
        return text
    words = {word for stamp in text.drop_nulls().unique() for word in re.findall(r"[^\W\d_]{3,}\.?", stamp)}
    months = {word: month for word in words if (month := _month(word)) is not None}
    text = text.str.replace(r"(?i)\bde\b ?", "").str.replace(r"(?i)\bde\b ?", "")
    return text.str.replace_many(list(months), list(months.values())) if months else text


def _month(word: str) -> str | None:
    bare = word.lower().rstrip(".").translate(str.maketrans("éûäź", "euaz"))
    for english, beginnings in zip(_ENGLISH, MONTHS, strict=True):
        if bare.startswith(beginnings):
            return english
    return None


def _dated(series: pl.Series, hours: pl.Series | None = None) -> _Stamps | None:
    """Stamps of day and time of day; of the forms that read them, the one whose time passes least."""
    whole = series if hours is None else series.str.strip_chars() + " " + hours.str.strip_chars()
    few = _in_english(whole.head(TOLD_BY))
    forms = [form for form in DATETIME_FORMATS if _reads(few.str.to_datetime(form, strict=False))]
    text = _in_english(whole) if forms else few
    best: _Stamps | None = None
    for form in forms:
        parsed = text.str.to_datetime(form, strict=False)
        if not _reads(parsed):
            continue
        if parsed.dtype.time_zone is not None:  # type: ignore[attr-defined]
            parsed = parsed.dt.convert_time_zone("UTC").dt.replace_time_zone(None)
        stamps = parsed.cast(pl.Datetime("us")).to_numpy().astype("datetime64[us]").astype(np.float64) / 1e6
        stamps[parsed.is_null().to_numpy()] = np.nan
        first = float(stamps[np.isfinite(stamps)][0])
        found = _Stamps(
            stamps, datetime.fromtimestamp(first, UTC), f"day and time, as {series.drop_nulls()[0].strip()}"
        )
        if best is None or _span(stamps) < 0.5 * _span(best.seconds):
            best = found
    return best


def _reads(parsed: pl.Series) -> bool:
    return parsed.null_count() <= (1.0 - MOSTLY) * len(parsed)


def _span(stamps: Array) -> float:
    return float(np.nanmax(stamps) - np.nanmin(stamps))


def _day_and_hour(frame: pl.DataFrame, names: list[str]) -> tuple[_Stamps, set[str]] | None:
    """A column of days and one of hours, read together."""
    days = [
        n for n in names if not _has(frame[n], ":") and _has(frame[n], r"^\s*\d{1,4}[-/. ]+\w{1,10}[-/. ,]+\d{1,4}\s*$")
    ]
    hours = [n for n in names if _has(frame[n], r"^\s*\d{1,2}:\d\d")]
    for day in days:
        for hour in hours:
            found = _dated(frame[day], frame[hour])
            if found is not None:
                return replace(found, form=f"day and time in two columns, as {frame[day][0]} and {frame[hour][0]}"), {
                    day,
                    hour,
                }
    return None


def _hours(series: pl.Series) -> _Stamps | None:
    """Times of day or elapsed h:m:s, with or without seconds; a fall back by most of a day is midnight."""
    form = r"^(\d{1,3}):(\d{1,2})(?::(\d{2}(?:[.,]\d+)?))?\s*([AaPp])?\.?(?:[Mm]\.?)?$"
    text = series.str.strip_chars().str.replace(r"^(\d+)\s*h\s*(\d+)\s*m(?:in)?\s*([\d.,]+)\s*s?$", "$1:$2:$3")
    text = text.str.replace(r"^(\d{1,3}:\d{2}[.,]\d+)$", "0:$1")  # a fraction of a second: minutes and seconds
    parts = text.str.extract_groups(form).struct.unnest()
    if parts.height == 0 or parts[parts.columns[0]].null_count() > (1.0 - MOSTLY) * parts.height:
        return None
    hours, minutes, seconds = (
        parts[c].str.replace(",", ".", literal=True).cast(pl.Float64, strict=False).to_numpy()
        for c in parts.columns[:3]
    )
    half = parts[parts.columns[3]].str.to_lowercase()
    if half.null_count() < parts.height:
        hours = hours % 12 + np.where((half == "p").fill_null(value=False).to_numpy(), 12.0, 0.0)
    if parts[parts.columns[2]].null_count() == parts.height and half.null_count() == parts.height:
        if np.nanmax(hours) >= HOURS_OF_DAY:
            return _Stamps(hours * 60 + minutes, None, f"minutes and seconds, as {series.drop_nulls()[0].strip()}")
        if hours[0] == minutes[0] == 0.0:
            rows = np.arange(parts.height, dtype=np.float64)
            return _Stamps(rows, None, "'0:00' may be of hours or of minutes", told=False)
    whole = hours * 3600 + minutes * 60 + np.nan_to_num(seconds)
    midnight = np.cumsum(np.concatenate([[0], np.diff(whole) < -DAY_S / 2]))
    return _Stamps(whole + midnight * DAY_S, None, f"time of day, as {series.drop_nulls()[0].strip()}")


def _counted(series: pl.Series, name: str, spelled: str, decimal: str, *, named_so: bool) -> _Stamps | None:
    """A number that rises with time, in the unit that header or cells write; without one, seconds where its name is a time."""
    column = column_of(series, decimal, spelled)
    values = column.values
    finite = values[np.isfinite(values)]
    if len(finite) < MOSTLY * len(values) or len(finite) < 2:
        return None
    rises, falls = int(np.sum(np.diff(finite) > 0)), int(np.sum(np.diff(finite) < 0))
    least, most = min(rises, falls), max(rises, falls)
    if not most or least > max(1.0, (1.0 - MOSTLY) * most):
        return None
    unit = unit_of(spelled or column.unit or named(name).spelled)
    factor = unit.factor if unit is not None and unit.unit == "s" else None
    low, high = EPOCH_S
    for scale, word in _SINCE_1970:
        if low < finite[0] * scale < high:
            start = datetime.fromtimestamp(float(finite[0] * scale), UTC)
            return _Stamps(values * scale, start, f"{word} since 1970")
    low, high = SHEET_DAYS
    if factor is None and low < finite[0] < high and 0 < np.median(np.abs(np.diff(finite))) < SHEET_STEP:
        return _Stamps((values - finite[0]) * DAY_S, None, "days of a spreadsheet")
    if factor is None and not named_so:
        return None
    words = {1e-3: "milliseconds", 60.0: "minutes", 3600.0: "hours"}.get(factor or 1.0, "seconds")
    told = "" if factor is not None else ", by its name: no unit is written"
    return _Stamps(values * (factor or 1.0), None, f"{words}{told}")


def _mended(found: _Stamps) -> Clock:
    """Rising seconds: missing stamps are filled in, jumps back or far ahead are joined by the usual step."""
    if not found.told:
        return Clock(found.seconds, None, found.form, told=False)
    stamps = found.seconds
    steps = np.diff(stamps[np.isfinite(stamps)])
    if int(np.sum(steps < 0)) > NEWEST_FIRST * max(1, int(np.sum(steps > 0))):
        return replace(_mended(replace(found, seconds=stamps[::-1])), newest_first=True)
    repairs: dict[str, int] = {}
    missing = ~np.isfinite(stamps)
    if missing.any():
        rows = np.arange(len(stamps))
        stamps = np.interp(rows, rows[~missing], stamps[~missing])
        repairs["missing time: filled in between its neighbours"] = int(missing.sum())
    stamps = _spread(stamps)
    steps = np.diff(stamps)
    usual = float(np.median(steps[steps > 0])) if np.any(steps > 0) else 1.0
    wrong = (steps < 0) | (steps > max(GAP_FACTOR * usual, 3600.0))
    if wrong.any():
        steps = np.where(wrong, usual, steps)
        repairs["clock jump: joined by the usual step"] = int(np.sum(wrong))
    touched = tuple(int(i) for i in np.flatnonzero(missing | np.concatenate([[False], wrong])))
    return Clock(np.concatenate([[0.0], np.cumsum(steps)]), found.start_utc, found.form, repairs, touched)


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
