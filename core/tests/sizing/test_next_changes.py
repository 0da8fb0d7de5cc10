"""Next changes of loops and air: each equals a fresh prediction of the changed document, with sound and side effects."""

import json
from pathlib import Path

import pytest
from fanless import chip, fanless, hop, layer, sink
from machines import box, machine, source
from strategies import recipe

from krill.assembly.work_order import work_order
from krill.document.reading import read_object, read_text
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop
from krill.sizing.next_changes import next_changes
from krill.sizing.steps.step import edited

SAVED = Path(__file__).parents[1] / "saved_documents"


def fresh(build, workload):
    found = predict(build, [workload], samples=0).workloads[0]
    return {place.address: place.temperature_c for place in found.places}, found.sound.total_dba


@pytest.mark.parametrize(("name", "workload"), [("issue-2-heron", "both"), ("issue-3-sandpiper", "imaging")])
def test_every_next_change_equals_a_fresh_prediction(name, workload):
    """Within 0.05 K for the part in view and the others, and within 0.05 dB."""
    build = read_text((SAVED / f"{name}.json").read_text())
    before, level = fresh(build, workload)
    found = next_changes(build, workload)
    assert len(found.changes) >= 8
    for change in found.changes:
        after, louder = fresh(edited(build, tuple(change.edits)), workload)
        assert change.won_k == pytest.approx(before[found.place] - after[found.place], abs=0.05), change["label"]
        assert change.louder_db == pytest.approx(louder - level, abs=0.05), change["label"]
        for other in change.others:
            assert other.won_k == pytest.approx(before[other.address] - after[other.address], abs=0.05)


def test_loops_and_air_offer_what_a_designer_would_think_of():
    build = read_text((SAVED / "issue-2-heron.json").read_text())
    labels = " | ".join(change.label for change in next_changes(build, "both", "graphics-chip").changes)
    for word in (
        "sections",
        "thick",
        "all fans",
        "second pump",
        "reverse the airflow",
        "take in room air",
        "cm²",
        "power limit",
    ):
        assert word in labels, word


def test_the_tightest_place_is_taken_where_none_is_named_and_the_best_comes_first():
    build = read_text((SAVED / "issue-2-heron.json").read_text())
    found = next_changes(build, "both")
    places = predict(build, ["both"], samples=0).workloads[0].places
    tightest = min((p for p in places if p.margin_k is not None), key=lambda p: p.margin_k)
    assert found.place == tightest.address
    won = [round(change.won_k, 5) for change in found.changes]
    assert won == sorted(won, reverse=True)
    assert found.changes[0].label in found.sentence
    felt = [abs(other.won_k) for change in found.changes for other in change.others]
    assert 0.1 <= min(felt) < 0.15, "others are told from a tenth of a kelvin on"


def test_the_sentence_names_several_parts_and_the_next_steps():
    build = read_text((SAVED / "issue-2-heron.json").read_text())
    found = next_changes(build, "both", "graphics-chip")
    first = found.changes[0]
    assert f"{first.won_k:.1f} K on Graphics" in found.sentence
    others = [other for other in first.others if other.won_k >= 0.5]
    assert not others or f"{max(o.won_k for o in others):.1f} K on" in found.sentence
    assert found.changes[1].label in found.sentence


def test_nothing_worth_it_says_where_the_rest_lies():
    """A chip whose heat ends behind one great resistance that no step touches."""
    raw = machine([], [box("in", wall_w_k=50.0)], [], sources=[source("chip", "in")], watts={"chip": 2.0}, room_c=25.0)
    found = next_changes(read_object(raw), "full")
    assert "No step here wins" in found.sentence
    assert "over the room lie in" in found.sentence


def test_prices_are_the_users_figure_else_unknown_and_what_is_only_told_costs_nothing():
    raw = json.loads((SAVED / "issue-2-heron.json").read_text())
    sections = next(part["sections"] for part in raw["parts"] if part["id"] == "radiator-bottom")
    raw["prices"] = {f"radiator-bottom/sections={sections + 1}": 75}
    by_label = {change.label: change for change in next_changes(read_object(raw), "both").changes}
    more = next(change for change in by_label.values() if change.price_key in raw["prices"])
    assert (more.buys, more.price) == (True, 75)
    pump = next(change for label, change in by_label.items() if "second pump" in label)
    assert (pump.buys, pump.price) == (True, None)
    fans = next(change for label, change in by_label.items() if label.startswith("all fans"))
    assert (fans.buys, fans.price) == (False, 0)


def test_what_is_bought_takes_the_work_of_an_exchange_and_a_setting_takes_none():
    build = recipe()
    order = work_order(build)
    found = next_changes(build, "both").changes
    bought = [change for change in found if change.buys]
    assert bought
    for change in bought:
        assert change.hours == pytest.approx(order.exchange_minutes(change.about) / 60)
        assert change.hours > 0
    told = [change for change in found if not change.buys]
    assert told
    assert {change.hours for change in told} == {0.0}
    assert {change.hours for change in next_changes(build, "both", quick=True).changes if change.buys} == {None}


def test_batched_derivatives_are_those_of_a_closed_form():
    """A chip through one layer to a body: d T / d layer is watts over area, other things the same."""
    build = read_object(
        fanless(
            20.0, [chip(120, 18), layer(230), sink(200, 150, 40, 10)], [hop("interface", "joint"), hop("body", "sink")]
        )
    )
    changes = next_changes(build, "full").changes
    found = next(change for change in changes if change.about == "joint")
    new = found.edits[0].value["value"]
    assert found.won_k == pytest.approx(20.0 * (230 - new) / 120, rel=1e-4)


def test_one_more_section_comes_with_its_fan():
    found = next_changes(recipe(), "both", "graphics-chip")
    more = next(change for change in found.changes if "3 → 4 sections" in change.label)
    assert "+1 fan" in more.costs
    other = edited(recipe(), tuple(more.edits))
    assert sum(part.kind == "fan" for part in other.parts) == 4


def test_the_quick_answer_holds_every_figure_and_duty_and_says_that_it_is_not_whole():
    build = read_text((SAVED / "issue-2-heron.json").read_text())
    quick, whole = next_changes(build, "both", quick=True), next_changes(build, "both")
    assert (quick.whole, whole.whole) == (False, True)
    by_label = {change.label: change.won_k for change in whole.changes}
    assert len(quick.changes) < len(whole.changes)
    for change in quick.changes:
        assert change.won_k == pytest.approx(by_label[change.label], abs=1e-6)


def test_a_board_and_the_sides_of_a_housing_are_not_made_larger_or_anodised():
    """The board is what it is; a side is as large as the housing: thickness, metal and finish of it may change."""
    build = water_loop(125, 220, 30, 24, "loop")
    labels = [change.label for change in next_changes(build, "both").changes]
    assert not any(label.startswith("Board:") for label in labels)
    sides = [label for label in labels if label.startswith(("Left side:", "Top:"))]
    assert sides
    assert not any("wide" in label or "high" in label for label in sides)
