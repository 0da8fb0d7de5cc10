"""Questions for the tests: studies, and where an answer turns."""

from collections.abc import Callable
from typing import Any

from krill.sizing.question import Question, read_question

Json = dict[str, Any]


def axis(address: str, *values: Any, prices: tuple[float, ...] = ()) -> Json:
    options = [{"value": value} for value in values]
    for option, price in zip(options, prices, strict=False):
        option["price"] = price
    return {"address": address, "options": options}


def asked(vary: list[Json], **more: Any) -> Question:
    return read_question({"vary": vary, **more})


def edge(is_above: Callable[[float], bool], low: float, high: float) -> tuple[float, float]:
    """Two values close to each other, the one on this and the other on that side of where a question turns."""
    for _ in range(24):
        middle = (low + high) / 2
        low, high = (low, middle) if is_above(middle) else (middle, high)
    return low, high
