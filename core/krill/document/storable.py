"""What no document may hold anywhere, whatever its schema says: numbers beyond measure, and signs that cannot be stored."""

import math
from collections.abc import Iterator
from typing import Any, Final

from krill.document.refusals import address_of
from krill.errors import DocumentRefused, Problem

#: no number of a build comes near
MOST: Final = 1e15
#: nothing of a build lies so deep
MOST_DEEP: Final = 40
MOST_TOLD: Final = 20


def must_be_storable(raw: Any) -> None:
    """DocumentRefused with the address of each thing that no document may hold."""
    found = []
    for problem in _problems(raw):
        found.append(problem)
        if len(found) == MOST_TOLD:
            break
    if found:
        raise DocumentRefused(found)


def _problems(raw: Any) -> Iterator[Problem]:
    waiting: list[tuple[tuple[str | int, ...], Any]] = [((), raw)]
    while waiting:
        path, value = waiting.pop()
        if isinstance(value, dict | list):
            if len(path) > MOST_DEEP:
                yield Problem(address_of(raw, path), "nested too deeply", f"up to {MOST_DEEP} levels")
                continue
            items = value.items() if isinstance(value, dict) else enumerate(value)
            waiting += [((*path, step), inner) for step, inner in items]
            if isinstance(value, dict) and not all(isinstance(key, str) and _can_be_text(key) for key in value):
                yield Problem(address_of(raw, path), "a key with signs that cannot be stored", "text without them")
        elif isinstance(value, str) and not _can_be_text(value):
            yield Problem(address_of(raw, path), "text with signs that cannot be stored", "text without them")
        elif isinstance(value, int | float) and not abs(value) <= MOST:
            what = "not a finite number" if isinstance(value, float) and not math.isfinite(value) else "beyond measure"
            yield Problem(address_of(raw, path), what, f"a number up to {MOST:g}")


def _can_be_text(text: str) -> bool:
    """No half of a sign of two, which is no Unicode, and no NUL, which no database stores."""
    return text.isprintable() or not any(sign == "\0" or "\ud800" <= sign <= "\udfff" for sign in text)
