"""Answers as frozen, typed records made once, and their one form as plain JSON values."""

import csv
import io
import math
from collections.abc import Iterable, Sequence
from dataclasses import fields, is_dataclass
from functools import lru_cache
from typing import Any, Final

#: signs by which spreadsheets know a formula
_FORMULA: Final = ("=", "+", "-", "@", "\t", "\r")


@lru_cache(maxsize=256)
def _names(record: type) -> tuple[str, ...]:
    return tuple(field.name for field in fields(record))


def inert(cell: Any) -> Any:
    """A cell of a table for people: text that a spreadsheet would take for a formula is marked as text."""
    if not isinstance(cell, str) or cell[:1] not in _FORMULA or _is_figure(cell):
        return cell
    return "'" + cell


def _is_figure(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def as_csv(rows: Iterable[Sequence[Any]]) -> str:
    """Rows, the header first, as CSV for people: formulas are marked as text, None is empty."""
    out = io.StringIO()
    csv.writer(out).writerows([inert(cell) for cell in row] for row in rows)
    return out.getvalue()


def to_json(value: Any) -> Any:
    """A record, or records in lists, tuples and tables, as plain JSON values; what is not finite is null."""
    if is_dataclass(value) and not isinstance(value, type):
        return {name: to_json(getattr(value, name)) for name in _names(type(value))}
    if isinstance(value, dict):
        return {str(key): to_json(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [to_json(item) for item in value]
    if isinstance(value, float) and not math.isfinite(value):
        return None
    return value
