"""Leads and tubes: lengths to order, kinks, blades, what they run through, room at their ends; both sides of each threshold."""

from typing import Any, get_args

import pytest
from housed import ENDS, box, housed, lead

from krill.catalogue.leads import fitting_classes, lead_classes, plug_classes
from krill.document.leads import FittingKind, LeadKind, PlugKind
from krill.errors import DocumentRefused
from krill.fit.fit import checks_of
from krill.fit.leads import blocked_share
from krill.fit.tube_bends import SoftTube, tube_bend
from krill.prediction.notices.fit import fit_notices

STRAIGHT = [[10, 150, 100], [390, 150, 100]]
#: out, 100 up, on
BENT = [[10, 150, 50], [200, 150, 50], [200, 150, 150], [390, 150, 150]]


def found(*parts: Any, points: Any = STRAIGHT, **more: Any) -> Any:
    return checks_of(housed(*ENDS, *parts, leads=[lead(points, **more)])).leads[0]


def straight(mm: float, **more: Any) -> Any:
    return found(points=[[10, 150, 100], [10 + mm, 150, 100]], **more)


def says(*parts: Any, points: Any = STRAIGHT, **more: Any) -> str:
    build = housed(*ENDS, *parts, leads=[lead(points, **more)])
    return " ".join(notice.text for notice in fit_notices(checks_of(build)) if notice.address == "lead")


def test_classes_of_the_document_are_those_of_the_catalogue():
    assert set(get_args(LeadKind)) == set(lead_classes())
    assert set(get_args(PlugKind)) == set(plug_classes())
    assert set(get_args(FittingKind)) == set(fitting_classes())


def test_a_plug_takes_its_body_and_the_bend_of_its_lead():
    """Heights over the socket of class page 1.8: both together is what is planned with; 12 + 4 contacts: 50 to 55."""
    for kind, plug in plug_classes().items():
        assert plug.plan_mm == pytest.approx(plug.body_mm + plug.bend_mm, abs=2.5), kind
    assert {kind: plug_classes()[kind].plan_mm for kind in ("main_24", "fan", "graphics_8")} == {
        "main_24": 46,
        "fan": 23,
        "graphics_8": 37,
    }


def test_length_to_order_is_way_plugs_and_slack_up_to_the_next_ten():
    """380 + 25 slack = 405; with 8 % from 312.5 on: 380 + 30.4; a main plug bends in 22 at either end; two hands want 60."""
    assert found().path_mm == pytest.approx(380)
    assert found().order_mm == 420  # 410.4
    assert found(begins={"plug": "main_24"}, ends={"plug": "main_24"}).order_mm == 460  # 454.4
    assert found(plugged_inside=True).order_mm == 480  # 470.4
    assert straight(305).order_mm == 330  # 305 + 25, not a millimetre more
    assert straight(305.1).order_mm == 340
    assert straight(314.8, plugged_inside=True).order_mm == 400  # 314.8 + 25.18 + 60
    assert straight(314.9, plugged_inside=True).order_mm == 410


def test_a_tube_is_cut_with_ten_millimetres_or_three_per_cent():
    tube = next(part for part in housed().parts if part.kind == "tube").id
    assert found(tube=tube).order_mm == 392  # 380 + 11.4, up
    assert found(points=[[10, 150, 100], [110, 150, 100]], tube=tube).order_mm == 110


@pytest.mark.parametrize(
    ("length", "expected"),
    [(None, "to order"), (420, "long enough"), (419, "taut"), (361, "taut"), (360.9, "does not reach")],
)
def test_a_lead_reaches_from_95_per_cent_of_its_way(length, expected):
    assert found(length_mm=length).says == expected


def test_the_farthest_place_that_its_end_must_reach_decides():
    far = found(also_ends_at_mm=[[390, 150, 100], [390, 150, 400]], length_mm=420)
    assert far.longest_mm == pytest.approx((380**2 + 300**2) ** 0.5)
    assert far.says == "does not reach"
    assert far.path_mm == pytest.approx(380)


def test_a_bend_kinks_below_its_class_by_more_than_its_band():
    """Feed of 8 contacts: 22 ± 5.5 (common practice)."""
    for radius, expected in ((27.6, "lies"), (27.4, "measure"), (16.6, "measure"), (16.4, "kinks")):
        bends = found(points=BENT, **{"class": "feed_8"}, bend_mm=radius).bends
        assert [bend.says for bend in bends] == [expected] * 2


def test_a_tube_bends_as_its_bore_and_wall_let_it():
    build = housed(*ENDS)
    tube = next(part for part in build.parts if part.kind == "tube")
    bore = float(getattr(tube.bore_mm, "value", tube.bore_mm))
    bend = found(points=BENT, tube=tube.id, outside_mm=bore + 6).bends[0]
    assert bend.least_mm == pytest.approx(tube_bend(SoftTube(bore, bore + 6)).radius_mm)
    assert bend.radius_mm == pytest.approx(50)


def test_ends_of_a_tube_stay_straight_for_ten():
    """A first leg of 40 leaves 30 for the bend."""
    tube = next(part for part in housed().parts if part.kind == "tube").id
    corner = [[10, 150, 100], [50, 150, 100], [50, 250, 100]]
    assert found(points=corner, tube=tube).bends[0].radius_mm == pytest.approx(30)
    assert found(points=corner).bends[0].radius_mm == pytest.approx(40)


def fan(at: list[float], **outline: Any) -> Any:
    return {
        "id": "a-fan",
        "kind": "fan",
        "name": "Fan",
        "class": "fan_120x25",
        "outline": {"position_mm": at} | outline,
    }


def test_blades_want_ten_millimetres_before_their_frame():
    """A line 4 mm thick, 12.5 + 2 + 10 above the middle of a fan that lies flat."""
    near = [found(fan([200, 150, 100 - above])).near for above in (24.4, 24.6)]
    assert [len(item) for item in near] == [1, 0]
    assert near[0][0].mm == pytest.approx(9.9)


def test_beside_a_frame_nothing_is_said_and_a_tie_answers_it():
    assert not found(fan([200, 215, 100])).near  # 5 mm past its frame's side
    assert found(fan([200, 150, 85])).near
    assert not found(fan([200, 150, 85]), tied=True).near


def test_blades_reach_as_far_as_the_class_opens():
    """Opening 116: 58 from the middle; a line 10 before the frame that passes 60.2 aside is further than 10 off."""
    aside = [found(fan([200, 150 + y, 80]), points=[[200, 150, 0], [200, 150, 60]]) for y in (60, 75)]
    assert [bool(item.near) for item in aside] == [True, False]


def test_blades_of_a_fan_without_a_class_reach_nearly_to_its_frame():
    """96 % of half its size: 57.6 of 120; a line 4 thick that runs up beside it is 10 off from 69.6 on."""
    plain = {"id": "a-fan", "kind": "fan", "name": "Fan", "curve": [[0, 20], [50, 0]]}
    outline = {"size_mm": [120, 120, 25], "position_mm": [200, 150, 60]}
    up = [[200, 150, 100], [200, 150, 180]]
    for aside, near in ((69.4, True), (69.8, False)):
        points = [[200, 150 + aside, 72.5], [200, 150 + aside, 180]]
        assert bool(found(plain | {"outline": outline}, points=points).near) is near
    assert found(plain | {"outline": outline}, points=up).near == []


def test_a_tube_of_no_told_outside_has_walls_of_three():
    build = housed(*ENDS)
    tube = next(part for part in build.parts if part.kind == "tube")
    bore = float(getattr(tube.bore_mm, "value", tube.bore_mm))
    assert found(tube=tube.id).outside_mm == bore + 6
    assert found(tube=tube.id, outside_mm=13).outside_mm == 13
    assert found().outside_mm == 4
    assert found(**{"class": "main_flat"}).outside_mm == 51


def test_leads_block_no_more_than_95_per_cent():
    build = housed(*ENDS, leads=[lead(STRAIGHT, **{"class": "main_flat"})])
    assert blocked_share(build, ["lead"], 100.0**2) == pytest.approx(0.51)
    assert blocked_share(build, ["lead"], 54.0**2) == pytest.approx(51 / 54)
    assert blocked_share(build, ["lead"], 53.0**2) == 0.95
    assert blocked_share(build, [], 100.0**2) == 0.0


def test_a_lead_may_lie_in_an_outline_by_two_millimetres():
    """8 mm thick beside a block whose side lies 20 off its middle: it runs through from 20 + 4 - 2 on."""
    for beside, through in ((21.9, ["Block"]), (22.1, [])):
        block = box("block", [40, 40, 40], [200, 150 + beside, 100], name="Block")
        assert found(block, **{"class": "feed_8"}).through == through


def test_it_runs_through_a_part_but_not_its_own_nor_a_board():
    block = box("block", [40, 40, 40], [200, 150, 100], name="Block")
    board = {"board-chips": {"body": "board_small_square", "position_mm": [200, 150, 100]}}
    assert found(block).through == ["Block"]
    over = checks_of(housed(*ENDS, outlines=board, leads=[lead(STRAIGHT)])).leads[0]
    assert not over.through
    assert not found(box("block", [40, 40, 40], [200, 175, 100])).through


def test_a_stop_valve_needs_room_to_be_turned():
    """Compression 10/13: 22 high, 18 wide, 20 at one side, 5 all round, half way up it."""
    end = {"begins": {"fitting": "compression_10_13"}}

    def tight(*walls: Any) -> list[str]:
        return [room.what for room in found(*walls, **end).ends if room.says == "tight"]

    def wall(name: str, gap: float, side: int) -> Any:
        return box(name, [60, 20, 60], [30, 150 + side * (9 + gap + 10), 100])

    assert not tight()
    assert not tight(wall("left", 5.1, 1), wall("right", 20.1, -1))
    assert tight(wall("left", 4.9, 1)) == ["room all round its compression fitting 10/13"]
    above, below = box("above", [60, 60, 20], [30, 150, 138.9]), box("below", [60, 60, 20], [30, 150, 61.1])
    assert tight(wall("left", 19.9, 1), wall("right", 19.9, -1), above, below) == [
        "room to turn its compression fitting 10/13"
    ]


def test_a_plug_needs_its_way_out_and_the_housing_ends_it():
    def ahead(gap: float) -> str:
        wall = box("wall", [20, 60, 60], [10 + gap + 10, 150, 100])
        return found(wall, begins={"plug": "main_24"}).ends[0].says

    assert (ahead(46.1), ahead(45.9)) == ("free", "tight")
    up = found(points=[[200, 150, 160], [200, 150, 190]], begins={"plug": "main_24"})
    assert up.ends[0].has_mm == pytest.approx(40)


def test_ports_stand_apart_for_their_fittings():
    def apart(mm: float, fitting: str) -> bool:
        two = [lead([[10, 150, 100], [100, 150, 100]], begins={"fitting": fitting})]
        two.append(two[0] | {"id": "lead-b", "points_mm": [[10, 150 + mm, 100], [100, 150 + mm, 100]]})
        fits = checks_of(housed(*ENDS, leads=two)).leads
        return any("ports apart" in room.what for fit in fits for room in fit.ends)

    assert (apart(24.1, "compression_10_13"), apart(23.9, "compression_10_13")) == (False, True)
    assert (apart(22.1, "barb"), apart(21.9, "barb")) == (False, True)


def test_a_thread_goes_through_two_millimetres_of_sheet():
    def sheet(mm: float) -> str:
        return says(begins={"fitting": "barb", "sheet_mm": mm})

    assert "extension" not in sheet(2.0)
    assert "2.1 mm of sheet that its barb with its clamp goes through: more than 2 mm want an extension" in sheet(2.1)


def test_a_tube_of_the_loop_is_held_against_its_pieces():
    tube = next(part for part in housed().parts if part.kind == "tube")
    stated = 1000 * float(getattr(tube.length_m, "value", tube.length_m))

    def longer(share: float) -> bool:
        points = [[0, 0, 0], [share * stated, 0, 0]]
        return checks_of(housed(*ENDS, leads=[lead(points, tube=tube.id)])).tubes[0].longer

    assert (longer(0.5), longer(1.09), longer(1.11)) == (False, False, True)


def test_what_it_says_names_figure_and_way_out():
    assert says(length_mm=300) == "Lead does not reach: 300 mm for a way of 380 mm."
    assert says(length_mm=400) == "Lead is taut: 400 mm, 420 mm would lie with slack."
    assert "kinks: it has room for a bend of 10 mm, its kind takes 22 ± 6 mm" in says(
        points=BENT, **{"class": "feed_8"}, bend_mm=10
    )
    assert "lies 0 mm from the blades of Fan: keep 10 mm" in says(fan([200, 150, 100]))


@pytest.mark.parametrize(
    ("wrong", "where"),
    [
        ({"from_part": "nobody"}, "lead/from_part"),
        ({"tube": "first"}, "lead/tube"),
        ({"points_mm": [[0, 0, 0], [20000, 0, 0]]}, "lead/points_mm"),
        ({"bend_mm": 20000}, "lead/bend_mm"),
        ({"outside_mm": 300}, "lead/outside_mm"),
        ({"class": "rope"}, "lead"),
    ],
)
def test_a_lead_that_cannot_be_is_refused_by_its_name(wrong, where):
    with pytest.raises(DocumentRefused) as refused:
        housed(*ENDS, leads=[lead(STRAIGHT) | wrong])
    assert any(where in problem.where for problem in refused.value.problems)
