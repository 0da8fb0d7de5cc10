"""Studies that ask whether parts go into their slots: gaps, housings and classes that vary, and the gap of the air with them."""

import copy

import pytest
from asking import asked, axis
from strategies import raw_recipe

from krill.document.figures import detail
from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.sizing.candidates import Study
from krill.sizing.offers import offers_of
from krill.sizing.outcome import outcome
from krill.sizing.side_by_side import side_by_side


def measured(mm, half=0.5):
    return {"value": mm, "plus_minus": half, "from": "measured"}


def tight(gap_mm=70.0, face="top"):
    """The recipe, its first radiator with a fan of 25 in a slot whose rest the air has to pass."""
    data = copy.deepcopy(raw_recipe())
    radiator = next(part for part in data["parts"] if part["kind"] == "radiator")
    fan = next(part for part in data["parts"] if part["kind"] == "fan")
    data["housing"]["inner_size_mm"] = [400, 300, 200]
    stack = [{"part": fan["id"], "thickness_mm": measured(25)}, radiator["id"]]
    data["slots"] = [{"id": "slot", "name": "Lid", "gap_mm": measured(gap_mm), "face": face, "stack": stack}]
    data["parts"].append({"id": "rest", "kind": "gap", "slot": "slot", "span_mm": 120})
    path = next(path for path in data["air_paths"] if radiator["id"] in path["elements"])
    path["elements"].append("rest")
    return data, radiator["id"]


def solved(question, data=None):
    study = Study(read_object(data or tight()[0]), question)
    return study, outcome(study, [study.solve(chunk) for chunk in study.chunks()])


def test_a_thicker_radiator_leaves_less_and_is_told_apart():
    """70 - 25 - (28, 38, 45, 60); half widths of gap, fan and radiator in quadrature."""
    _, radiator = tight()
    _, result = solved(asked([axis(f"{radiator}/thickness_mm", 28, 38, 45, 60)], demands={"fits": ["slot"]}))
    assert result.columns["left_mm"] == [17, 7, 0, -15]
    assert result.meets == [0, 1]
    assert [(met.name, met.met_by) for met in result.demands] == [("fit", 2)]
    half = (0.5**2 + 0.5**2 + 1.0**2) ** 0.5
    assert result.columns["spare_mm"][0] == pytest.approx(17 - half, abs=1e-3)


def test_where_nothing_fits_the_closest_is_the_thinnest_and_it_is_said():
    _, radiator = tight()
    question = asked([axis(f"{radiator}/thickness_mm", 45, 60, 38)], demands={"fits": ["slot"]})
    data, _ = tight(40)
    data["air_paths"] = [
        path | {"elements": [e for e in path["elements"] if e != "rest"]} for path in data["air_paths"]
    ]
    data["parts"] = [part for part in data["parts"] if part["id"] != "rest"]
    _, result = solved(question, data)
    assert result.closest == 2
    assert result.sentence == "None of 3 candidates meets the demand on fit."


def test_each_candidate_is_the_prediction_of_its_document():
    """What the slot leaves goes along, whether the gap, the housing or a thickness varies."""
    _, radiator = tight()
    for axes in (
        [axis("slot/gap_mm", 70, 90)],
        [axis("housing/height_mm", 200, 220)],
        [axis(f"{radiator}/thickness_mm", 28, 38)],
    ):
        study, result = solved(
            asked(axes, demands={"margins": [{"workload": "both", "at_least_k": 3}], "fits": ["slot"]})
        )
        for number in range(study.question.size):
            alone = predict(study.document(number), ["both"], samples=0).workloads[0]
            least = min(place.margin_k for place in alone.places if place.margin_k is not None)
            assert result.columns["margin_k"][number] == pytest.approx(least, abs=2e-3)
        margins = result.columns["margin_k"]
        assert (margins[1] > margins[0]) == ("thickness" not in axes[0]["address"])


def test_a_higher_housing_makes_the_slot_at_its_top_longer_by_as_much():
    study, result = solved(asked([axis("housing/height_mm", 190, 200, 230)], demands={"fits": ["slot"]}))
    assert [left - result.columns["left_mm"][1] for left in result.columns["left_mm"]] == [-10, 0, 30]
    document = study.document(2)
    assert document.housing.inner_size_mm == (400, 300, 230)
    gap = detail(document.slots[0].gap_mm)
    assert (float(gap.value), gap.origin, gap.plus_minus) == (100, "measured", 0.5)


@pytest.mark.parametrize(("face", "grows"), [("top", "height_mm"), ("left", "width_mm"), ("back", "depth_mm")])
def test_the_side_that_grows_is_that_of_the_slots_face(face, grows):
    now = {"width_mm": 400, "depth_mm": 300, "height_mm": 200}
    for side, mm in now.items():
        _, result = solved(
            asked([axis(f"housing/{side}", mm, mm + 10)], demands={"fits": ["slot"]}), tight(70, face)[0]
        )
        first, second = result.columns["left_mm"]
        assert second - first == (10 if side == grows else 0)


def test_a_slot_at_the_far_face_takes_it_all():
    data, _ = tight(70, "top")
    data["slots"].append({"id": "floor", "gap_mm": measured(50), "face": "bottom", "stack": []})
    _, result = solved(asked([axis("housing/height_mm", 200, 210)], demands={"fits": ["floor"]}), data)
    assert result.columns["left_mm"] == [50, 50]


def test_a_class_of_a_cooler_that_stands_in_a_slot_takes_its_height_along():
    """As rows of one batch the gap would stay that of the first: what a class says of height is not among its figures."""
    data, _ = tight()
    data["parts"].append({"id": "low", "kind": "cooler", "class": "cooler_low_37"})
    data["slots"][0]["stack"] = ["low"]
    _, result = solved(asked([axis("low/class", "cooler_low_37", "cooler_low_47")], demands={"fits": ["slot"]}), data)
    assert result.columns["left_mm"] == [33, 23]


def test_a_question_about_a_slot_that_is_not_there_is_refused():
    with pytest.raises(DocumentRefused, match="no such slot"):
        solved(asked([axis("slot/gap_mm", 70)], demands={"fits": ["nowhere"]}))
    data, _ = tight()
    data["housing"].pop("inner_size_mm")
    with pytest.raises(DocumentRefused, match="no inner size"):
        solved(asked([axis("housing/height_mm", 200)]), data)
    with pytest.raises(DocumentRefused):
        solved(asked([axis("slot/gap_mm", -5)]))


def test_gaps_and_sides_are_offered_where_they_change_something():
    offered = {one.address: one for one in offers_of(read_object(tight()[0]), "both").axes}
    assert [option.value for option in offered["slot/gap_mm"].options] == [70, 75, 80, 90, 110]
    assert "housing/height_mm" in offered
    assert "housing/width_mm" not in offered
    assert not any(axis.address.startswith("slot") for axis in offers_of(read_object(raw_recipe()), "both").axes)


def test_side_by_side_shows_what_is_left_in_each_slot():
    first, second = read_object(tight(70)[0]), read_object(tight(51)[0])
    options = side_by_side([("as it is", first), ("lower", second)], "both", samples=0).options
    found = [option.measures.slots[0] for option in options]
    thick = 70 - found[0].left_mm
    assert [round(slot.left_mm, 6) for slot in found] == [70 - thick, 51 - thick]
    assert thick == 25 + 28
    assert [slot.says for slot in found] == ["fits by class", "does not fit"]
