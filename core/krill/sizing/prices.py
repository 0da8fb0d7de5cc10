"""What candidates cost: the user's figures for the build's parts and for what is bought instead; unknown stays unknown."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.sizing.axis import bought_parts, edits_of, is_present, movers_of
from krill.sizing.measures import known_prices
from krill.sizing.question import Axis, Option
from krill.sizing.result import Edit
from krill.sizing.steps.step import edited

Array = NDArray[np.float64]
Indices = NDArray[np.int64]


def stated_price(build: Build, axis: Axis, option: Option) -> float | None:
    """What the user says that one piece of an option costs: with the question, or among the prices of the build."""
    found = option.price if option.price is not None else build.prices.get(f"{axis.address}={option.value}")
    return None if found is None else float(found)


def with_option(build: Build, axis: Axis, option: Option, workloads: list[str]) -> tuple[Build, list[Edit]]:
    """A build with an option taken over, what it costs on the parts that it buys, and the edits that do both.

    Fans that come with more sections cost what those beside them do. DocumentRefused where the option cannot be.
    """
    there = is_present(build, FigureTable(build), axis, option, workloads[0])
    edits = list(edits_of(build, axis, option, workloads))
    document = edited(build, tuple(edits))
    stated = stated_price(build, axis, option)
    if stated is None and there:
        return document, edits
    priced: list[Edit] = [
        {"target": part, "field": "price", "value": stated}
        for part in _pieces(document, axis)
        if stated is not None or document.part(part).price is not None
    ]
    return (edited(document, tuple(priced)) if priced else document), edits + priced


def _pieces(build: Build, axis: Axis) -> list[str]:
    """Parts that the price of an option is stated for, each: those it buys but for fans that come along."""
    owner = axis.address.split("/")[0]
    bought = bought_parts(build, axis)
    return bought if movers_of(build, owner) else [part for part in bought if part == owner]


def prices_of(
    build: Build, axes: Sequence[Axis], structural: Sequence[int], options: tuple[Indices, ...], workload: str
) -> Array:
    """Price of candidates of one structure by their option of each axis, (candidate,); NaN where one bought is unknown.

    ``build`` has the options of its ``structural`` axes in it already.
    """
    known = known_prices(build)
    bought = {index: bought_parts(build, axis) for index, axis in enumerate(axes)}
    beside = [index for index, parts in bought.items() if parts and index not in structural]
    missing = any(part not in known for index in structural for part in bought[index])
    total: Array = np.full(len(options[0]), sum(known.values()) if (known or beside) and not missing else np.nan)
    for index in beside:
        adds = [_adds(build, axes[index], option, known, bought[index], workload) for option in axes[index].options]
        total = total + np.array(adds)[options[index]]
    return total


def _adds(build: Build, axis: Axis, option: Option, known: dict[str, float], bought: list[str], workload: str) -> float:
    """What an option adds to the price of a build that has another one now."""
    stated = stated_price(build, axis, option)
    if stated is not None:
        return sum(stated - known.get(part, 0.0) for part in bought)
    there = is_present(build, FigureTable(build), axis, option, workload)
    return 0.0 if there and all(part in known for part in bought) else float("nan")
