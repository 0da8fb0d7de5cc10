"""A radiator of other sections: fans and the opening in front go along, and back again."""

import pytest
from strategies import raw_recipe, recipe

from krill.document.build import leaves
from krill.document.reading import read_object
from krill.sizing.radiator_size import fans_on, sections_edits
from krill.sizing.steps.step import edited


@pytest.mark.parametrize("sections", [1, 2, 4, 6])
def test_a_fan_stands_on_each_section_and_the_opening_grows(sections):
    build = recipe()
    assert fans_on(build, "radiator-a") == ["fan-a1", "fan-a2", "fan-a3"]
    other = edited(build, sections_edits(build, "radiator-a", sections))
    fans = [part for part in other.parts if part.kind == "fan"]
    path = next(path for path in other.air_paths if "radiator-a" in path.elements)
    assert other.part("radiator-a").sections == sections == len(fans)
    assert [item for item in leaves(path.elements) if item.startswith("fan")] == [fan.id for fan in fans]
    assert other.part("grille").area_cm2.value == pytest.approx(144 * sections, rel=0.01)
    assert other.part("radiator-a").name == f"Radiator {120 * sections}"
    for workload in other.workloads:
        assert set(workload.movers) == {"pump", *(fan.id for fan in fans)}


def test_growing_and_shrinking_again_is_the_build_it_was():
    build = recipe()
    larger = edited(build, sections_edits(build, "radiator-a", 5))
    assert edited(larger, sections_edits(larger, "radiator-a", 3)) == build


def test_fans_that_do_not_stand_one_a_section_stay_as_they_are():
    raw = raw_recipe()
    next(part for part in raw["parts"] if part["id"] == "radiator-a")["sections"] = 2
    build = read_object(raw)
    assert fans_on(build, "radiator-a") == []
    other = edited(build, sections_edits(build, "radiator-a", 4))
    assert sum(part.kind == "fan" for part in other.parts) == 3
