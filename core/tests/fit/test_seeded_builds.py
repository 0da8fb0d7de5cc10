"""Thirty builds that do not go together and thirty that do, lengths measured: each fault is told, nothing else is."""

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest

from krill.document.reading import read_object, write_object
from krill.fit.fit import fit_of
from krill.prediction.notices.fit import fit_notices
from krill.recipes.water_loop import water_loop

Data = dict[str, Any]


def measured(mm: float, half: float = 0.1) -> Data:
    return {"value": round(float(mm), 2), "plus_minus": half, "from": "measured"}


def bare() -> Data:
    data = write_object(water_loop(125, 220, 30, 24, "seeded"))
    data["housing"]["inner_size_mm"] = [320, 220, 200]
    data["parts"] += [
        {"id": "a-fan", "kind": "fan", "class": "fan_120x25", "thickness_mm": measured(25.0)},
        {"id": "a-radiator", "kind": "radiator", "section_mm": 120, "sections": 1, "thickness_mm": 30},
    ]
    return data


def slot(data: Data, **says: Any) -> None:
    data["slots"] = [{"id": "slot", "name": "Front", "begins": "mesh", "ends_at": "memory"} | says]


def stack(radiator: float, pads: float) -> list[Any]:
    return [
        {"part": "a-fan", "thickness_mm": measured(25.0)},
        {"name": "pads", "thickness_mm": measured(pads)},
        {"part": "a-radiator", "thickness_mm": measured(radiator)},
    ]


def joint(name: str, height: float, **more: Any) -> Data:
    return {"id": name, "name": name, "height_mm": measured(height, 0.03)} | more


def too_thick(data: Data, good: bool, draw: np.random.Generator) -> None:
    radiator, pads = draw.uniform(28, 60), draw.uniform(0.5, 2)
    slot(data, gap_mm=measured(25 + radiator + pads + (14 if good else -1)), stack=stack(radiator, pads))


def starved(data: Data, good: bool, draw: np.random.Generator) -> None:
    slot(data, gap_mm=measured(56.5 + (14 if good else draw.uniform(1, 5.5))), stack=stack(30, 1.5), ends="closed")


def blades(data: Data, good: bool, draw: np.random.Generator) -> None:
    """A slim fan right behind its panel, or with a mesh between."""
    data["parts"][-2] |= {"class": "fan_120x15", "thickness_mm": measured(15.0)}
    own = {"part": "a-fan", "thickness_mm": measured(15.0)}
    slot(data, gap_mm=measured(60 + draw.uniform(0, 9)), stack=[own], begins="mesh" if good else "closed", ends="open")


def short_screws(data: Data, good: bool, draw: np.random.Generator) -> None:
    slot(data, gap_mm=measured(75), stack=stack(30, 1.5), screw_mm=30 if good else float(draw.uniform(24, 27)))


def long_screws(data: Data, good: bool, draw: np.random.Generator) -> None:
    slot(data, gap_mm=measured(75), stack=stack(30, 1.5), screw_mm=29.5 if good else float(draw.uniform(33, 40)))


def tall_memory(data: Data, good: bool, draw: np.random.Generator) -> None:
    """Memory beneath a low cooler: a slot like any other."""
    memory = draw.uniform(31, 34)
    slot(
        data,
        gap_mm=measured(memory + (3 if good else -2)),
        stack=[{"name": "memory", "thickness_mm": measured(memory)}],
    )


def on_a_neighbour(data: Data, good: bool, draw: np.random.Generator) -> None:
    coil = draw.uniform(4, 6)
    joints = [
        joint("under-chip", 2.2, filler="paste"),
        joint("coil", coil, step_mm=round(coil - 2.2 + (1 if good else -0.5), 2)),
    ]
    data["contacts"] = [{"id": "plate", "name": "Plate", "joints": joints}]


def thin_pad(data: Data, good: bool, draw: np.random.Generator) -> None:
    gap = draw.uniform(1.0, 1.1)
    pad = {"filler": "pad", "pad_mm": 1.25 if good else 0.75, "hardness": "soft"}
    data["contacts"] = [
        {
            "id": "plate",
            "name": "Plate",
            "joints": [joint("under-chip", 2.2, filler="paste"), joint("under-memory", 2.2 - gap, **pad)],
        }
    ]


def hard_pads(data: Data, good: bool, draw: np.random.Generator) -> None:
    """Firm pads on all memory take the force that the chip needs."""
    gap = draw.uniform(0.88, 0.9)
    pad = {"filler": "pad", "pad_mm": 1.0, "hardness": "very_soft" if good else "firm", "area_mm2": 2000}
    data["contacts"] = [
        {
            "id": "plate",
            "name": "Plate",
            "force_n": 250,
            "joints": [joint("under-chip", 2.2, filler="paste"), joint("under-memory", 2.2 - gap, **pad)],
        }
    ]


def in_the_way(data: Data, good: bool, draw: np.random.Generator) -> None:
    apart = 5 if good else -draw.uniform(1, 20)
    size = [60.0, 60.0, 60.0]
    for part_id, x in (("one", 60.0), ("two", 120.0 + apart)):
        outline = {"size_mm": size, "plus_minus_mm": 0.2, "position_mm": [x, 100, 100]}
        data["parts"].append({"id": part_id, "kind": "reservoir", "bore_mm": 9, "outline": outline})


FAULTS: list[tuple[Callable[[Data, bool, np.random.Generator], None], str]] = [
    (too_thick, "does not go in"),
    (starved, "starved"),
    (blades, "blades rub"),
    (short_screws, "too short"),
    (long_screws, "reach the radiator's tubes"),
    (tall_memory, "does not go in"),
    (on_a_neighbour, "rests on coil"),
    (thin_pad, "under-memory floats"),
    (hard_pads, "less than half"),
    (in_the_way, "runs into"),
]
CASES = [pytest.param(make, words, seed, id=f"{make.__name__}-{seed}") for make, words in FAULTS for seed in range(3)]


@pytest.mark.parametrize(("make", "words", "seed"), CASES)
def test_a_bad_build_is_told_of_its_fault_and_of_no_other(make, words, seed):
    data = bare()
    make(data, False, np.random.default_rng(seed))
    warnings = [notice.text for notice in fit_notices(fit_of(read_object(data))) if notice.level == "warning"]
    assert len(warnings) == 1, warnings
    assert words in warnings[0]


@pytest.mark.parametrize(("make", "words", "seed"), CASES)
def test_a_good_build_with_measured_lengths_raises_nothing(make, words, seed):
    data = bare()
    make(data, True, np.random.default_rng(seed))
    assert [notice.text for notice in fit_notices(fit_of(read_object(data)))] == []
