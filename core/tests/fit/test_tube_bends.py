"""Smallest bends of soft tubes against the table of the class, factors on both sides of their thresholds, a U and an S drawn."""

import math

import pytest

from krill.errors import DocumentRefused
from krill.fit.tube_bends import SoftTube, s_length, tube_bend


@pytest.mark.parametrize(
    ("bore", "outside", "radius"),
    [
        (5.5, 10, 18),
        (6, 10, 22),
        (8, 10, 56),
        (8, 11, 42),
        (8, 12, 34),
        (10, 13, 61),
        (10, 16, 39),
        (11, 16, 50),
        (12.7, 19, 55),
    ],
)
def test_radii_of_the_usual_tubes(bore, outside, radius):
    """Class table, computed from Brazier's form; plus or minus a quarter. For 11/16 the table says 53, its own form 50."""
    found = tube_bend(SoftTube(bore, outside))
    assert found.radius_mm == pytest.approx(radius, abs=0.6)
    assert found.half_mm == pytest.approx(radius / 4, abs=0.2)
    assert found.u_pitch_mm == 2 * found.radius_mm


@pytest.mark.parametrize(
    ("changed", "factor"),
    [
        ({"material": "rubber"}, 0.9),
        ({"material": "silicone"}, 0.85),
        ({"material": "polyurethane"}, 1.0),
        ({"at_c": 14.9}, 1.2),
        ({"at_c": 15.0}, 1.0),
        ({"at_c": 44.9}, 1.0),
        ({"at_c": 45.0}, 1.15),
    ],
)
def test_material_and_warmth(changed, factor):
    assert tube_bend(SoftTube(10, 16, **changed)).radius_mm / tube_bend(SoftTube(10, 16)).radius_mm == pytest.approx(
        factor
    )


@pytest.mark.parametrize("offset", [1.0, 20.0, 78.0, 150.0])
def test_an_s_of_two_arcs_ends_where_it_should(offset):
    """Two arcs of one radius, each turned by the same angle: drawn, they lead as far along and as far aside."""
    radius = 39.0
    angle = math.acos(1 - offset / (2 * radius))
    assert s_length(radius, offset) == pytest.approx(2 * radius * math.sin(angle))


def test_an_s_wider_than_two_half_turns_needs_no_way_along():
    assert s_length(39, 0) == 0
    assert s_length(39, 156) == 0
    assert s_length(39, 200) == 0
    assert s_length(39, 155) > 0


@pytest.mark.parametrize(
    ("tube", "offset", "where"),
    [
        (SoftTube(0, 10), 0, "tube/bore_mm"),
        (SoftTube(10, 10.3), 0, "tube/outside_mm"),
        (SoftTube(10, 61), 0, "tube/outside_mm"),
        (SoftTube(10, 16, at_c=101), 0, "tube/at_c"),
        (SoftTube(10, 16), -1, "tube/offset_mm"),
        (SoftTube(float("nan"), 16), 0, "tube/bore_mm"),
    ],
)
def test_what_is_no_soft_tube_is_refused_where_it_stands(tube, offset, where):
    with pytest.raises(DocumentRefused) as refused:
        tube_bend(tube, offset)
    assert where in [problem.where for problem in refused.value.problems]
