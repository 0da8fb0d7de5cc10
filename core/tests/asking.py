"""Questions for the tests of studies."""

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
