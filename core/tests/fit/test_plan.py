"""Boxes in the housing against another library's geometry; clashes, walls, rooms, mass; both sides of each threshold."""

from typing import Any

import numpy as np
import pytest
from shapely import affinity
from shapely.geometry import MultiPoint, box

from krill.catalogue.bodies import bodies, body_of_class, common_layers
from krill.catalogue.classes import classes
from krill.catalogue.shelf import class_shelf
from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.fit.boxes import corners, overlaps, rotation, sticks_out
from krill.fit.extents import extent_of
from krill.fit.fit import fit_of
from krill.fit.plan import plan_of
from krill.recipes.water_loop import water_loop

#: kinds that are a thing with a size; the rest are layers, holes, ways, or take their size from what they are made of
BODIES = (
    "fan",
    "radiator",
    "pump",
    "reservoir",
    "plate",
    "supply",
    "cooler",
    "coupling",
    "flow_meter",
    "strainer",
    "sink",
)


def build_of(
    *parts: dict[str, Any], inside: list[float] | None = None, outlines: dict[str, dict[str, Any]] | None = None
) -> Any:
    """A water loop with further parts, and outlines for some of its own."""
    data = write_object(water_loop(125, 220, 30, 24, "plan"))
    for part in data["parts"]:
        part.pop("outline", None)
        if part["id"] in (outlines or {}):
            part["outline"] = outlines[part["id"]]
    data["housing"]["inner_size_mm"] = inside or [300, 200, 180]
    data["parts"] += list(parts)
    return read_object(data)


def sized(part_id: str, size: list[float], at: list[float], kind: str = "reservoir", **outline: Any) -> dict[str, Any]:
    stated = {"size_mm": size, "plus_minus_mm": 0.1, "position_mm": at} | outline
    return {"id": part_id, "kind": kind, "bore_mm": 9, "outline": stated}


def clashes(*parts: dict[str, Any], **more: Any) -> list[tuple[str, str, str, float]]:
    return [(c.first, c.second, c.says, round(c.mm, 2)) for c in plan_of(build_of(*parts, **more)).clashes]


def test_boxes_seen_from_above_are_those_of_another_library():
    """Turned by any angle about the upright: area shared in plan is none exactly where nothing overlaps."""
    rng = np.random.default_rng(3)
    middle = np.column_stack([rng.uniform(0, 200, (60, 2)), np.full(60, 50.0)])
    half = np.column_stack([rng.uniform(5, 40, (60, 2)), np.full(60, 10.0)])
    angle = rng.uniform(0, 360, 60)
    turned = rotation(np.column_stack([np.zeros((60, 2)), angle]))
    shapes = [
        affinity.translate(affinity.rotate(box(-h[0], -h[1], h[0], h[1]), a, origin=(0, 0)), *m[:2])
        for m, h, a in zip(middle, half, angle, strict=True)
    ]
    drawn = [MultiPoint(points[:, :2]).convex_hull for points in corners(middle, half, turned)]
    found = {(i, j) for i, j, mm in zip(*overlaps(middle, half, turned, 1.0), strict=True) if mm > 1e-9}
    for j in range(60):
        assert drawn[j].symmetric_difference(shapes[j]).area == pytest.approx(0.0, abs=1e-6)
        for i in range(j):
            assert ((i, j) in found) == shapes[i].intersects(shapes[j]) or shapes[i].touches(shapes[j])


def test_every_pair_that_comes_near_is_held_against_each_other_and_no_other():
    """Bodies of ten along a line, apart by 0 to 3: pairs within 1.5 are told with what lies between them."""
    gaps = [0.0, 1.0, 1.4, 1.6, 3.0]
    at = np.cumsum([5.0] + [10 + gap for gap in gaps])
    middle, half = np.column_stack([at, np.full(6, 5.0), np.full(6, 5.0)]), np.full((6, 3), 5.0)
    first, second, found = overlaps(middle, half, rotation(np.zeros((6, 3))), 1.5)
    assert [(int(i), int(j)) for i, j in zip(first, second, strict=True)] == [(0, 1), (1, 2), (2, 3)]
    assert found == pytest.approx([0.0, -1.0, -1.4])


def test_the_overlap_is_the_least_way_that_parts_two_boxes():
    """Moved apart along any axis by less than it they still overlap; along one by it they do not."""
    middle = np.array([[0.0, 0, 0], [30.0, 12, 4]])
    half = np.array([[20.0, 10, 10], [15.0, 8, 9]])
    turned = rotation(np.array([[0.0, 0, 20], [0.0, 15, 75]]))

    def shared(by: np.ndarray) -> float:
        found = overlaps(middle + np.array([[0, 0, 0], by]), half, turned, 1000.0)[2]
        return float(found[0])

    least = shared(np.zeros(3))
    assert least > 0
    rng = np.random.default_rng(1)
    ways = rng.standard_normal((4000, 3))
    ways /= np.linalg.norm(ways, axis=1, keepdims=True)
    assert all(shared(0.999 * least * way) > 0 for way in ways)
    assert any(shared(1.05 * least * way) <= 0 for way in ways)


def test_turns_are_about_x_then_y_then_z():
    turned = rotation(np.array([[90.0, 0, 0], [0, 90.0, 0], [0, 0, 90.0], [90.0, 0, 90.0]]))
    z = turned @ np.array([0.0, 0, 1])
    assert np.round(z, 9).tolist() == [[0, -1, 0], [1, 0, 0], [0, 0, 1], [1, 0, 0]]


def test_the_outline_in_plan_is_the_hull_of_what_is_turned():
    plan = plan_of(build_of(sized("a", [60, 40, 30], [100, 90, 80], rotation_deg=[20, 35, 50])))
    (placed,) = plan.placed
    points = corners(np.array([[100.0, 90, 80]]), np.array([[30.0, 20, 15]]), rotation(np.array([[20.0, 35, 50]])))[0]
    hull = MultiPoint(points[:, :2]).convex_hull
    drawn = MultiPoint(placed.outline_mm).convex_hull
    assert len(placed.outline_mm) == len(hull.exterior.coords) - 1
    assert drawn.symmetric_difference(hull).area == pytest.approx(0.0, abs=1e-3)
    assert placed.low_mm == pytest.approx(points.min(axis=0))


def test_a_size_without_a_tolerance_was_read_off_a_ruler():
    part = build_of({"id": "r", "kind": "reservoir", "bore_mm": 9, "outline": {"size_mm": [1, 2, 3]}}).part("r")
    extent = extent_of(part)
    assert extent is not None
    assert [(side.mm, side.half_mm, side.known) for side in extent.measures] == [
        (1, 0.5, True),
        (2, 0.5, True),
        (3, 0.5, True),
    ]


def test_a_finned_sink_is_as_high_as_base_and_fins():
    sink = {
        "id": "s",
        "kind": "sink",
        "width_mm": 100,
        "length_mm": 150,
        "material": "aluminium_extruded",
        "outside": "outside",
    }
    sink |= {"base_mm": {"value": 8, "plus_minus": 0.3}, "fin_height_mm": {"value": 25, "plus_minus": 0.4}}
    extent = extent_of(build_of(sink | {"fin_pitch_mm": 8}).part("s"))
    assert extent is not None
    assert [side.mm for side in extent.measures] == [100, 150, 33]
    assert extent.z.half_mm == pytest.approx(0.5)


def test_what_stands_out_of_the_housing_is_told_face_by_face():
    out = sticks_out(
        np.array([[10.0, 100, 170]]), np.array([[20.0, 10, 20]]), np.eye(3)[None], np.array([300.0, 200, 180])
    )
    assert out.tolist() == [[10, -270, -90, -90, -150, 10]]


@pytest.mark.parametrize(
    ("gap", "says"),
    [(-5.0, "collides"), (-0.08, "collides"), (-0.06, "measure"), (0.06, "measure"), (0.08, "close"), (1.4, "close")],
)
def test_two_parts_by_what_lies_between_them(gap, says):
    """Half widths of 0.05 each, together 0.07."""
    pump = sized("b", [40, 40, 40], [80 + gap, 100, 90], kind="pump")
    del pump["bore_mm"]
    assert clashes(sized("a", [40, 40, 40], [40, 100, 90]), pump) == [("a", "b", says, round(-gap, 2))]


def test_two_of_a_kind_may_stand_against_each_other():
    assert clashes(sized("a", [40, 40, 40], [40, 100, 90]), sized("b", [40, 40, 40], [81, 100, 90])) == []
    assert len(clashes(sized("a", [40, 40, 40], [40, 100, 90]), sized("b", [40, 40, 40], [79, 100, 90]))) == 1


def test_unlike_parts_keep_one_and_a_half_millimetres():
    def between(gap: float) -> list[Any]:
        pump = {
            "id": "p",
            "kind": "pump",
            "outline": {"size_mm": [40, 40, 40], "plus_minus_mm": 0.1, "position_mm": [80 + gap, 100, 90]},
        }
        return clashes(sized("a", [40, 40, 40], [40, 100, 90]), pump)

    assert between(1.4) == [("a", "p", "close", -1.4)]
    assert between(1.6) == []
    assert between(0.0) == []  # laid against one another


def test_walls_and_a_part_that_is_as_long_as_the_housing():
    assert clashes(sized("a", [40, 40, 40], [15, 100, 90])) == [("a", "left", "collides", 5.0)]
    assert clashes(sized("a", [40, 40, 40], [20, 100, 90])) == []
    assert clashes(sized("a", [300, 40, 40], [150, 100, 90])) == [("a", "left", "measure", 0.0)]
    assert clashes(sized("a", [299.7, 40, 40], [150, 100, 90])) == []


def test_a_radiator_of_280_may_not_go_into_320():
    """Its tanks vary by 7 mm (value from memory): only measuring tells."""
    radiator = {"id": "r", "kind": "radiator", "section_mm": 140, "sections": 2, "thickness_mm": 28}
    found = plan_of(build_of(radiator | {"outline": {"position_mm": [160, 95, 40]}}, inside=[320, 190, 180])).clashes
    assert [(c.first, c.second_name, c.says) for c in found] == [("r", "left and right", "measure")]
    shorter = plan_of(build_of(radiator | {"outline": {"position_mm": [160, 95, 40]}}, inside=[330, 190, 180])).clashes
    assert shorter == []


def test_what_stands_in_the_room_for_plugs_is_told():
    supply = {"supply": {"body": "supply_cube", "position_mm": [70, 60, 40]}}

    def told(at: float) -> list[tuple[str, str, str]]:
        found = plan_of(build_of(sized("a", [30, 30, 30], [at, 60, 40]), outlines=supply)).clashes
        return [(clash.first, clash.second, clash.says) for clash in found]

    assert told(160) == [("a", "supply", "in its room")]  # 12.5 mm behind its plug side, 40 wanted
    assert told(190) == []


def test_mass_and_its_centre():
    heavy = sized("a", [40, 40, 40], [50, 100, 90]) | {"mass_g": 3000}
    light = sized("b", [40, 40, 40], [150, 100, 90]) | {"mass_g": 1000}
    plan = plan_of(build_of(heavy, light))
    assert plan.mass_g == 4000
    assert plan.centre_of_mass_mm == pytest.approx((75, 100, 90))


def test_what_has_no_place_or_no_size_is_listed():
    plan = plan_of(
        build_of(
            {"id": "bare", "kind": "reservoir", "bore_mm": 9}, sized("a", [1, 1, 1], [1, 1, 1]) | {"outline": None}
        )
    )
    assert {"bare", "a"} <= set(plan.unplaced) | set(plan.unknown_size)


def test_every_body_of_the_shelf_has_an_outline_a_height_and_a_mass():
    for item in class_shelf():
        part = item.part
        if part is None or part.kind not in BODIES or part.kind == "sink":
            continue
        extent = extent_of(part)
        assert extent is not None, part.id
        assert min(side.mm for side in extent.measures) > 0, part.id
        if part.kind != "radiator":
            assert extent.body is not None
            assert extent.body.mass_g is not None, part.id


def test_outlines_name_classes_that_there_are_and_each_once():
    named = [class_id for body in bodies().values() for class_id in body.classes]
    assert sorted(named) == sorted(set(named))
    assert set(named) <= set(classes())
    for body in bodies().values():
        assert all(value > 0 and 0 < half < value for value, half in body.size), body.id
    assert all(thickness > 0 for _, (thickness, _) in common_layers().values())


def test_fans_are_as_thick_as_their_class_is_called():
    for key, known in classes().items():
        if known.kind == "fan":
            body = body_of_class(key)
            assert body is not None, key
            assert body.size[2][0] == known.figures["thickness_mm"][0], key
            assert body.size[0][0] == known.figures["size_mm"][0], key


def test_an_outline_that_nobody_knows_is_refused_with_the_nearest():
    from krill.prediction.predict import predict

    part = {"id": "r", "kind": "reservoir", "bore_mm": 9, "outline": {"body": "reservoir_tubes"}}
    with pytest.raises(DocumentRefused, match="reservoir_tube"):
        predict(build_of(part), samples=0)


def test_what_else_would_fit():
    card = {"graphics": {"size_mm": [240, 30, 100], "position_mm": [125, 100, 90]}}
    name = build_of().part("graphics").name
    limits = {limit.what: limit.largest_mm for limit in fit_of(build_of(outlines=card)).limits}
    assert limits[f"Longest {name}"] == pytest.approx(
        240 + (300 - 245 - 5)
    )  # 5 kept at the end, less than that before it
    assert limits[f"Highest {name}"] == pytest.approx(100 + (180 - 140 - 1.5))
    wall = sized("wall", [10, 100, 180], [270, 100, 90])
    shorter = {limit.what: limit.largest_mm for limit in fit_of(build_of(wall, outlines=card)).limits}
    assert shorter[f"Longest {name}"] == pytest.approx(240 + (265 - 245 - 5))


def test_more_placed_parts_than_are_held_against_each_other_are_refused():
    parts = [sized(f"p{i}", [1, 1, 1], [i % 300, i % 200, i % 180]) for i in range(501)]
    assert len(build_of(*parts[:500]).parts) > 500
    with pytest.raises(DocumentRefused, match="501 of them"):
        build_of(*parts)


@pytest.mark.parametrize(
    ("outline", "field"),
    [
        ({"size_mm": [1e5, 1, 1]}, "size_mm"),
        ({"position_mm": [0, -2e4, 0]}, "position_mm"),
        ({"rotation_deg": [0, 0, 361]}, "rotation_deg"),
        ({"plus_minus_mm": 1e300}, "plus_minus_mm"),
    ],
)
def test_an_outline_beyond_any_housing_is_refused_where_it_stands(outline, field):
    with pytest.raises(DocumentRefused) as refused:
        build_of(sized("a", [1, 1, 1], [1, 1, 1], **outline))
    assert [problem.where for problem in refused.value.problems] == [f"a/outline/{field}"]


def test_a_hundred_parts_are_checked_at_once():
    rng = np.random.default_rng(5)
    parts = [sized(f"p{i}", [20, 20, 20], rng.uniform(20, 160, 3).tolist()) for i in range(100)]
    plan = plan_of(build_of(*parts))
    assert len(plan.placed) == 100
    brute = sum(
        1
        for i in range(100)
        for j in range(i)
        if all(
            abs(parts[i]["outline"]["position_mm"][k] - parts[j]["outline"]["position_mm"][k]) < 20 - 0.0708
            for k in range(3)
        )
    )
    assert sum(clash.says == "collides" for clash in plan.clashes) == brute
