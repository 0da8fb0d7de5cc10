"""Coolant-side figures of single parts: what each asks of the coolant that passes it."""

import numpy as np
import pytest
from machines import loop_parts, machine

from krill.components.coolant_parts import FLOW_1, FLOW_4, coolant_edge, plate_law, plate_resistance
from krill.components.figure_table import FigureTable, Values
from krill.document.reading import read_object


def part_and_values(raw_part):
    build = read_object(machine([*loop_parts(), raw_part], [], []))
    return build.part(raw_part["id"]), Values(FigureTable(build), 1, {})


def drop_kpa(raw_part, litres):
    figures = coolant_edge(*part_and_values(raw_part))
    flow = litres / 4 * FLOW_4
    return float(figures.coefficient * flow**figures.exponent) / 1e3


def test_a_loaded_strainer_costs_three_times_a_clean_one():
    """Three times (value from memory), at every flow: the drop goes with the square of it."""
    clean = {"id": "s", "kind": "strainer", "drop_4_kpa": 2}
    assert drop_kpa(clean, 4) == pytest.approx(2)
    assert drop_kpa(clean, 2) == pytest.approx(0.5)
    assert drop_kpa(clean | {"loaded": True}, 4) == pytest.approx(6)


def test_a_plate_goes_through_its_two_drops_or_by_its_kind():
    """With one figure the drop grows with flow to 1.7 (value from memory); no plate's grows slower than the flow."""
    one = {"id": "p", "kind": "plate", "drop_4_kpa": 10}
    assert drop_kpa(one, 4) == pytest.approx(10)
    assert drop_kpa(one, 1) == pytest.approx(10 / 4**1.7)
    assert drop_kpa(one | {"drop_1_kpa": 1.5}, 1) == pytest.approx(1.5)
    for too_much in (2.5, 8, 12):
        assert drop_kpa(one | {"drop_1_kpa": too_much}, 1) == pytest.approx(2.5)
        assert drop_kpa(one | {"drop_1_kpa": too_much}, 4) == pytest.approx(10)


def test_a_plate_resists_heat_by_its_two_figures_and_is_held_at_rest():
    part, values = part_and_values(
        {"id": "p", "kind": "plate", "resistance_1_k_w": 0.08, "resistance_4_k_w": 0.05, "factor": 1}
    )
    at_1, exponent = plate_law(part, values)
    for litres, expected in (
        (1, 0.08),
        (4, 0.05),
        (0.01, 0.08 * 0.01 ** float(exponent)),
        (0, 0.08 * 0.01 ** float(exponent)),
    ):
        got = float(plate_resistance(at_1, exponent, np.asarray(litres * FLOW_1)))
        assert got == pytest.approx(expected), litres


def test_a_coupling_that_is_not_joined_lets_nothing_through():
    joined = {"id": "c", "kind": "coupling", "drop_4_kpa": 3}
    assert drop_kpa(joined, 4) == pytest.approx(3)
    assert drop_kpa(joined | {"joined": False}, 4) > 1e8
