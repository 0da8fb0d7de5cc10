"""What may vary, by kind: how an address is read, what its values may be, what a value sets and what it buys."""

import pytest
from strategies import raw_recipe, recipe

from krill.components.figure_table import FigureTable
from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.networks.states import ROOM_ADDRESS
from krill.prediction.predict import cases_of
from krill.recipes.fanless_housing import fanless_housing
from krill.sizing.varied import (
    ChoiceOf,
    ClassOf,
    DutyOf,
    FigureAt,
    GravityOf,
    Numeric,
    PartOf,
    RoomAir,
    SectionsOf,
    WholeNumber,
    varied,
)

BUILD = recipe()
BOX = fanless_housing(38, 8, 4, 25)


def of(address, build=BUILD):
    return varied(build, FigureTable(build), address)


@pytest.mark.parametrize(
    ("address", "kind"),
    [
        ("room/air_c", RoomAir),
        ("tube/length_m", FigureAt),
        ("both/watts/processor", FigureAt),
        ("movers/pump", DutyOf),
        ("movers/fans", DutyOf),
        ("movers/loop-a", DutyOf),
        ("fans/class", ClassOf),
        ("pump/class", ClassOf),
        ("radiator-a/sections", SectionsOf),
        ("radiator-a/thickness_mm", WholeNumber),
        ("fittings/count", WholeNumber),
        ("plate-processor/part", PartOf),
        ("housing/gravity", GravityOf),
        ("fan-a1/plastic", ChoiceOf),
    ],
)
def test_an_address_is_read_as_its_kind(address, kind):
    assert type(of(address)) is kind


@pytest.mark.parametrize(
    ("address", "what"),
    [
        ("movers/tube", "there is no such fan or pump"),
        ("nobody/class", "there is nothing like it"),
        ("tube", "there is nothing like it"),
        ("", "there is nothing like it"),
        ("movers", "there is no such fan or pump"),
        ("tube/no_such_field", "there is nothing like it"),
        ("housing/colour", "there is nothing like it"),
    ],
)
def test_an_address_of_nothing_is_refused(address, what):
    with pytest.raises(DocumentRefused, match=what):
        of(address)


def test_a_radiator_of_measured_points_has_no_other_sizes():
    raw = raw_recipe()
    next(part for part in raw["parts"] if part["id"] == "radiator-a")["points"] = [{"airflow_m3_h": 100, "w_k": 20}]
    for field in ("sections", "thickness_mm"):
        with pytest.raises(DocumentRefused, match="measured points"):
            of(f"radiator-a/{field}", read_object(raw))


@pytest.mark.parametrize(
    ("address", "good", "bad"),
    [
        ("movers/fans", [0, 0.5, 1], [-0.01, 1.01, True, "half"]),
        ("radiator-a/sections", [1, 12], [0, 13, 2.0, True]),
        ("radiator-a/thickness_mm", [28, 45.0], [0, "thick"]),
        ("tube/length_m", [1, 2.5], ["long", None, True]),
        ("fans/class", ["fan_120x15"], [3, None]),
        ("housing/gravity", [[0, 0, 1]], [[0, 0], [0, 0, "1"], [True, 0, 0], 3]),
        ("plate-processor/part", [{"kind": "plate"}], [{"kind": "fan"}, "plate"]),
        ("fan-a1/plastic", ["pla", None], []),
    ],
)
def test_values_that_make_sense(address, good, bad):
    one = of(address)
    for value in good:
        one.check(value)
    for value in bad:
        with pytest.raises(DocumentRefused) as caught:
            one.check(value)
        assert caught.value.problems[0].allowed == one.allowed()


def test_figures_and_duties_are_rows_in_si_and_shapes_are_documents():
    assert of("tube/bore_mm").rows(11) == {"tube/bore_mm": 0.011}
    assert of("room/air_c").rows(30) == {ROOM_ADDRESS: 30.0}
    assert of("movers/pump").rows(0.5) == {"movers/pump": 0.5}
    assert of("both/watts/processor").rows(100) == {"both/watts/processor": 100.0}
    for address in ("radiator-a/sections", "fans/class", "housing/gravity", "plate-processor/part"):
        assert of(address).rows(3) is None


def test_what_a_value_buys():
    fans = [part.id for part in BUILD.parts if part.kind == "fan"]
    assert of("fans/class").bought() == of("fans/class").pieces() == fans
    assert of("radiator-a/thickness_mm").bought() == ["radiator-a"]
    sections = of("radiator-a/sections")
    assert sections.pieces() == ["radiator-a"]
    assert sections.bought()[0] == "radiator-a"
    assert set(sections.bought()[1:]) <= set(fans)
    assert len(sections.bought()) > 1
    for address in ("movers/fans", "both/watts/processor", "room/air_c", "housing/gravity"):
        assert of(address).bought() == []
    assert of("back/stands", BOX).bought() == []
    assert of("back/finish", BOX).bought() == ["back"]


def test_where_it_stands_now_and_how_far_it_is_looked_for():
    (case,) = cases_of(BUILD, ["both"], 21.0)
    for address, now, reach in (
        ("room/air_c", 21.0, (-20.0, 60.0)),
        ("movers/pump", 0.7, (0.2, 1.0)),
        ("radiator-a/sections", 3.0, (0.6, 15.0)),
        ("both/watts/processor", 125.0, (25.0, 625.0)),
    ):
        one = of(address)
        assert isinstance(one, Numeric)
        assert one.now(case) == pytest.approx(now)
        assert one.reach(one.now(case)) == pytest.approx(reach)
    assert of("room/air_c").reach(70.0) == (-20.0, 70.0)
    assert of("movers/pump").reach(0.1) == (0.1, 1.0)
    assert of("both/watts/processor").reach(0.0) == (0.0, 1.0)


def test_a_value_is_present_or_not():
    (case,) = cases_of(BUILD, ["both"], None)
    for address, here, elsewhere in (
        ("both/watts/processor", 125, 126),
        ("radiator-a/sections", 3, 2),
        ("housing/gravity", [0, 0, -1], [0, 0, 1]),
        ("movers/pump", 0.7, 0.8),
    ):
        assert of(address).is_present(here, case.workload)
        assert not of(address).is_present(elsewhere, case.workload)
