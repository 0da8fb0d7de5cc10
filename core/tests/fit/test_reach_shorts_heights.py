"""What can be reached, what may short, what stands over what; both sides of each threshold."""

from typing import Any

import pytest
from housed import box, housed

from krill.fit.fit import checks_of
from krill.fit.reach import PASSES_MM
from krill.prediction.notices.fit import fit_notices


def texts(build: Any) -> str:
    return " ".join(notice.text for notice in fit_notices(checks_of(build)))


def clip(by: str = "fingers", face: str = "top") -> Any:
    outline = {"reached_from": face, "reached_by": by}
    return box("clip", [10, 10, 10], [200, 150, 20], name="Clip", outline=outline)


def reached(*lids: Any, by: str = "fingers", face: str = "top", **more: Any) -> str:
    return checks_of(housed(clip(by, face), *lids, **more)).reached[0].says


def slit(wide: float) -> list[Any]:
    """Two blocks over the clip that leave a slit; the clip is as wide as 10 mm and may be tried anywhere over it."""
    return [box(f"lid-{side}", [100, 100, 20], [200 + side * (50 + wide / 2), 150, 100]) for side in (-1, 1)]


@pytest.mark.parametrize(("by", "least"), [("finger", 15), ("fingers", 20), ("hand", 60), ("screwdriver", 10)])
def test_a_slit_passes_what_is_as_wide(by, least):
    """Common practice: fingertip 15, finger and thumb 20, a hand 80 x 60 either way round."""
    assert reached(*slit(least + 0.1), by=by) == "reached"
    assert reached(*slit(least - 0.1), by=by) == "in the way"
    assert min(min(pair) for pair in PASSES_MM[by]) == least


def window(wide: float, deep: float) -> list[Any]:
    """Four blocks over the clip that leave a hole between them."""
    sides = [box(f"x-{s}", [90, 280, 20], [200 + s * (45 + wide / 2), 150, 100]) for s in (-1, 1)]
    return sides + [box(f"y-{s}", [280, 60, 20], [200, 150 + s * (30 + deep / 2), 130]) for s in (-1, 1)]


@pytest.mark.parametrize(
    ("by", "wide", "deep"),
    [("finger", 15, 15), ("fingers", 20, 20), ("hand", 80, 60), ("hand", 60, 80), ("screwdriver", 10, 10)],
)
def test_a_hole_passes_what_is_as_wide_and_as_deep(by, wide, deep):
    assert reached(*window(wide + 0.1, deep + 0.1), by=by) == "reached"
    assert reached(*window(wide - 0.1, deep + 0.1), by=by) == "in the way"
    assert reached(*window(wide + 0.1, deep - 0.1), by=by) == "in the way"


def test_a_place_beside_the_middle_will_do():
    """A part of 10 mm, half covered: a finger comes at its free edge."""
    assert reached(box("lid", [100, 100, 20], [200 + 50 - 5 + 15 / 2 + 5.2, 150, 100]), by="finger") == "reached"


def test_what_stands_behind_it_is_not_in_the_way():
    assert reached(box("under", [100, 100, 10], [200, 150, 5])) == "reached"
    assert reached(box("over", [100, 100, 10], [200, 150, 100])) == "in the way"
    assert reached(box("over", [100, 100, 10], [200, 150, 100]), face="left") == "reached"
    assert reached(box("side", [10, 100, 100], [100, 150, 20]), face="left") == "in the way"


def test_a_closed_face_wants_a_door():
    assert reached(housing={"closed_faces": ["top"]}) == "closed"
    assert reached(housing={"closed_faces": ["left"]}) == "reached"
    build = housed(clip("hand"), housing={"closed_faces": ["top"]})
    assert "Clip is out of reach once closed: the top wants a door, or a hole for a hand." in texts(build)


def test_who_is_in_the_way_is_named():
    build = housed(clip(), box("lid", [100, 100, 20], [200, 150, 100], name="Lid"))
    assert "Clip is out of reach from the top: Lid in the way of finger and thumb." in texts(build)


def board(z: float, **outline: Any) -> Any:
    """A small square board, 38 high, whose underside lies at z."""
    return {"board-chips": {"body": "board_small_square", "position_mm": [200, 150, z + 19]} | outline}


STEEL = {"material": "steel sheet"}


def shorts(outlines: Any, *parts: Any, **more: Any) -> list[tuple[str, str]]:
    return [(short.metal, short.says) for short in checks_of(housed(*parts, outlines=outlines, **more)).shorts]


def test_solder_keeps_three_millimetres_from_a_metal_floor():
    assert shorts(board(2.9), housing=STEEL) == [("bottom", "insulate")]
    assert shorts(board(3.1), housing=STEEL) == []
    assert shorts(board(2.9), housing={"material": "plywood"}) == []
    assert shorts(board(2.9)) == []


def test_a_sheet_of_three_tenths_lets_one_millimetre_do():
    def with_sheet(z: float, mm: float) -> list[tuple[str, str]]:
        sheet = {"id": "sheet", "first": "board-chips", "second": "bottom", "sheet_mm": mm}
        return shorts(board(z), housing=STEEL, insulators=[sheet])

    assert with_sheet(1.0, 0.3) == [("bottom", "insulated")]
    assert with_sheet(0.9, 0.3) == [("bottom", "too near")]
    assert with_sheet(1.5, 0.29) == [("bottom", "insulate")]


def test_metal_under_a_board_counts_metal_over_it_does_not():
    """A plate on top of a board lies there by its make."""
    under, over = (
        box("r", [120, 120, 20], [200, 150, 10], "radiator"),
        box("r", [120, 120, 20], [200, 150, 180], "radiator"),
    )
    assert shorts(board(22.9), under) == [("r", "insulate")]
    assert shorts(board(23.1), under) == []
    assert shorts(board(100), over) == []
    assert shorts(board(21), box("tank", [120, 120, 20], [200, 150, 10])) == []


def test_a_board_on_its_edge_has_its_solder_at_a_wall():
    edge = {"rotation_deg": [0, 90, 0], "position_mm": [19 + 2, 150, 100]}  # its underside looks left
    assert shorts(board(0, **edge), housing=STEEL) == [("left", "insulate")]


def test_mains_keep_eight_millimetres_all_round():
    def supply(x: float) -> Any:
        return {"supply": {"body": "supply_open", "position_mm": [75 + x, 150, 100]}}

    assert shorts(supply(7.9), housing=STEEL) == [("left", "insulate")]
    assert shorts(supply(8.1), housing=STEEL) == []
    assert (
        "Power supply has mains 7.9 mm from the left: 8 mm of air, or an insulating sheet before first power; local codes"
        in texts(housed(outlines=supply(7.9), housing=STEEL))
    )


def heights(*parts: Any, **more: Any) -> dict[str, Any]:
    return {check.of: check for check in checks_of(housed(*parts, **more)).heights}


def loop(**more: Any) -> list[Any]:
    from krill.document.reading import write_object

    return [loop | more for loop in write_object(housed())["loops"]]


def ids() -> dict[str, str]:
    return {part.kind: part.id for part in housed().parts}


@pytest.mark.parametrize(("down", "axis"), [((0, 0, -1), 2), ((0, 0, 1), 2), ((-1, 0, 0), 0)])
def test_the_way_the_housing_lies_decides_what_is_over_what(down, axis):
    """The reservoir stands 40 mm over the pump along the axis; turned round it is below."""
    kinds = ids()
    tank, pump = [100.0, 100, 60], [100.0, 100, 60]
    tank[axis] += 40
    at = {kinds["reservoir"]: tank, kinds["pump"]: pump}
    check = heights(at=at, housing={"gravity": list(down)})["reservoir over pump"]
    assert check.mm == pytest.approx(40 if down[axis] < 0 else -40)
    assert check.well == (down[axis] < 0)


def test_alike_within_five_millimetres():
    kinds = ids()
    for below, well in ((4.9, True), (5.1, False)):
        at = {kinds["reservoir"]: [100, 100, 60 - below], kinds["pump"]: [200, 100, 60]}
        assert heights(at=at)["reservoir over pump"].well is well


def test_air_gathers_in_what_stands_over_the_reservoir():
    kinds = ids()
    for over, gathers in ((5.1, True), (4.9, False)):
        at = {kinds["reservoir"]: [100, 100, 60], kinds["pump"]: [100, 200, 60 + over]}
        assert ("air gathers" in heights(at=at)) is gathers


def test_fill_on_top_and_drain_below():
    kinds = ids()
    at = {kinds["reservoir"]: [100, 100, 60], kinds["pump"]: [100, 200, 80]}
    wrong = heights(at=at, loops=loop(fill=kinds["reservoir"], drain=kinds["pump"]))
    assert (wrong["fill on top"].mm, wrong["fill on top"].well) == (-20, False)
    assert (wrong["drain below"].mm, wrong["drain below"].well) == (-20, False)
    right = heights(at=at, loops=loop(fill=kinds["pump"], drain=kinds["reservoir"]))
    assert right["fill on top"].well
    assert right["drain below"].well


def test_a_fill_opening_wants_120_above_it():
    kinds = ids()
    for free, said in ((119, True), (121, False)):
        at = {kinds["reservoir"]: [100, 100, 40]}
        lid = box("lid", [100, 100, 10], [100, 100, 40 + 30 + free + 5], kind="radiator")
        found = heights(lid, at=at, inside=[400, 300, 400], loops=loop(fill=kinds["reservoir"]))
        assert ("room over the fill" in found) is said


def test_a_mouth_beneath_the_housing_needs_feet():
    """A fan of 140, the widest mouth there, breathes well from 0.11 of its span: 15.4 mm."""
    below = {"id": "a-fan", "kind": "fan", "name": "Fan", "class": "fan_140x25", "face": "bottom"}
    assert heights(below, housing={"feet_mm": 15.3})["feet"].well is False
    assert heights(below, housing={"feet_mm": 15.5})["feet"].well is True
    untold = heights(below)["feet"]
    assert (untold.well, untold.known) == (False, False)
    assert "beneath the housing" not in texts(housed(below))
    assert "Fan breathes beneath the housing: feet of 5 mm, 15 mm wanted." in texts(
        housed(below, housing={"feet_mm": 5})
    )
    assert heights(below | {"face": "left"})["feet"].about != "a-fan"
    assert heights(below | {"face": "left"}, housing={"gravity": [-1, 0, 0]})["feet"].well is False
