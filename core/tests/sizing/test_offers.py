"""What a build offers to ask: each offer is one that the question takes, and the asked-most questions have answers."""

import pytest
from frozen.answers import machine, machine_names
from strategies import recipe

from krill.catalogue.classes import alike
from krill.components.figure_table import FigureTable
from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.networks.states import Case
from krill.prediction.predict import cases_of
from krill.recipes.water_loop import water_loop
from krill.sizing.next_changes import next_changes
from krill.sizing.offers import offers_of
from krill.sizing.search import Search
from krill.sizing.varied import Numeric, varied


def hardest(build):
    return build.brief.worst_workloads[0] if build.brief.worst_workloads else build.workloads[-1].id


@pytest.fixture(params=machine_names())
def build(request):
    return machine(request.param)


def test_every_axis_takes_the_values_that_it_is_offered_with(build):
    table, offers = FigureTable(build), offers_of(build, hardest(build))
    addresses = [axis.address for axis in offers.axes]
    assert len(set(addresses)) == len(addresses)
    for axis in offers.axes:
        one = varied(build, table, axis.address)
        for option in axis.options:
            one.check(option.value)
            assert option.label
        assert isinstance(one, Numeric) >= axis.range
        if axis.range:
            values = [option.value for option in axis.options]
            assert values == sorted(values)
    assert 1 <= sum(axis.first for axis in offers.axes) <= 5


def test_every_number_and_every_unknown_may_be_asked_for(build):
    offers, table = offers_of(build, hardest(build)), FigureTable(build)
    (case,) = cases_of(build, [hardest(build)], None)
    for number in offers.numbers:
        assert isinstance(varied(build, table, number.address), Numeric)
        assert number.low < number.high
    assert len(offers.unknowns) > 20
    for unknown in offers.unknowns:
        search = Search(build, case, unknown.address, "level", "", 30.0)
        assert search.now == search.now, unknown
        assert unknown.name.split(": ")[1]


def test_questions_are_about_the_place_in_view(build):
    place = next(iter(build.place_owners()))
    offers = offers_of(build, hardest(build), place)
    asked = [question for question in offers.questions if question.goal == "margin"]
    assert asked
    assert all(question.of == place for question in asked)
    assert all(question.wanted == float(build.brief.margin_wanted_k) for question in asked)
    for question in offers.questions:
        case: Case = cases_of(build, [hardest(build)], None)[0]
        Search(build, case, question.address, question.goal, question.of, question.wanted)
    assert [q.goal for q in offers_of(build, hardest(build)).questions] in ([], ["level"])


def test_a_water_loop_begins_with_sizes_fans_and_speeds():
    axes = offers_of(recipe(), "both").axes
    first = [axis.address for axis in axes if axis.first]
    assert first == ["radiator-a/sections", "radiator-a/thickness_mm", "fans/class", "movers/fans", "movers/pumps"]
    thickness = next(axis for axis in axes if axis.address == "radiator-a/thickness_mm")
    assert [option.label for option in thickness.options] == ["28 mm", "38 mm", "45 mm", "60 mm"]
    duty = next(axis for axis in axes if axis.address == "movers/fans")
    assert (duty.options[0].label, duty.options[-1].label, len(duty.options)) == ("30 %", "100 %", 15)


def test_a_source_of_few_watts_has_no_limit_of_its_own():
    raw = write_object(recipe())
    told = next(workload for workload in raw["workloads"] if workload["id"] == "both")
    for watts, offered in ((20, True), (19.9, False)):
        told["watts"]["graphics"] = watts
        addresses = [axis.address for axis in offers_of(read_object(raw), "both").axes]
        assert ("both/watts/graphics" in addresses) is offered


def test_who_has_a_power_limit_is_who_somebody_can_limit():
    """A processor's package of any size; a chip by itself never, however much it draws."""
    raw = write_object(recipe())
    told = next(workload for workload in raw["workloads"] if workload["id"] == "both")
    told["watts"] |= {"processor": 6, "regulators": 60}
    build = read_object(raw)
    limits = {axis.address for axis in offers_of(build, "both").axes if axis.address.startswith("both/watts/")}
    assert limits == {"both/watts/processor", "both/watts/graphics"}
    steps = {
        change.about for change in next_changes(build, "both", quick=True).changes if "power limit" in change.label
    }
    assert steps == {"processor", "graphics"}


def test_a_build_without_parts_offers_its_room():
    raw = write_object(recipe())
    raw |= {
        "parts": [],
        "loops": [],
        "air_paths": [],
        "routes": [],
        "recirculations": [],
        "brief": {},
        "zones": raw["zones"],
    }
    raw["workloads"] = [{"id": "full", "watts": {}}]
    offers = offers_of(read_object(raw), "full")
    assert [number.address for number in offers.numbers] == ["room/air_c"]
    assert offers.questions == []
    with pytest.raises(DocumentRefused, match="no such workload"):
        offers_of(read_object(raw), "render")
    with pytest.raises(DocumentRefused, match="no such place"):
        offers_of(read_object(raw), "full", "nowhere")


def test_classes_alike_leave_out_what_nobody_would_choose():
    assert [item.id for item in alike("paste_dry_lid")] == ["paste_ordinary_lid", "paste_good_lid"]
    assert "fan_120x25_very_fast" not in [item.id for item in alike("fan_120x25")]
    assert [item.id for item in alike("fan_120x25_very_fast")] == [item.id for item in alike("fan_120x25")]
    assert alike("fan_blower_50x15") == []
    assert alike(None) == []


def test_box_and_coolant_are_asked_about_by_what_is_common_practice():
    """6 K for the air of a box by its widest opening, 10 K for coolant by the sections of its radiator."""
    found = {one.address: one for one in offers_of(water_loop(125, 220, 20, 24, "loop"), "both").questions}
    # asked of a place or not, what is shared is the same
    found |= {
        one.address: one for one in offers_of(water_loop(125, 220, 20, 24, "loop"), "both", "drive-place").questions
    }
    box, coolant = found["grille/area_cm2"], found["radiator-a/sections"]
    assert (box.goal, box.of, box.wanted) == ("rise", "box", 6.0)
    assert box.says == "area of Grille for Box air 6 K over the room"
    assert (coolant.wanted, coolant.goal) in ((10.0, "rise"), (3.0, "margin"))
