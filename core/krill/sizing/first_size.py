"""The first size of a recipe: the smallest of its sizes that holds what is asked, by a prediction of each."""

from krill.document.build import Build
from krill.prediction.predict import predict
from krill.recipes.book import Make, Recipe
from krill.recipes.cases import Size
from krill.recipes.resized import resized


def first_size(
    recipe: Recipe, watts: tuple[float, float, float], room_c: float, name: str, inside_mm: Size | None = None
) -> Build:
    """The document of the smallest size whose every limit keeps the margin wanted in the room; else of the largest.

    ``room_c`` C; ``inside_mm`` is the housing's inner width, depth and height where it is not the start's own.
    DocumentRefused says which figure lies outside the recipe's ranges.
    """

    def made(make: Make) -> Build:
        build = make(*watts, room_c, name)
        return build if inside_mm is None else resized(build, inside_mm)

    *smaller, largest = recipe.sizes
    for make in smaller:
        build = made(make)
        if holds_everywhere(build):
            return build
    return made(largest)


def holds_everywhere(build: Build) -> bool:
    """Whether every place with a limit keeps the margin wanted, in every workload and the build's first room."""
    wanted = float(build.brief.margin_wanted_k)
    return all(
        workload.no_state is None
        and all(place.margin_k is None or place.margin_k >= wanted for place in workload.places)
        for workload in predict(build, samples=0).workloads
    )
