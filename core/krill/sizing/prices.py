"""What candidates cost: the user's figures for the build's parts and for what is bought instead; unknown stays unknown."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload
from krill.sizing.measures import known_prices
from krill.sizing.one_varied import Varied
from krill.sizing.question import Axis, Option
from krill.sizing.result import Edit
from krill.sizing.steps.step import edited
from krill.sizing.varied import varied

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
    one = varied(build, FigureTable(build), axis.address)
    there = one.is_present(option.value, _workload(build, workloads[0]))
    edits = list(one.edits(option.value, workloads))
    document = edited(build, tuple(edits))
    stated = stated_price(build, axis, option)
    if stated is None and there:
        return document, edits
    priced: list[Edit] = [
        Edit(target=part, field="price", value=stated)
        for part in one.on(document, one.table).pieces()
        if stated is not None or document.part(part).price is not None
    ]
    return (edited(document, tuple(priced)) if priced else document), edits + priced


def _workload(build: Build, name: str) -> Workload:
    return next(item for item in build.workloads if item.id == name)


def prices_of(
    build: Build, axes: Sequence[Axis], structural: Sequence[int], options: tuple[Indices, ...], workload: str
) -> Array:
    """Price of candidates of one structure by their option of each axis, (candidate,); NaN where one bought is unknown.

    ``build`` has the options of its ``structural`` axes in it already.
    """
    known = known_prices(build)
    table = FigureTable(build)
    every = [varied(build, table, axis.address) for axis in axes]
    bought = {index: one.bought() for index, one in enumerate(every)}
    beside = [index for index, parts in bought.items() if parts and index not in structural]
    missing = any(part not in known for index in structural for part in bought[index])
    total: Array = np.full(len(options[0]), sum(known.values()) if (known or beside) and not missing else np.nan)
    for index in beside:
        adds = [
            _adds(every[index], axes[index], option, known, bought[index], workload) for option in axes[index].options
        ]
        total = total + np.array(adds)[options[index]]
    return total


def _adds(one: Varied, axis: Axis, option: Option, known: dict[str, float], bought: list[str], workload: str) -> float:
    """What an option adds to the price of a build that has another one now."""
    stated = stated_price(one.build, axis, option)
    if stated is not None:
        return sum(stated - known.get(part, 0.0) for part in bought)
    there = one.is_present(option.value, _workload(one.build, workload))
    return 0.0 if there and all(part in known for part in bought) else float("nan")
