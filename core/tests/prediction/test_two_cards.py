"""Two cards one above the other: what the upper one breathes follows from the gap, the lower one's shroud and its back."""

import itertools

import pytest

from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.shared import start_edges
from krill.prediction.answer.solving import solve_cases
from krill.recipes.air_box import CARD_MM, two_cards


def solved(watts=200.0, gap_mm=15.0, **areas):
    """Two cards at full load with a gap between them; some openings of other areas (cm²)."""
    raw = write_object(two_cards(65, watts, 25, 23))
    areas["cards-rim"] = 1.5 * sum(CARD_MM) * gap_mm / 100
    for part in raw["parts"]:
        part |= {"area_cm2": areas[part["id"]]} if part["id"] in areas else {}
    build = read_object(raw)
    return solve_cases(build, [Case(next(item for item in build.workloads if item.id == "both"), 23.0)])


def zone(found, name):
    return float(found.solution.temperature[0, found.structure.zone_nodes[name]])


def chip(found, card):
    return float(found.solution.temperature[0, found.structure.node_of[f"{card}-chip"]])


def through(found, path):
    return float(found.solution.air.mass_flow[0, start_edges(found.structure.air, path)].sum())


@pytest.mark.parametrize("watts", [150, 200, 260])
@pytest.mark.parametrize("gap_mm", [10, 15, 20])
def test_the_upper_card_breathes_air_warmer_by_what_common_practice_reads(watts, gap_mm):
    """Common practice: 12 ± 4 K over the air of the box at 10 to 20 mm, for cards of 150 to 220 W; no share is told."""
    found = solved(watts, gap_mm)
    assert 8.0 <= zone(found, "between-cards") - zone(found, "box") <= 16.0
    assert chip(found, "graphics-2") > chip(found, "graphics") + 5.0


def test_the_narrower_the_gap_the_warmer_the_upper_card():
    warmer = [chip(solved(gap_mm=gap), "graphics-2") for gap in (40, 20, 10, 5)]
    assert all(b > a + 0.2 for a, b in itertools.pairwise(warmer))


def test_what_lies_between_the_cards_is_mixed_by_mass_and_warmed_by_the_lower_ones_back():
    found = solved()
    fresh, blown = through(found, "air-between"), through(found, "air-lower-card")
    assert through(found, "air-graphics-2") == pytest.approx(fresh + blown, rel=1e-6)
    mixed = (fresh * zone(found, "box") + blown * zone(found, "off-graphics")) / (fresh + blown)
    by_back = (chip(found, "graphics") - zone(found, "between-cards")) / 2.5
    c_p = 1006.0
    assert (zone(found, "between-cards") - mixed) * (fresh + blown) * c_p == pytest.approx(by_back, rel=0.02)


def test_with_its_shroud_closed_upwards_the_lower_card_warms_the_upper_by_its_back_alone():
    open_, closed = solved(), solved(**{"graphics-upper": 0.01})
    assert 1.0 < zone(closed, "between-cards") - zone(closed, "box") < 5.0
    assert chip(closed, "graphics-2") < chip(open_, "graphics-2") - 3.0
