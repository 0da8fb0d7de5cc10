"""Numbers of a log's columns: decimal sign and grouping told by the column, units in cells, states as 0 and 1."""

from collections import Counter
from dataclasses import dataclass
from typing import Final

import numpy as np
import polars as pl
from numpy.typing import NDArray

from krill.logs.cells import DOUBTFUL, DRESSED, STATES
from krill.logs.units import unit_of

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

#: units whose figures nobody writes with three decimals: a sign before three digits parts thousands
WHOLE: Final = frozenset({"rpm", "MHz"})
#: a count of nanoseconds since 1970 is the largest figure that a log may hold
LARGEST: Final = 1e19
_BLANKS: Final = "[\u00a0\u2007\u2009\u202f]"
_MINUS: Final = "−"
#: share of a column's figures that must carry a unit for it to be the column's
MOSTLY: Final = 0.8


@dataclass(frozen=True)
class Column:
    """A column's numbers (row,), the unit its cells carry, cells of doubt or of text, and whether its cells are states."""

    values: Array
    unit: str
    doubtful: Mask
    unread: Mask
    state: bool = False


def decimal_of(frame: pl.DataFrame, rows: int = 200) -> str:
    """The decimal sign of a table, "" where nothing in it tells: by figures that no thousands could make."""
    commas = points = 0
    few = frame.head(rows)
    for name in few.columns:
        text = few[name].str.strip_chars()
        for sign in (",", "."):
            count = int(text.str.contains(_only_decimal(sign)).sum() or 0)
            commas, points = (commas + count, points) if sign == "," else (commas, points + count)
    return "" if commas == points == 0 else "," if commas > points else "."


def _only_decimal(sign: str) -> str:
    """Figures in which a sign can part nothing but decimals: not three digits behind it, or thousands before it."""
    other = "." if sign == "," else ","
    short, zero = rf"\d+\{sign}(\d{{1,2}}|\d{{4,}})", rf"0\{sign}\d+"
    long, grouped = rf"\d{{4,}}\{sign}\d+", rf"\d{{1,3}}(\{other}\d{{3}})+\{sign}\d+"
    return rf"^[~<>]?\s*[+\-−]?({short}|{zero}|{long}|{grouped})([^\d:/.,\-].*)?$"


def column_of(series: pl.Series, decimal: str, unit: str) -> Column:
    """The numbers of a column of text; ``unit`` as the header writes it, "" where it does not."""
    bare = series.cast(pl.Float64, strict=False)
    if bare.null_count() == series.null_count() and not _maybe_grouped(series, decimal, unit):
        nobody = np.zeros(len(series), dtype=bool)
        return Column(_numbers(bare), "", nobody, nobody)
    text = series.str.strip_chars().str.replace_all(_BLANKS, " ").str.replace(_MINUS, "-", literal=True)
    said = (text.is_not_null() & (text != "")).fill_null(value=False)
    direct = text.cast(pl.Float64, strict=False)
    nobody = np.zeros(len(text), dtype=bool)
    if bool((direct.is_not_null() | ~said).all()) and not _maybe_grouped(text, decimal, unit):
        return Column(_numbers(direct), "", nobody, nobody)
    states = _states(text, said)
    if states is not None:
        return Column(states, "", nobody, nobody, state=True)
    parts = text.str.extract_groups(DRESSED).struct.unnest()
    figure, power, carried = (parts[name] for name in parts.columns)
    figure = _in_points(figure.str.replace_all(r"[ '’]", ""), decimal, unit or _most(carried))
    numbers = (figure + power.fill_null("")).cast(pl.Float64, strict=False).fill_null(direct)
    read = numbers.is_not_null()
    doubtful = (text.str.contains(DOUBTFUL) & read).fill_null(value=False)
    return Column(_numbers(numbers), _carried(carried, read), _mask(doubtful), _mask(said & ~read))


def _numbers(series: pl.Series) -> Array:
    """Figures as they stand; what is beyond anything that is measured is none."""
    values = series.to_numpy().astype(np.float64)
    return np.where(np.abs(values) <= LARGEST, values, np.nan)


def _mask(series: pl.Series) -> Mask:
    return np.asarray(series.fill_null(value=False).to_numpy(), dtype=bool)


def _states(text: pl.Series, said: pl.Series) -> Array | None:
    """1 and 0 where every cell is a yes or no."""
    words = text.filter(said).str.to_lowercase().unique().to_list()
    if not words or not all(word in STATES for word in words):
        return None
    return _numbers(text.str.to_lowercase().replace_strict(STATES, default=None, return_dtype=pl.Float64))


def _most(carried: pl.Series) -> str:
    counts = Counter(str(text).strip() for text in carried.drop_nulls().head(400) if str(text).strip())
    return counts.most_common(1)[0][0] if counts else ""


def _carried(carried: pl.Series, read: pl.Series) -> str:
    """The unit that most figures of a column carry; "" where most carry none that is known."""
    unit = _most(carried)
    if not unit or unit_of(unit) is None:
        return ""
    having = int((carried.str.strip_chars() == unit).sum() or 0)
    return unit if having >= MOSTLY * int(read.sum()) else ""


def _maybe_grouped(text: pl.Series, decimal: str, unit: str) -> bool:
    """Whether what reads as a decimal point may part thousands."""
    if decimal == "." and not _is_whole(unit):
        return False
    return bool(text.str.contains(r"^[+-]?[1-9]\d{0,2}(\.\d{3})+$").any())


def _is_whole(unit: str) -> bool:
    found = unit_of(unit)
    return found is not None and found.unit in WHOLE and found.factor == 1.0


def _in_points(figure: pl.Series, decimal: str, unit: str) -> pl.Series:
    """Figures with a decimal point and no grouping."""
    both = figure.str.contains(r"\..*,|,.*\.")
    if bool(both.any()):
        comma_last = bool(figure.filter(both.fill_null(value=False)).str.contains(r"\..*,").any())
        return _bare(figure, "." if comma_last else ",")
    for sign in (".", ","):
        with_sign = figure.filter(figure.str.contains(sign, literal=True).fill_null(value=False))
        if len(with_sign) == 0:
            continue
        grouped = bool(with_sign.str.contains(rf"^[+-]?[1-9]\d{{0,2}}(\{sign}\d{{3}})+$").all())
        twice = bool(with_sign.str.contains(rf"\{sign}.*\{sign}").any())
        if grouped and (twice or _is_whole(unit) or decimal not in ("", sign)):
            return _bare(figure, sign)
    return figure.str.replace(",", ".", literal=True)


def _bare(figure: pl.Series, thousands: str) -> pl.Series:
    return figure.str.replace_all(thousands, "", literal=True).str.replace(",", ".", literal=True)
