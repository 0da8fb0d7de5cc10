"""Stacks in slots: sums and tolerances against closed forms and Monte Carlo, both sides of every threshold."""

import math
from typing import Any

import numpy as np
import pytest

from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.fit.stack import LEAST_GAP_MM, StackFit, breathes, left_in, stack_fit
from krill.recipes.water_loop import water_loop


def measured(mm: float, half: float = 0.2) -> dict[str, Any]:
    return {"value": mm, "plus_minus": half, "from": "measured"}


def build_with(slot: dict[str, Any], **parts: dict[str, Any]) -> Any:
    """A water loop with one more fan and radiator, whose figures may be changed, and a slot."""
    data = write_object(water_loop(125, 220, 30, 24, "fit"))
    data["parts"] += [
        {"id": "a-fan", "kind": "fan", "class": "fan_120x25"} | parts.get("fan", {}),
        {"id": "a-radiator", "kind": "radiator", "section_mm": 120, "sections": 1, "thickness_mm": 30}
        | parts.get("radiator", {}),
        {"id": "a-filter", "kind": "filter", "class": "filter_fine", "area_cm2": 100},
    ]
    data["slots"] = [{"id": "slot", "gap_mm": measured(60), "stack": []} | slot]
    return read_object(data)


def fit(slot: dict[str, Any], **parts: dict[str, Any]) -> StackFit:
    build = build_with(slot, **parts)
    return stack_fit(build, build.slots[0])


def layer(mm: float, half: float = 0.2, **more: Any) -> dict[str, Any]:
    return {"thickness_mm": measured(mm, half)} | more


def test_thirty_and_twenty_five_take_fifty_five():
    """Common practice: a slim radiator of 30 with a fan of 25 takes 55 mm, with pads 55 to 57."""
    assert fit({"stack": ["a-fan", "a-radiator"]}).takes_mm == 55.0
    with_pads = fit({"stack": ["a-fan", layer(1.5, 0.8, name="pads"), "a-radiator"]})
    assert with_pads.takes_mm == 56.5


def test_thirty_eight_and_twenty_five_take_sixty_three_to_sixty_five():
    """Common practice, with screws and tolerance."""
    found = fit({"stack": ["a-fan", layer(1.5, 0.8), "a-radiator"]}, radiator={"thickness_mm": 38})
    assert found.takes_mm == 64.5
    assert found.half_mm is not None
    assert 1.0 < found.half_mm < 2.0


def test_tolerances_add_in_quadrature():
    found = fit({"gap_mm": measured(100, 0.5), "stack": [layer(30, 0.3), layer(20, 0.4), layer(10, 1.2)]})
    assert found.half_mm == pytest.approx(math.sqrt(0.25 + 0.09 + 0.16 + 1.44))
    assert [(item.from_mm, item.to_mm) for item in found.standing] == [(0, 30), (30, 50), (50, 60)]
    assert [item.half_mm for item in found.standing] == pytest.approx([0.3, 0.5, 1.3])


def test_the_band_holds_nine_of_ten_drawn_stacks():
    """Monte Carlo by another road: normal lengths whose 90 % half widths are those stated."""
    found = fit({"gap_mm": measured(100, 0.8), "stack": [layer(30, 0.3), layer(25, 1.1), layer(38, 0.7)]})
    rng = np.random.default_rng(7)
    drawn = 100 + 0.8 / 1.6449 * rng.standard_normal(200_000)
    for mm, half in ((30, 0.3), (25, 1.1), (38, 0.7)):
        drawn -= mm + half / 1.6449 * rng.standard_normal(200_000)
    assert found.left_mm is not None
    assert found.half_mm is not None
    assert np.mean(np.abs(drawn - found.left_mm) <= found.half_mm) == pytest.approx(0.90, abs=0.005)


@pytest.mark.parametrize(
    ("gap", "says"),
    [
        (50.51, "fits"),
        (50.49, "measure"),
        (50.0, "measure"),
        (49.51, "measure"),
        (49.49, "does not fit"),
        (30, "does not fit"),
    ],
)
def test_what_is_left_against_its_tolerance_decides(gap, says):
    assert fit({"gap_mm": measured(gap, 0.3), "stack": [layer(50, 0.4)]}).says == says  # together 0.5


def test_class_figures_alone_never_say_fits():
    assert fit({"stack": ["a-fan"]}).says == "fits by class"
    assert fit({"stack": ["a-fan"]}).to_measure == ["a-fan"]
    assert fit({"stack": [{"part": "a-fan", "thickness_mm": measured(25.1)}]}).says == "fits"
    guessed = {"value": 60, "plus_minus": 1, "from": "estimate"}
    assert fit({"gap_mm": guessed, "stack": [layer(20)]}).says == "fits by class"


def test_what_has_no_thickness_is_named_and_nothing_is_claimed():
    data_parts = {"fan": {"class": None}}
    found = fit({"stack": ["a-fan", "a-radiator"]}, **data_parts)
    assert found.says == "unknown"
    assert (found.takes_mm, found.left_mm, found.half_mm) == (None, None, None)
    assert found.unknown == ["a-fan"]


def test_a_part_is_as_thick_as_it_states_itself_before_its_class():
    assert fit({"stack": ["a-fan"]}, fan={"thickness_mm": measured(27)}).takes_mm == 27
    assert fit({"stack": ["a-fan"]}, fan={"outline": {"size_mm": [120, 120, 26]}}).takes_mm == 26
    assert fit({"stack": ["a-fan"]}, fan={"outline": {"body": "fan_120x38"}}).takes_mm == 38


@pytest.mark.parametrize(
    ("share", "word"),
    [(0.23, "freely"), (0.2199, "well"), (0.111, "well"), (0.1099, "loudly"), (0.051, "loudly"), (0.0499, "starved")],
)
def test_breathing_room_by_its_share_of_the_span(share, word):
    assert breathes(share * 120, 120) == word


def test_breathing_room_follows_the_law_of_a_close_panel():
    """K = 0.8 (D / 4g)^2: 1.0, 4.1, 20 at the three shares (common practice says 1, 4.3, 20)."""
    losses = [0.8 * (0.25 / share) ** 2 for share in (0.22, 0.11, 0.05)]
    assert losses == pytest.approx([1.0, 4.3, 20.0], rel=0.05)


def test_three_mm_under_a_closed_panel_starve_and_an_open_end_asks_nothing():
    closed = fit({"stack": [{"part": "a-fan", "thickness_mm": measured(57)}], "ends": "closed"})
    assert closed.left_mm == pytest.approx(3.0)
    assert closed.breathes == "starved"
    assert fit({"stack": [{"part": "a-fan", "thickness_mm": measured(57)}], "ends": "open"}).breathes is None


def test_the_last_that_breathes_gives_the_span():
    assert fit({"stack": ["a-fan", "a-radiator"]}, radiator={"section_mm": 140}).span_mm == 140
    assert fit({"stack": ["a-radiator", "a-fan"]}, radiator={"section_mm": 140}).span_mm == 120
    assert fit({"stack": [layer(10)]}).span_mm is None


@pytest.mark.parametrize(
    ("slot", "rubs_on", "room"),
    [
        ({"stack": ["a-fan"], "begins": "closed"}, "the panel", 0.2),
        ({"stack": ["a-fan"], "begins": "perforated"}, "the panel", 0.2),
        ({"stack": ["a-filter", "a-fan"], "begins": "open", "ends": "open"}, "a-filter", 0.2),
        ({"stack": [layer(59, 0.2), "a-fan"], "begins": "open", "gap_mm": measured(86), "ends_at": "lid"}, "lid", 2.2),
    ],
)
def test_blades_keep_a_millimetre_from_flat_things(slot, rubs_on, room):
    """Blades of a 120 x 25 stand 1.2 mm behind the face of their frame (value from memory)."""
    found = fit(slot)
    assert found.rubs_on == rubs_on
    assert found.blades_mm == pytest.approx(room)


def test_blades_have_nothing_to_rub_on_behind_a_mesh_and_before_nothing():
    assert fit({"stack": ["a-fan"], "begins": "mesh", "ends": "open"}).blades_mm is None


@pytest.mark.parametrize(
    ("screw", "says"),
    [
        (26.2, "too short"),
        (26.4, "fit"),
        (28.9, "fit"),
        (29.1, "measure"),
        (30.9, "measure"),
        (31.1, "reach the tubes"),
    ],
)
def test_screws_hold_in_the_flange_and_end_before_the_tubes(screw, says):
    """25 mm of fan: 1.3 mm hold; the tubes begin 6 mm behind the flange, 2 mm before them it ends (common practice)."""
    found = fit({"stack": ["a-fan", "a-radiator"], "screw_mm": screw})
    assert found.screws is not None
    assert found.screws.says == says
    assert found.screws.hold_mm == pytest.approx(screw - 25)
    assert found.screws.before_tube_mm == pytest.approx(31 - screw)


def test_usual_screws_of_usual_fans_fit():
    """Common practice: 15 mm fan M3 x 18 to 20, 25 mm fan M3 x 28 to 30, both with pads of 1.5."""
    for fan, screw in (("fan_120x15", 20), ("fan_120x25", 30)):
        found = fit({"stack": ["a-fan", layer(1.5, 0.8), "a-radiator"], "screw_mm": screw}, fan={"class": fan})
        assert found.screws is not None
        assert found.screws.says == "fit"


def test_a_gap_is_what_its_slot_leaves_and_never_less_than_next_to_nothing():
    def gap_of(stack: list[Any]) -> tuple[float, float]:
        data = write_object(build_with({"stack": stack}))
        data["parts"].append({"id": "gap", "kind": "gap", "slot": "slot", "span_mm": 120})
        data["air_paths"][0]["elements"].append("gap")
        build = read_object(data)
        return left_in(stack_fit(build, build.slots[0]))

    assert gap_of([layer(50, 0.0)]) == (pytest.approx(10.0), pytest.approx(0.2))
    assert gap_of([layer(70)])[0] == LEAST_GAP_MM


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"stack": ["nothing"]}, "slot/stack"),
        ({"stack": ["a-fan", "a-fan"]}, "slot/stack"),
        ({"stack": [{"name": "gasket"}]}, "slot/thickness_mm/0"),
        ({"stack": [layer(-1)]}, "slot/thickness_mm/0"),
        ({"gap_mm": 0}, "slot/gap_mm"),
        ({"gap_mm": 1e9}, "slot/gap_mm"),
    ],
)
def test_a_slot_that_cannot_be_is_refused_where_it_stands(change, where):
    with pytest.raises(DocumentRefused) as refused:
        fit(change)
    assert where in [problem.where for problem in refused.value.problems]


@pytest.mark.parametrize(
    ("gap", "where"),
    [
        ({}, "gap/gap_mm"),
        ({"gap_mm": 5, "slot": "slot"}, "gap/gap_mm"),
        ({"slot": "other"}, "gap/slot"),
    ],
)
def test_a_gap_is_stated_or_left_by_a_slot(gap, where):
    data = write_object(build_with({"stack": [layer(50)]}))
    data["parts"].append({"id": "gap", "kind": "gap", "span_mm": 120} | gap)
    with pytest.raises(DocumentRefused) as refused:
        read_object(data)
    assert [problem.where for problem in refused.value.problems] == [where]
