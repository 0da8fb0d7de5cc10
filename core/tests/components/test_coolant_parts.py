"""Coolant-side figures of single parts: what each asks of the coolant that passes it."""

import numpy as np
import pytest
from fluids.friction import Blasius
from ht.conv_internal import laminar_entry_Seider_Tate
from machines import loop_parts, machine

from krill.components.coolant_parts import (
    FLOW_1,
    FLOW_4,
    coolant_edge,
    plate_law,
    plate_resistance,
    plate_with_coolant,
)
from krill.components.edges import Medium, PowerEdges
from krill.components.figure_table import FigureTable, Values
from krill.document.reading import read_object
from krill.materials.fluids import coolant


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


def test_a_drop_scales_as_its_friction_factor_says():
    """Blasius (n = 1.75) by fluids' own friction law: glycol against water at one flow in a smooth tube."""
    one = np.ones((1, 1))
    flow, bore = 4e-3 / 60, 0.006
    area = np.pi / 4 * bore**2

    def drop(rho, mu):
        return Blasius(rho * flow / area * bore / mu) / bore * rho * (flow / area) ** 2 / 2

    stated, other = (994.0, 7.19e-4), (1025.0, 2.3e-3)
    edge = PowerEdges(
        np.array([0]), 0 * one, one * drop(*stated) / flow**1.75, 1.75 * one, stated[0] * one, stated[1] * one
    )
    law = edge.at(Medium(other[0] * one, other[1] * one))
    assert float(law(flow * other[0] * one)[0][0, 0]) == pytest.approx(drop(*other), rel=1e-4)


@pytest.mark.parametrize(("exponent", "inertia", "friction"), [(2.0, 1, 0), (2.2, 1, 0), (1.0, 0, 1), (1.8, 0.8, 0.2)])
def test_what_density_and_viscosity_do_to_a_drop(exponent, inertia, friction):
    one = np.ones((1, 1))
    edge = PowerEdges(np.array([0]), 0 * one, 1e9 * one, exponent * one, 1000 * one, 1e-3 * one)

    def at(rho, mu):
        return float(edge.at(Medium(rho * one, mu * one))(rho * 1e-4 * one)[0][0, 0])

    # the least resistance of every edge at rest is no part of the law: 1e-5 Pa for each kg/s
    assert at(800, 1e-3) / at(1000, 1e-3) == pytest.approx(0.8**inertia, rel=1e-3)
    assert at(1000, 3e-3) / at(1000, 1e-3) == pytest.approx(3**friction, rel=1e-3)


def plate_at(litres, fluid, share=0.0, **figures):
    part, values = part_and_values({"id": "p", "kind": "plate", "factor": 1, **figures})
    at_1, exponent = plate_law(part, values)
    state = coolant(fluid, share).state(35.0)
    return float(plate_with_coolant(at_1, exponent, np.asarray(litres * FLOW_1), state))


def test_the_film_of_a_plate_follows_its_coolant_and_its_metal_does_not():
    """Both points as metal + film q^(-1/3): 0.012 of metal here. Sieder & Tate's laminar entry by ht for the film."""
    film_1 = (0.08 - 0.055) / (1 - 4 ** (-1 / 3))
    figures = {"resistance_1_k_w": 0.08, "resistance_4_k_w": 0.055}

    def film(fluid, share):
        state = coolant(fluid, share).state(35.0)
        Re = float(state.density) * 0.3 * 5e-4 / float(state.viscosity)
        return laminar_entry_Seider_Tate(Re=Re, Pr=float(state.prandtl), L=0.02, Di=5e-4) * float(state.conductivity)

    assert plate_at(1, "water", **figures) == pytest.approx(0.08)
    for share in (0.1, 0.3, 0.5):
        ratio = film("water", 0.0) / film("propylene_glycol", share)
        for litres in (1, 4):
            expected = film_1 * litres ** (-1 / 3) * (ratio - 1) + (0.08 if litres == 1 else 0.055)
            assert plate_at(litres, "propylene_glycol", share, **figures) == pytest.approx(expected, rel=1e-4)


def test_a_plate_that_falls_faster_than_laminar_entry_is_all_film():
    steep = {"resistance_1_k_w": 0.10, "resistance_4_k_w": 0.04}
    ratio = plate_at(1, "ethylene_glycol", 0.5, **steep) / 0.10
    whole = plate_at(1, "ethylene_glycol", 0.5, resistance_1_k_w=0.10, resistance_4_k_w=0.10 * 4 ** (-1 / 3)) / 0.10
    assert ratio == pytest.approx(whole)
    flat = {"resistance_1_k_w": 0.05, "resistance_4_k_w": 0.05}
    assert plate_at(1, "ethylene_glycol", 0.5, **flat) == pytest.approx(0.05)
