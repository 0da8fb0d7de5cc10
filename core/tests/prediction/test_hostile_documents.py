"""Documents that somebody broke: an answer of finite figures or a refusal in words, never a raw exception, never NaN."""

import copy
import json
import math

import numpy as np
import pytest

from krill.document.reading import read_text, write_object
from krill.errors import KrillError
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.records import to_json

SEEDS = 500
MACHINES = {
    "water_loop": (125, 220, 30, 24.0),
    "outside_radiator": (125, 220, 30, 24.0),
    "ducted_sink": (30, 12, 4, 22.0),
    "fanless_housing": (20, 4, 4, 22.0),
    "thin_box": (45, 40, 10, 22.0),
}
DOCUMENTS = [write_object(RECIPES[name].make(*figures, name)) for name, figures in MACHINES.items()]
VALUES = [
    0,
    -1,
    1e-300,
    1e300,
    -1e9,
    1e6,
    1e-6,
    0.5,
    99,
    "",
    "12,5",
    "nan",
    None,
    True,
    [],
    {},
    "no such thing",
    "µ\u0000",
]
FIGURES = [0, 1e-12, 1e-3, 1, 10, 1e4, 1e12, -5]


def spots(value, path=()):
    """Every place in a document, (path, value)."""
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, item in items:
        yield (*path, key), item
        yield from spots(item, (*path, key))


def at(document, path):
    for key in path:
        document = document[key]
    return document


def stretched(rng, raw):
    """One to six figures ten thousand times smaller or larger: what a reader takes and a solver must bear."""
    numbers = [(path, value) for path, value in spots(raw) if type(value) in (int, float)]
    for _ in range(rng.integers(1, 7)):
        path, value = numbers[rng.integers(len(numbers))]
        at(raw, path[:-1])[path[-1]] = value * 10 ** rng.uniform(-4, 4)


def broken(seed):
    """A document with figures stretched, or with one to four wounds: other kinds, things taken out, or twice."""
    rng = np.random.default_rng(seed)
    raw = copy.deepcopy(DOCUMENTS[seed % len(DOCUMENTS)])
    if seed % 3:
        stretched(rng, raw)
        return json.dumps(raw)
    for _ in range(rng.integers(1, 5)):
        everywhere = list(spots(raw))
        path, value = everywhere[rng.integers(len(everywhere))]
        owner, key = at(raw, path[:-1]), path[-1]
        way = rng.integers(6)
        if way <= 2 and isinstance(value, int | float) and not isinstance(value, bool):
            owner[key] = FIGURES[rng.integers(len(FIGURES))]
        elif way == 3:
            owner[key] = VALUES[rng.integers(len(VALUES))]
        elif way == 4:
            del owner[key]
        elif isinstance(owner, list):
            owner.insert(int(rng.integers(len(owner) + 1)), copy.deepcopy(value))
        else:
            owner[f"{key}x"] = value
    return json.dumps(raw)


def figures_of(value):
    if isinstance(value, dict | list):
        for item in value.values() if isinstance(value, dict) else value:
            yield from figures_of(item)
    elif isinstance(value, float):
        yield value


def outcome(text):
    """What comes of a document: "answered" with finite figures, or "refused" in words."""
    try:
        answer = to_json(predict(read_text(text), samples=4))
    except KrillError as error:
        return "refused" if str(error).strip() else "refused without a word"
    assert all(math.isfinite(figure) for figure in figures_of(answer))
    return "answered"


@pytest.mark.slow
@pytest.mark.parametrize("block", range(10))
def test_500_broken_documents(block):
    outcomes = [outcome(broken(seed)) for seed in range(block * SEEDS // 10, (block + 1) * SEEDS // 10)]
    assert set(outcomes) == {"refused", "answered"}
    assert 5 <= outcomes.count("refused") <= SEEDS // 10 - 5
