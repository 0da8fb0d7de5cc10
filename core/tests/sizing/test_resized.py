"""Starts in housings of another size: what covers a face goes along, walls go with the surface."""

import pytest

from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.recipes.resized import resized
from krill.sizing.first_size import first_size

ROOM_C = 25.0


def start(name):
    recipe = RECIPES[name]
    return recipe.make(*recipe.starts, ROOM_C, name)


def sides(build, part):
    found = build.part(part)
    return found.width_mm.value, found.height_mm.value


@pytest.mark.parametrize("name", RECIPES)
def test_a_start_in_its_own_size_is_what_it_was(name):
    build = start(name)
    assert resized(build, build.housing.inner_size_mm) == build


def test_panels_go_with_their_faces_and_walls_with_the_surface():
    build = start("tower_box")
    assert build.housing.inner_size_mm == (200, 400, 380)
    larger = resized(build, (300, 500, 400))
    assert larger.housing.inner_size_mm == (300, 500, 400)
    assert sides(larger, "wall-left") == (500, 400)
    assert sides(larger, "wall-right") == (500, 400)
    assert sides(larger, "wall-top") == (300, 500)
    before, after = (next(z for z in b.zones if z.id == "box").wall_w_k.value for b in (build, larger))
    # 2 (300·500 + 300·400 + 500·400) over 2 (200·400 + 200·380 + 400·380)
    assert after / before == pytest.approx(470_000 / 308_000)


def test_a_finned_back_covers_the_face_of_a_larger_housing_and_is_cooler():
    build = start("fanless_housing")
    width, depth, height = map(float, build.housing.inner_size_mm)
    larger = resized(build, (width * 1.3, depth, height * 1.3))
    back = next(part for part in build.parts if part.kind == "sink" and part.face == "back")
    grown = larger.part(back.id)
    assert grown.width_mm.value == pytest.approx(1.3 * back.width_mm.value)
    assert grown.length_mm.value == pytest.approx(1.3 * back.length_mm.value)
    assert grown.fin_height_mm == back.fin_height_mm
    hot, cool = (
        {place.address: place.temperature_c for place in predict(b, samples=0).workloads[0].places}
        for b in (build, larger)
    )
    assert all(cool[address] < hot[address] for address in hot)


def test_what_does_not_cover_a_face_stays():
    build = start("tower_box")
    larger = resized(build, (300, 500, 400))
    kept = [part for part in build.parts if not part.id.startswith("wall-")]
    assert [part for part in larger.parts if not part.id.startswith("wall-")] == kept


def test_the_first_size_is_found_in_the_housing_asked():
    recipe = RECIPES["fanless_housing"]
    made = first_size(recipe, recipe.starts, ROOM_C, "small", (150, 80, 150))
    assert made.housing.inner_size_mm == (150, 80, 150)


def test_a_size_that_is_none_is_refused_by_its_address():
    with pytest.raises(DocumentRefused) as refused:
        resized(start("tower_box"), (0, 400, 380))
    assert "inner_size_mm" in str(refused.value)
