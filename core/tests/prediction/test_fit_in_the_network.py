"""What slots and contacts hand to the network, and what it hands back: one document, one truth."""

import itertools
from typing import Any

import pytest

from krill.components.figure_table import FigureTable
from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.prediction.questions.gap_cost import gap_costs
from krill.recipes.water_loop import water_loop


def measured(mm: float, half: float = 0.5) -> dict[str, Any]:
    return {"value": mm, "plus_minus": half, "from": "measured"}


def loop() -> dict[str, Any]:
    return write_object(water_loop(125, 220, 30, 24, "fit in the network"))


def radiator_path(data: dict[str, Any]) -> dict[str, Any]:
    radiators = {part["id"] for part in data["parts"] if part["kind"] == "radiator"}
    return next(path for path in data["air_paths"] if radiators & {e for e in path["elements"] if isinstance(e, str)})


def with_gap(gap: dict[str, Any], slot_mm: float = 60.0, takes: float = 50.0) -> Any:
    """A loop whose radiator breathes through a gap of 120 mm span."""
    data = loop()
    data["slots"] = [
        {
            "id": "slot",
            "name": "Slot",
            "gap_mm": measured(slot_mm),
            "stack": [{"name": "all", "thickness_mm": measured(takes)}],
        }
    ]
    data["parts"].append({"id": "gap", "kind": "gap", "span_mm": 120} | gap)
    radiator_path(data)["elements"].append("gap")
    return read_object(data)


def test_leads_across_a_way_block_it_by_their_width():
    """Two leads of 8 mm across 100 cm²: a square of 100 mm, 16 % of it; the law of bundles on that share."""

    def built(obstacle: dict[str, Any]) -> Any:
        data = loop()
        ends = [part["id"] for part in data["parts"][:2]]
        data["leads"] = [
            {"id": f"feed-{i}", "class": "feed_8", "from_part": ends[0], "to_part": ends[1]} for i in range(2)
        ]
        data["parts"].append({"id": "leads-across", "kind": "obstacle", "area_cm2": 100} | obstacle)
        radiator_path(data)["elements"].append("leads-across")
        return read_object(data)

    figure = FigureTable(built({"leads": ["feed-0", "feed-1"]})).figures["leads-across/blocked_share"]
    assert figure.value == pytest.approx(0.16)
    assert figure.tolerance.plus == pytest.approx(0.25 * 0.16)
    assert not figure.quantity.varies
    free = temperatures(built({"leads": ["feed-0"], "area_cm2": 1000}))
    blocked = temperatures(built({"leads": ["feed-0", "feed-1"]}))
    assert blocked["processor-core"] > free["processor-core"]
    for wrong in ({}, {"blocked_share": 0.2, "leads": ["feed-0"]}, {"leads": ["nothing"]}):
        with pytest.raises(DocumentRefused):
            built(wrong)


def temperatures(build: Any) -> dict[str, float]:
    return {place.address: place.temperature_c for place in predict(build, ["both"], samples=0).workloads[0].places}


def test_what_a_slot_leaves_is_solved_as_if_it_were_stated():
    assert temperatures(with_gap({"slot": "slot"})) == temperatures(with_gap({"gap_mm": 10}))


def test_its_band_is_that_of_both_lengths():
    figure = FigureTable(with_gap({"slot": "slot"})).figures["gap/gap_mm"]
    assert figure.value == pytest.approx(0.010)
    assert figure.tolerance.minus == figure.tolerance.plus == pytest.approx(0.5e-3 * 2**0.5)
    assert figure.origin == "measured"
    assert not figure.quantity.varies


def test_a_gap_by_class_lengths_says_so():
    data = write_object(with_gap({"slot": "slot"}))
    data["slots"][0]["stack"] = [{"name": "guess", "thickness_mm": {"value": 50, "plus_minus": 1, "from": "class"}}]
    assert FigureTable(read_object(data)).figures["gap/gap_mm"].origin == "class"


def test_less_room_is_never_cooler_and_a_collision_is_solved_as_no_room():
    found = [temperatures(with_gap({"slot": "slot"}, takes=takes)) for takes in (30.0, 50.0, 55.0, 57.0)]
    for wider, closer in itertools.pairwise(found):
        assert closer["processor-core"] > wider["processor-core"]
    collides, none = (
        predict(build, ["both"], samples=0).workloads[0]
        for build in (with_gap({"slot": "slot"}, takes=70.0), with_gap({"gap_mm": 0.2}))
    )
    assert collides.no_state is not None
    assert collides.no_state == none.no_state


@pytest.mark.parametrize(("panel", "share"), [(1.1, 0.88), (3.1, 2.16)])
def test_holes_in_the_panel_are_a_way_beside_the_rim(panel, share):
    """At 3 mm before 120 mm: honeycomb 0.9, dense holes 2.2 (common practice); the closed form of two ways in parallel."""
    from krill.components.air_parts import air_edge
    from krill.components.figure_table import Values

    build = with_gap({"gap_mm": 3, "panel_loss": panel, "area_cm2": 100})
    closed = with_gap({"gap_mm": 3, "area_cm2": 100})
    found = [air_edge(b.part("gap"), Values(FigureTable(b), 1, {})).coefficient for b in (build, closed)]
    assert float(found[0] / found[1]) * 80.0 == pytest.approx(share, rel=0.01)


def test_what_a_gap_costs_is_the_difference_of_two_predictions():
    build = with_gap({"slot": "slot"}, takes=57.0)
    (cost,) = gap_costs(build, "both")
    here, free = temperatures(build), temperatures(with_gap({"gap_mm": 1200}))
    assert cost.left_mm == pytest.approx(3.0)
    assert cost.costs_k == pytest.approx(max(here[place] - free[place] for place in here), abs=0.02)
    assert cost.costs_k > 0.3


def test_the_curve_of_a_gap_falls_and_holds_the_slot_itself():
    (cost,) = gap_costs(with_gap({"slot": "slot"}, takes=57.0), "both")
    assert cost.curve[0] == (pytest.approx(0.2), None)  # no air: coolant boils
    kelvins = [k for _, k in cost.curve if k is not None]
    assert len(kelvins) > 10
    assert all(later <= earlier + 1e-6 for earlier, later in itertools.pairwise(kelvins))
    assert dict(cost.curve)[min((mm for mm, _ in cost.curve), key=lambda mm: abs(mm - 3.0))] == pytest.approx(
        cost.costs_k, rel=0.05
    )


def test_a_collision_has_no_kelvins_and_still_a_curve():
    (cost,) = gap_costs(with_gap({"slot": "slot"}, takes=70.0), "both")
    assert (cost.left_mm, cost.costs_k) == (pytest.approx(0.2), None)
    assert max(k for _, k in cost.curve if k is not None) > 1.0


def test_slots_that_nothing_breathes_have_no_cost():
    assert gap_costs(with_gap({"gap_mm": 10}), "both") == []


def test_a_slot_whose_stack_nobody_knows_is_refused_where_it_stands():
    data = write_object(with_gap({"slot": "slot"}))
    data["parts"].append({"id": "odd", "kind": "duct", "length_m": 0.1, "bore_mm": 60})
    data["slots"][0]["stack"].append("odd")
    with pytest.raises(DocumentRefused, match="slot/stack"):
        predict(read_object(data), ["both"], samples=0)


def interface_of(data: dict[str, Any], place: str) -> str:
    route = next(route for route in data["routes"] if route["place"] == place)
    return str(next(hop["part"] for hop in route["hops"] if hop["kind"] == "interface"))


def with_contact(pad_mm: float, **more: Any) -> tuple[Any, str, str]:
    """A graphics plate over a chip and its memory; (build, layer on the chip, layer on the memory)."""
    data = loop()
    places = {place["id"]: part for part in data["parts"] for place in part.get("places", [])}
    chip_place = next(p for p in places if "graphics" in p and "memory" not in p and "regul" not in p)
    memory_place = next(p for p in places if "graphics" in p and "memory" in p)
    chip, memory = interface_of(data, chip_place), interface_of(data, memory_place)
    for part in data["parts"]:
        if part["id"] == memory:
            part.pop("resistance_mm2k_w", None)
    pad = {"filler": "pad", "pad_mm": pad_mm, "hardness": "soft", "conductivity_w_mk": 5}
    joints = [
        {"id": "on-chip", "height_mm": measured(2.2, 0.05), "filler": "paste", "interface": chip},
        {"id": "on-memory", "height_mm": measured(1.2, 0.05), "interface": memory} | pad,
    ]
    data["contacts"] = [{"id": "under", "joints": joints} | more]
    return read_object(data), chip, memory


def test_a_pad_in_its_gap_is_the_resistance_of_its_layer():
    build, _, memory = with_contact(1.25)
    figure = FigureTable(build).figures[f"{memory}/resistance_mm2k_w"]
    assert figure.value == pytest.approx((1000 * 1.0 / (0.7 * 5) + 20) * 1e-6)
    assert figure.origin == "class"
    gap_half = (2 * 0.05**2 + 0.05**2) ** 0.5  # both heights and the plate's step
    ends = [1000 * min(1.0 + sign * gap_half, 1.25) / (0.7 * 5) + 20 for sign in (-1, 1)]
    value = figure.value * 1e6
    wanted = [(((end - value) ** 2 + (0.25 * value) ** 2) ** 0.5) * 1e-6 for end in ends]
    assert (figure.tolerance.minus, figure.tolerance.plus) == pytest.approx(tuple(wanted))


def test_a_floating_plate_shows_in_kelvins():
    found = []
    for pad in (1.25, 0.98):
        build, _, memory = with_contact(pad)
        place = next(route.place for route in build.routes if any(hop.part == memory for hop in route.hops))
        found.append(temperatures(build)[place])
    assert found[1] > found[0] + 5.0


def test_force_that_pads_take_thickens_the_paste_under_the_chip():
    build, chip, _ = with_contact(1.25)
    assert f"{chip}/factor" not in FigureTable(build).figures
    build, chip, _ = with_contact(1.25, screws_used=2, diagonal=False)
    table = FigureTable(build).figures
    assert table[f"{chip}/factor"].value == pytest.approx(3.0)
    assert table[f"{chip}/factor"].tolerance.plus == table[f"{chip}/factor"].tolerance.minus == pytest.approx(0.4)
    assert table[f"{chip}/coverage"].value == pytest.approx(0.6)
    assert table[f"{chip}/coverage"].tolerance.plus == table[f"{chip}/coverage"].tolerance.minus == pytest.approx(0.16)


def test_a_chip_that_floats_has_what_fills_its_gap_on_top_of_its_layer():
    build, chip, _ = with_contact(2.0)  # gives to 1.3 mm in a gap of 1.0
    bare = FigureTable(read_object(loop())).figures[f"{chip}/resistance_mm2k_w"]
    figure = FigureTable(build).figures[f"{chip}/resistance_mm2k_w"]
    assert figure.value - bare.value == pytest.approx(1000 * 0.3 / 3.0 * 1e-6)
    assert figure.tolerance.plus == pytest.approx(0.25 * figure.value)


def test_a_layer_that_states_itself_and_lies_in_a_joint_is_refused():
    build, _, memory = with_contact(1.25)
    data = write_object(build)
    next(part for part in data["parts"] if part["id"] == memory)["resistance_mm2k_w"] = 300
    with pytest.raises(DocumentRefused, match=f"{memory}/resistance_mm2k_w"):
        read_object(data)
