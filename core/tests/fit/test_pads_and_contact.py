"""Pads and what a plate lies on: figures against the table they come from, both sides of every threshold, and force sums."""

from typing import Any

import pytest

from krill.document.fit import PlateContact
from krill.fit import pads
from krill.fit.contact import contact_fit


def measured(mm: float, half: float = 0.05) -> dict[str, Any]:
    return {"value": mm, "plus_minus": half, "from": "measured"}


CHIP = {"id": "chip", "name": "Chip", "height_mm": measured(2.25), "filler": "paste"}


def contact(*joints: dict[str, Any], **more: Any) -> Any:
    return contact_fit(PlateContact.model_validate({"id": "c", "joints": [CHIP, *joints], **more}))


def pad(mm: float, height: float, **more: Any) -> dict[str, Any]:
    return {"id": "memory", "name": "Memory", "height_mm": measured(height), "filler": "pad", "pad_mm": mm} | more


@pytest.mark.parametrize(("mm", "resistance"), [(0.5, 134), (1.0, 249), (1.5, 363), (2.0, 477)])
def test_pads_of_five_watts_pressed_by_a_fifth(mm, resistance):
    """Table of common practice: bought 0.5 to 2.0 of 5 W/mK at 20 %."""
    assert float(pads.resistance_mm2k_w(mm, 0.8 * mm, 5.0)) == pytest.approx(resistance, abs=1)


def test_other_pads_of_the_same_table():
    assert float(pads.resistance_mm2k_w(1.0, 0.8, 8.0)) == pytest.approx(163, abs=1)
    assert float(pads.resistance_mm2k_w(1.0, 0.9, 12.0)) == pytest.approx(127, abs=1)


@pytest.mark.parametrize(("hardness", "kpa"), [("very_soft", 45), ("soft", 100), ("middle", 205), ("firm", 460)])
def test_pressure_for_a_fifth(hardness, kpa):
    assert float(pads.pressure_kpa(0.2, hardness)) == pytest.approx(kpa, rel=0.02)


def test_twelve_memory_pads_take_as_much_as_a_chip_needs():
    """Common practice: twelve of 1.4 x 1.2 cm, soft, at 20 %: 200 N."""
    found = contact(pad(1.0, 1.45, area_mm2=12 * 168), force_n=250)
    assert found.pads_n == pytest.approx(202, abs=1)
    assert found.chip_n == pytest.approx(48, abs=1)
    assert found.bond_factor == pytest.approx((48.4 / 250) ** -0.166, rel=1e-3)


def test_the_gap_is_what_heights_and_the_plate_leave():
    joint = contact(pad(1.5, 1.15, step_mm=0.2)).joints[1]
    assert joint.gap_mm == pytest.approx(2.25 + 0.2 - 1.15)
    assert joint.half_mm == pytest.approx((0.05**2 + 0.05**2 + 0.05**2) ** 0.5)


@pytest.mark.parametrize(
    ("mm", "says"),
    [
        (1.09, "floats"),
        (1.11, "presses little"),
        (1.157, "presses little"),
        (1.159, "touches"),
        (1.69, "touches"),
        (1.71, "lifts"),
    ],
)
def test_a_pad_in_a_gap_of_one_point_one(mm, says):
    """Floats below the gap, barely touches below 5 %, lifts a plate beyond 35 % of a soft pad."""
    assert contact(pad(mm, 1.15)).joints[1].says == says


def test_a_pad_that_is_too_thick_lifts_the_plate_off_the_chip():
    found = contact(pad(2.0, 1.15))  # gives to 1.3 mm in a gap of 1.1
    assert found.lifted_mm == pytest.approx(0.2)
    assert found.carried_by == "memory"
    assert found.joints[1].says == "lifts"
    assert found.joints[0].says == "floats"
    assert found.joints[0].resistance_mm2k_w == pytest.approx(1000 * 0.2 / 3.0)


def test_a_tall_neighbour_carries_the_plate_from_a_twentieth_of_a_millimetre():
    def coil(height: float) -> Any:
        return contact({"id": "coil", "height_mm": measured(height), "step_mm": 4.0})

    assert coil(6.29).carried_by is None  # 2.25 + 4.0 = 6.25
    assert coil(6.31).carried_by == "coil"
    assert coil(6.31).joints[1].says == "rests"
    assert coil(6.1).joints[1].says == "close"
    assert coil(6.0).joints[1].says == "clears"


def test_air_stands_in_the_way_of_a_floating_plate():
    joint = contact(pad(0.75, 1.15, conductivity_w_mk=6)).joints[1]
    assert joint.air_mm == pytest.approx(0.35)
    assert joint.resistance_mm2k_w == pytest.approx(1000 * 0.75 / (0.7 * 6) + 20 + 1000 * 0.35 / 0.028)


def test_a_joint_says_its_resistance_in_the_narrowest_and_the_widest_gap():
    joint = contact(pad(1.25, 1.15, step_mm={"value": 0.0, "plus_minus": 0.0})).joints[1]
    half = (2 * 0.05**2) ** 0.5
    ends = [float(pads.resistance_mm2k_w(1.25, 1.1 + sign * half, 5.0)) for sign in (-1, 1)]
    assert (joint.resistance_from, joint.resistance_to) == pytest.approx((ends[0], ends[1]))


def test_putty_fills_what_is_left_and_settles_to_its_filler():
    """135 mm2K/W at 0.5 mm of 4 W/mK less its 10 of both faces (value from memory); never thinner than 80 um."""
    putty = {"id": "memory", "height_mm": measured(1.75), "filler": "putty"}
    assert contact(putty).joints[1].resistance_mm2k_w == pytest.approx(125)
    assert contact(putty | {"height_mm": measured(2.2)}).joints[1].resistance_mm2k_w == pytest.approx(20)
    assert contact(putty | {"height_mm": measured(2.26)}).carried_by == "memory"


def test_the_pad_to_take_touches_in_the_widest_gap_and_lifts_nothing_in_the_narrowest():
    assert pads.pick(1.10, 0.0, "soft") == 1.25
    assert pads.pick(1.10, 0.10, "soft") == 1.5
    assert pads.pick(0.3, 0.2, "firm") is None
    for gap in (0.6, 0.9, 1.4, 2.2):
        chosen = pads.pick(gap, 0.05, "soft")
        assert chosen is not None
        assert pads.strain(chosen, gap + 0.05) >= pads.TOUCHES
        assert pads.strain(chosen, gap - 0.05) <= pads.PADS["soft"].largest


@pytest.mark.parametrize(
    ("used", "diagonal", "factor", "coverage"),
    [(4, True, 1.0, 1.0), (3, True, 1.15, 1.0), (2, True, 1.4, 0.95), (2, False, 3.0, 0.6), (0, True, 1.4, 0.95)],
)
def test_screws_that_are_missing(used, diagonal, factor, coverage):
    """Common practice: a plate that two of four hold."""
    found = contact(screws_used=used, diagonal=diagonal)
    assert (found.bond_factor, found.coverage) == (factor, coverage)


def test_the_worst_joint_speaks_for_the_contact():
    found = contact(pad(0.75, 1.15), {"id": "coil", "height_mm": measured(4.8), "step_mm": 4.0})
    assert (found.worst, found.says) == ("memory", "floats")
    assert contact(pad(1.25, 1.15)).says == "touches"
