"""Where parts stand, and what gravity makes of it."""

import pytest
from machines import fan, machine, opening, path

from krill.document.addresses import all_ids, stated_figures
from krill.document.geometry import centre_of, heights_of
from krill.document.reading import read_object, write_object
from krill.recipes.book import RECIPES

SIZE = [300, 200, 100]


def housing(gravity, **parts):
    raw = machine(
        [fan("f", **parts), opening("o")],
        [],
        [path("p", "out", "out", "f", "o")],
        housing={"inner_size_mm": SIZE, "gravity": gravity},
    )
    return read_object(raw)


@pytest.mark.parametrize(
    ("face", "centre"),
    [
        ("left", (0, 100, 50)),
        ("right", (300, 100, 50)),
        ("front", (150, 0, 50)),
        ("back", (150, 200, 50)),
        ("bottom", (150, 100, 0)),
        ("top", (150, 100, 100)),
    ],
)
def test_a_part_on_a_face_stands_in_its_middle(face, centre):
    build = housing([0, 0, -1], face=face)
    assert centre_of(build, build.part("f")) == centre


def test_an_outline_says_it_better_than_a_face():
    build = housing([0, 0, -1], face="top", outline={"size_mm": [1, 1, 1], "position_mm": [10, 20, 30]})
    assert centre_of(build, build.part("f")) == (10, 20, 30)
    assert heights_of(build)["f"] == pytest.approx((30 - 50) / 1000)
    assert "o" not in heights_of(build)


@pytest.mark.parametrize(
    ("gravity", "height"),
    [
        ([0, 0, -1], 0.05),
        ([0, 0, 1], -0.05),
        ([0, -1, 0], 0.0),
        ([0, 1, 0], 0.0),
        ([-1, 0, 0], 0.0),
        ([1, 0, 0], 0.0),
        ([0, 0, -9.8], 0.05),
    ],
)
def test_heights_are_against_gravity_from_the_middle(gravity, height):
    build = housing(gravity, face="top")
    assert heights_of(build)["f"] == pytest.approx(height)


@pytest.mark.parametrize("recipe_id", list(RECIPES))
def test_every_id_and_figure_of_a_recipe_has_one_address(recipe_id):
    recipe = RECIPES[recipe_id]
    build = recipe.make(*recipe.starts, 22.0, "addresses")
    ids = [item for item, _ in all_ids(build)]
    assert len(set(ids)) == len(ids)
    addresses = [stated.address for stated in stated_figures(build)]
    assert len(set(addresses)) == len(addresses)
    assert {address.split("/")[0] for address in addresses} <= set(ids)
    guessed = [
        part
        for part in write_object(build)["parts"]
        for figure in part.values()
        if isinstance(figure, dict) and figure.get("from") == "estimate"
    ]
    assert guessed  # a recipe marks its guesses
