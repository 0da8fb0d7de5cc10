"""A locked part or figure is touched by no next change, no search, no study and no speed for a level; a map may look."""

import pytest
from asking import asked, axis

from krill.components.figure_table import FigureTable
from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.recipes.water_loop import water_loop
from krill.sizing.candidates import Study
from krill.sizing.locks import lock_on
from krill.sizing.map_of import map_of
from krill.sizing.next_changes import next_changes
from krill.sizing.offers import offers_of
from krill.sizing.quieter import speed_for_level
from krill.sizing.radiator_size import sections_edits
from krill.sizing.result import Edit
from krill.sizing.solve_for import solve_for


def with_locks(*locks):
    return read_object(write_object(water_loop(125, 220, 30, 24, "loop")) | {"locked": list(locks)})


def touched(change):
    for edit in change.edits:
        if edit.target == "parts":
            yield edit.value if isinstance(edit.value, str) else edit.value["id"]
        yield edit.target
        yield f"{edit.target}/{edit.field}"
        yield edit.field.rpartition("/")[2]


@pytest.mark.parametrize(
    ("lock", "ever"),
    [
        ("radiator-a", "radiator-a"),
        ("fan-a1", "fan-a1"),
        ("movers/pump", "pump"),
        ("paste-processor", "paste-processor"),
        ("both/watts/processor", "both/watts/processor"),
        ("radiator-a/thickness_mm", "radiator-a/thickness_mm"),
    ],
)
def test_no_next_change_touches_what_is_locked(lock, ever):
    free, held = next_changes(with_locks(), "both"), next_changes(with_locks(lock), "both")
    assert any(ever in touched(change) for change in free.changes)
    assert not any(ever in touched(change) for change in held.changes)
    kept = {change.label for change in held.changes}
    assert kept == {change.label for change in free.changes if ever not in touched(change)}


def test_a_locked_figure_leaves_the_rest_of_its_part():
    held = next_changes(with_locks("radiator-a/thickness_mm"), "both")
    assert any("radiator-a/sections" in touched(change) for change in held.changes)


@pytest.mark.parametrize(
    ("lock", "address"),
    [
        ("pump", "movers/pump"),
        ("pump", "movers/pumps"),
        ("movers/fan-a1", "movers/fans"),
        ("fan-a1", "radiator-a/sections"),
        ("tube", "tube/length_m"),
        ("tube/length_m", "tube/length_m"),
        ("processor", "processor-core/chip_area_mm2"),
        ("processor", "both/watts/processor"),
        ("watts/processor", "both/watts/processor"),
    ],
)
def test_what_is_locked_is_neither_solved_for_nor_offered(lock, address):
    found = solve_for(with_locks("elbows"), address, "margin", "drive-place", 20, "both")
    assert found.address == address
    with pytest.raises(DocumentRefused, match=f"{address}.*'{lock}' is locked"):
        solve_for(with_locks(lock), address, "margin", "drive-place", 20, "both")
    assert address in {one.address for one in offers_of(with_locks(), "both").unknowns} | {"movers/pumps"}
    assert address not in {one.address for one in offers_of(with_locks(lock), "both").unknowns}


@pytest.mark.parametrize(
    ("lock", "address", "options"),
    [
        ("fan-a2", "fans/class", ("fan_120x25", "fan_120x30")),
        ("fan-a2/class", "fans/class", ("fan_120x25", "fan_120x30")),
        ("radiator-a", "radiator-a/sections", (2, 3)),
        ("pump", "movers/pumps", (0.5, 0.9)),
    ],
)
def test_a_study_of_what_is_locked_is_refused_and_not_offered(lock, address, options):
    question = asked([axis(address, *options), axis("movers/fan-a1", 0.5, 0.7)])
    assert Study(with_locks(), question).check_free().varied
    with pytest.raises(DocumentRefused, match="is locked"):
        Study(with_locks(lock), question).check_free()
    assert address in {one.address for one in offers_of(with_locks(), "both").axes}
    assert address not in {one.address for one in offers_of(with_locks(lock), "both").axes}


def test_a_map_may_look_at_what_is_locked():
    found = map_of(with_locks("pump"), asked([axis("movers/pumps", 0.5, 0.9), axis("movers/fans", 0.5, 0.7)]))
    assert len(found.margin_k) == 2


def test_speeds_for_a_level_leave_locked_fans_alone():
    found = speed_for_level(with_locks("fan-a1", "movers/fan-a2"), "both", 25)
    assert set(found.duties) == {"fan-a3"}


def test_a_lock_of_what_is_not_there_holds_nothing():
    build = with_locks("gone", "gone/length_m")
    table = FigureTable(build)
    assert table.figures
    assert len(next_changes(build, "both").changes) == len(next_changes(with_locks(), "both").changes)


def test_a_part_that_would_be_taken_out_or_replaced_is_held_by_its_lock():
    """Two sections instead of three take the third fan out."""
    held = with_locks("fan-a3")
    assert lock_on(held, sections_edits(held, "radiator-a", 2)) == "fan-a3"
    assert lock_on(held, sections_edits(held, "radiator-a", 4)) is None
    other = Edit(target="parts", field="=", value={"id": "fan-a3", "kind": "fan"})
    assert lock_on(held, [other]) == "fan-a3"
    assert lock_on(held, [Edit(target="parts", field="+", value={"id": "fan-a3", "kind": "fan"})]) is None
