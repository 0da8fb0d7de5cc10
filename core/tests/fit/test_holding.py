"""What joints carry cold and warm, on the way and beside heat, and what the network's temperature makes of it."""

from typing import Any, get_args

import pytest
from housed import box, housed

from krill.catalogue.joints import joint_classes, stays_under_c
from krill.document.holding import GLUED, Beside, JointKind
from krill.errors import DocumentRefused
from krill.fit.holding import beside_heat, joint_holds, left_of
from krill.prediction.predict import predict


def holds(at: float | None = None, grams: float = 100.0, **says: Any) -> Any:
    build = housed(
        box("tank", [60, 60, 60], [100, 100, 100], mass_g={"value": grams, "from": "measured"}),
        holdings=[{"id": "held", "name": "Tank", "parts": ["tank"], "by": "foam_tape", "area_cm2": 10} | says],
    )
    return joint_holds(build, build.holdings[0], at)


def test_classes_of_the_document_are_those_of_the_catalogue():
    assert set(get_args(JointKind)) == set(joint_classes())
    assert set(GLUED) == {kind for kind, joint in joint_classes().items() if joint.each_n is None}
    assert {stays_under_c(what) for what in get_args(Beside)} == {70.0, 80.0}


def test_tape_carries_by_its_area():
    """Common practice: 0.2 N/cm² hanging, 1 N/cm² in shear; 100 g are 0.981 N."""
    assert holds().carries_n == pytest.approx(2.0)
    assert holds(pull="shears").carries_n == pytest.approx(10.0)
    assert holds().weight_n == pytest.approx(0.981)
    assert holds().weight_half_n == pytest.approx(0.05 * 0.981)


def test_pieces_carry_by_their_number():
    assert holds(by="tie_25", area_cm2=None, count=3).carries_n == pytest.approx(75)


@pytest.mark.parametrize("kind", get_args(JointKind))
def test_half_of_it_at_its_own_warmth_nothing_where_it_lets_go(kind):
    joint = joint_classes()[kind]
    assert left_of(joint, 25) == left_of(joint, -10) == 1.0
    if joint.half_at_c is None:
        assert left_of(joint, 200) == 1.0
        return
    warm = joint.half_at_c
    assert left_of(joint, warm) == pytest.approx(0.5)
    assert left_of(joint, 30) > left_of(joint, 35)
    if joint.lets_go_c is None:
        assert left_of(joint, 2 * warm - 25) == pytest.approx(0.25)
    else:
        assert left_of(joint, joint.lets_go_c) == 0.0
        assert left_of(joint, joint.lets_go_c - 0.1) > 0.0


def test_certain_by_both_bands_in_doubt_between():
    """2.0 ± 0.8 N: surely while the weight and its half width stay under 1.2, not beyond 2.0."""
    for newtons, says in ((1.14, "holds"), (1.16, "in doubt"), (1.99, "in doubt"), (2.01, "lets go")):
        assert holds(grams=newtons / 9.81 * 1000).says == says


def test_warmth_takes_its_share():
    assert holds(50.0).carries_n == pytest.approx(1.0)
    assert holds(70.0).carries_n == 0.0
    assert holds(70.0).says == "lets go"
    assert holds(None).carries_n == holds(25.0).carries_n


def test_a_car_asks_for_six_times_the_weight_of_ten_times_the_tape():
    """Sudden loads: 10 x that of years for tape; a panel clip opens at 5 g."""
    assert holds().by_car == "unknown"
    assert holds(travels=True).by_car == "holds"
    assert holds(travels=True, by="panel_clip", area_cm2=None, count=1, grams=171).by_car == "lets go"
    assert holds(travels=True, by="panel_clip", area_cm2=None, count=1, grams=169).by_car == "in doubt"
    assert holds(travels=True, by="panel_clip", area_cm2=None, count=1, grams=101).by_car == "holds"


def test_nobody_knows_without_a_mass():
    build = housed(
        box("tank", [60, 60, 60], [100, 100, 100]),
        holdings=[{"id": "held", "parts": ["tank"], "by": "rivet"}],
    )
    assert joint_holds(build, build.holdings[0]).says == "unknown"


def near(at: float, **says: Any) -> str:
    build = housed(near_heat=[{"id": "strap", "what": "wood", "near": "processor-core"} | says])
    return beside_heat(build.near_heat[0], at, 3.0).says


def test_wood_stays_under_80_felt_under_70():
    assert (near(80.1), near(79.9), near(77.1), near(76.9)) == ("too hot", "in doubt", "in doubt", "stays cool")
    assert (near(70.1, what="felt"), near(66.9, what="felt")) == ("too hot", "stays cool")


def test_twenty_millimetres_or_a_sheet_do():
    assert (near(99, apart_mm=19.9), near(99, apart_mm=20), near(99, behind_sheet=True)) == (
        "too hot",
        "stays cool",
        "stays cool",
    )


def test_the_network_tells_how_warm_it_gets():
    """Tape on the processor's chip, and felt there: the temperature of the prediction is theirs, and it is said."""
    data = {
        "holdings": [
            {"id": "held", "name": "Tank", "parts": ["tank"], "by": "hot_glue", "area_cm2": 1, "near": "processor-core"}
        ],
        "near_heat": [{"id": "pad", "name": "Felt pad", "what": "felt", "near": "processor-core"}],
    }
    tank = box("tank", [60, 60, 60], [100, 100, 100], mass_g={"value": 300, "from": "measured"})
    result = predict(housed(tank, **data), ["both"], samples=60, room_c=60).workloads[0]
    chip = next(place for place in result.places if place.address == "processor-core")
    assert result.joints[0].at_c == chip.temperature_c
    assert result.beside[0].at_c == chip.temperature_c
    assert result.joints[0].carries_n == 0.0
    said = {notice.address: notice for notice in result.notices}
    assert "comes off: hot glue carries 0.0 N" in said["held"].text
    assert said["held"].level == "warning"
    assert "Felt pad gets" in said["pad"].text


def test_without_a_place_named_the_hottest_of_what_is_held_decides():
    build = housed(holdings=[{"id": "held", "parts": ["processor"], "by": "thread_steel"}])
    result = predict(build, ["both"], samples=0).workloads[0]
    hottest = max(place.temperature_c for place in result.places if place.source == "processor")
    assert result.joints[0].at_c == hottest


@pytest.mark.parametrize(
    ("wrong", "where"),
    [
        ({"parts": ["nobody"]}, "held/parts"),
        ({"near": "nowhere"}, "held/near"),
        ({"area_cm2": None}, "held/area_cm2"),
        ({"by": "magic"}, "held"),
    ],
)
def test_a_joint_that_cannot_be_is_refused_by_its_name(wrong, where):
    with pytest.raises(DocumentRefused) as refused:
        housed(
            box("tank", [60, 60, 60], [100, 100, 100]),
            holdings=[{"id": "held", "parts": ["tank"], "by": "foam_tape", "area_cm2": 10} | wrong],
        )
    assert any(where in problem.where for problem in refused.value.problems)
