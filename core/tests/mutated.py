"""Build documents that something has broken: values of the wrong kind, size or sign anywhere, things left out and doubled."""

import copy
import os
import random
from collections.abc import Iterator
from functools import cache
from typing import Any

from krill.document.reading import write_object
from krill.recipes.book import RECIPES

#: how many times as many attacks as in every run of the tests: bin/attack sets it
ROUNDS = int(os.environ.get("KRILL_ATTACK", "1"))

BAD: tuple[Any, ...] = (
    10**400,
    -(10**400),
    2**63,
    1e308,
    1e20,
    -1e20,
    1e-20,
    5e-324,
    float("inf"),
    float("nan"),
    0,
    -0.0,
    -1,
    0.5,
    1e6,
    True,
    None,
    "",
    "1e5",
    "\ud800",
    "a\x00b",
    "x" * 100_000,
    [],
    {},
    [[]],
    {"value": 1e30},
    {"value": 1, "plus_minus": 1e30},
    {"value": 1e6, "from": "measured", "plus_minus": {"minus": 0, "plus": 1e31}},
)
FACTORS = (1e-3, 1e-2, 0.1, 10, 100, 1000)


@cache
def starts() -> list[dict[str, Any]]:
    """A document of each recipe."""
    return [write_object(recipe.make(*recipe.starts, 25.0, name)) for name, recipe in RECIPES.items()]


def places_in(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Paths of everything in a JSON value, the whole last."""
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from places_in(inner, (*path, key))
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            yield from places_in(inner, (*path, index))
    yield path


def mutated(value: Any, chance: random.Random) -> Any:
    """A copy with one or two things broken."""
    made = copy.deepcopy(value)
    for _ in range(chance.choice((1, 1, 1, 2))):
        paths = [path for path in places_in(made) if path]
        if paths:
            _break(made, chance.choice(paths), chance)
    return made


def _break(made: Any, path: tuple[Any, ...], chance: random.Random) -> None:
    holder = made
    for step in path[:-1]:
        holder = holder[step]
    last, kind = path[-1], chance.random()
    here = holder[last]
    if isinstance(here, int | float) and not isinstance(here, bool) and abs(here) < 1e300 and kind < 0.6:
        holder[last] = here * chance.choice(FACTORS)
    elif kind < 0.75:
        holder[last] = copy.deepcopy(chance.choice(BAD))
    elif isinstance(holder, dict) and kind < 0.85:
        del holder[last]
    elif isinstance(holder, list):
        holder.append(copy.deepcopy(here))
    else:
        holder[last] = [copy.deepcopy(here)] * 3
