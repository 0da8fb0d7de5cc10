"""The small picture of a start says what its document says: where air goes, what cools, loop, duct and station."""

import pytest

from krill.recipes.book import RECIPES
from krill.recipes.picture import picture_of


def pictured(name):
    recipe = RECIPES[name]
    return picture_of(recipe.make(*recipe.starts, 23.0, name))


def mouths(name):
    return {(mouth.face, mouth.way, mouth.fan, mouth.sections) for mouth in pictured(name).mouths}


@pytest.mark.parametrize(
    ("name", "expected"),
    [
        ("tower_box", {("front", "in", True, 0), ("back", "out", True, 0), ("back", "either", False, 0)}),
        ("water_loop", {("bottom", "out", True, 3), ("back", "either", False, 0)}),
        ("furniture_box", {("back", "out", True, 0), ("back", "either", False, 0)}),
        ("small_blower", {("left", "in", True, 0), ("right", "either", False, 0)}),
        ("fanless_housing", set()),
    ],
)
def test_air_goes_where_the_paths_lead(name, expected):
    assert mouths(name) == expected


def test_a_path_from_the_room_to_the_room_has_an_inlet_and_outlets():
    ways = [(mouth.face, mouth.way) for mouth in pictured("ducted_sink").mouths]
    assert ways[:3] == [("left", "in"), ("front", "out"), ("back", "out")]


@pytest.mark.parametrize(
    ("name", "cooled", "loop", "duct", "station"),
    [
        ("two_cards", ["tower", "card", "card"], False, False, 0),
        ("low_cooler_box", ["low", "card"], False, False, 0),
        ("closed_loop", ["plate", "card"], True, False, 0),
        ("outside_radiator", ["plate", "plate"], True, False, 9),
        ("ducted_sink", ["duct_sink", "duct_sink"], False, True, 0),
        ("small_blower", ["stick_on"], False, False, 0),
        ("small_fanless", ["sink"], False, False, 0),
    ],
)
def test_what_cools_is_what_routes_end_in(name, cooled, loop, duct, station):
    found = pictured(name)
    assert (found.cooled, found.loop, found.duct, found.station) == (cooled, loop, duct, station)


def test_walls_and_fins_are_told():
    assert pictured("furniture_box").wood
    assert not pictured("tower_box").wood
    assert pictured("fanless_housing").sink_faces == ["back"]
    assert (pictured("tower_box").depth_mm, pictured("tower_box").height_mm) == (400.0, 380.0)
