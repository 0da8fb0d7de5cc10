"""The first size of a recipe holds what its range says, and is no larger than it needs to be."""

import pytest

from krill.document.figures import detail
from krill.document.reading import write_object
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.sizing.first_size import first_size, holds_everywhere

ROOM_C = 23.0
ENDS = [(name, index) for name, recipe in RECIPES.items() for index in range(len(recipe.asks))]


def with_one_at(name, index, watts):
    asked = list(RECIPES[name].starts)
    asked[index] = watts
    return first_size(RECIPES[name], tuple(asked), ROOM_C, name)


@pytest.mark.parametrize(("name", "index"), ENDS)
def test_the_first_size_holds_to_the_end_of_its_range(name, index):
    ask = RECIPES[name].asks[index]
    assert ask.least_w <= ask.start_w <= ask.holds_w
    for watts in (ask.least_w, ask.start_w, ask.holds_w):
        assert holds_everywhere(with_one_at(name, index, watts)), (ask.label, watts)


@pytest.mark.parametrize(("name", "index"), ENDS)
def test_a_quarter_more_is_more_than_it_holds(name, index):
    ask = RECIPES[name].asks[index]
    assert not holds_everywhere(with_one_at(name, index, 1.25 * ask.holds_w)), ask.label


@pytest.mark.parametrize(("name", "small", "large"), [("thin_box", 65, 125), ("ducted_sink", 30, 60)])
def test_the_smallest_size_that_holds_is_taken(name, small, large):
    recipe = RECIPES[name]
    assert len(recipe.sizes) == 2

    def height(watts):
        return write_object(with_one_at(name, 0, watts))["housing"]["inner_size_mm"]

    _, second, rest = recipe.starts
    by_size = [
        write_object(make(small, second, rest, ROOM_C, name))["housing"]["inner_size_mm"] for make in recipe.sizes
    ]
    assert height(small) == by_size[0]
    assert height(large) == by_size[1]


def test_more_than_any_size_holds_is_made_in_the_largest():
    recipe = RECIPES["ducted_sink"]
    made = first_size(recipe, (120.0, 12.0, 4.0), ROOM_C, "hot")
    assert made.part("sink-first").class_ == "cooler_tower_120"
    assert not holds_everywhere(made)


@pytest.mark.parametrize("name", ["water_loop", "outside_radiator", "thin_box"])
def test_a_machine_without_graphics_draws_nothing_there(name):
    """0 W is a figure: it was turned into an idle card's watts."""
    build = RECIPES[name].make(125.0, 0.0, 20.0, ROOM_C, name)
    assert {float(detail(workload.watts["graphics"]).value) for workload in build.workloads} == {0.0}
    with_card = RECIPES[name].make(125.0, 75.0, 20.0, ROOM_C, name)
    idle = next(workload for workload in with_card.workloads if workload.id == "idle")
    assert float(detail(idle.watts["graphics"]).value) == 12.0
    assert all(workload.no_state is None for workload in predict(build, samples=0).workloads)


@pytest.mark.parametrize("name", list(RECIPES))
def test_no_part_is_hotter_than_anybody_would_believe_at_three_sets_of_watts(name):
    """Least, start and most that it holds of all three together; every document is solved without a fault."""
    recipe = RECIPES[name]
    for watts in (tuple(a.least_w for a in recipe.asks), recipe.starts, tuple(a.holds_w for a in recipe.asks)):
        found = predict(first_size(recipe, watts, ROOM_C, name), samples=0)
        for workload in found.workloads:
            assert workload.no_state is None
            assert all(ROOM_C - 0.01 <= place.temperature_c < 130 for place in workload.places), (
                watts,
                workload.workload,
            )
