"""What fields say of themselves: units that their keys carry, ranges at both ends, tolerances, words, the published schema."""

from typing import Any, get_args

import pytest

from krill.document import build, part_base, parts, solids
from krill.document.figures import FigureDetail, Strict
from krill.document.quantities import Described, Quantity, described, figures_of, quantities, tolerance_of
from krill.document.reading import schema
from krill.units import UNITS

MODELS = sorted(
    {
        model
        for module in (build, part_base, parts, solids)
        for model in vars(module).values()
        if isinstance(model, type) and issubclass(model, Strict) and model is not Strict
    },
    key=lambda model: model.__name__,
)
FIGURES = [(model, name, quantity) for model in MODELS for name, quantity in figures_of(model).items()]
#: how a unit is spelled at the end of a key, the longest first
ENDINGS = {
    "n": "N",
    "mm2k_w": "mm²·K/W",
    "w_m2": "W/m²",
    "w_mk": "W/m·K",
    "l_min": "l/min",
    "m3_h": "m³/h",
    "k_w": "K/W",
    "w_k": "W/K",
    "j_k": "J/K",
    "mm2": "mm²",
    "cm2": "cm²",
    "mm": "mm",
    "um": "µm",
    "mpa": "MPa",
    "kpa": "kPa",
    "pa": "Pa",
    "rpm": "rpm",
    "dba": "dBA",
    "ml": "ml",
    "w": "W",
    "c": "°C",
    "k": "K",
    "s": "s",
    "m": "m",
    "l": "l",
    "g": "g",
    "a": "A",
}


def spelled(key: str) -> str:
    return "W" if key == "watts" else next((unit for end, unit in ENDINGS.items() if key.endswith(f"_{end}")), "")


def test_every_field_that_holds_a_figure_says_what_it_is():
    """A figure without a quantity would have no unit, no range and no band."""
    for model in MODELS:
        holding = {name for name, info in model.model_fields.items() if "Figure" in str(info.annotation)}
        assert holding == set(figures_of(model)) | ({"places"} & holding), model


@pytest.mark.parametrize(("model", "name", "quantity"), FIGURES, ids=lambda x: getattr(x, "__name__", str(x)[:24]))
def test_the_unit_is_the_one_that_the_key_carries(model, name, quantity):
    assert quantity.unit == spelled(name), (model, name)
    assert quantity.unit in UNITS
    assert quantity.label
    assert not quantity.label.endswith(quantity.unit or "\0")


def test_factors_to_si():
    assert Quantity("flow", unit="l/min").factor == pytest.approx(1 / 60000)
    assert Quantity("flow", unit="m³/h").factor == pytest.approx(1 / 3600)
    assert Quantity("paste", unit="mm²·K/W").factor == 1e-6
    assert Quantity("air", unit="°C").factor == 1.0


EPS = 1e-9


@pytest.mark.parametrize(
    ("quantity", "inside", "outside", "words"),
    [
        (Quantity("bore", unit="mm"), [EPS, 1e12], [0.0, -1.0], "more than 0"),
        (Quantity("loss", at_least=0), [0.0, 5.0], [-EPS], "0 or more"),
        (Quantity("share", at_most=1), [EPS, 1.0], [0.0, 1 + EPS], "a share from 0 to 1"),
        (
            Quantity("air", unit="°C", above=None, at_least=-100, at_most=300),
            [-100.0, 300.0],
            [-100 - 1e-6, 300 + 1e-6],
            "-100 to 300 °C",
        ),
        (Quantity("lift", unit="mm", above=None), [-1e9, 0.0, 1e9], [], "any number"),
        (
            Quantity("blocked", at_least=0, at_most=0.95, because="more closes it"),
            [0.0, 0.95],
            [0.95 + EPS],
            "a share from 0 to 0.95: more closes it",
        ),
    ],
)
def test_ranges_hold_up_to_their_ends_and_not_beyond(quantity, inside, outside, words):
    assert all(quantity.holds(value) for value in inside)
    assert not any(quantity.holds(value) for value in outside)
    assert quantity.allowed() == words


def test_tolerances_by_kind_and_as_stated():
    loss = figures_of(parts.Fitting)["loss"]
    assert tolerance_of(loss, FigureDetail(value=2.0)).plus == pytest.approx(0.7)
    assert tolerance_of(loss, FigureDetail(value=-2.0)).minus == pytest.approx(0.7)
    assert tolerance_of(loss, FigureDetail(value=2.0, plus_minus="10%")).minus == pytest.approx(0.2)
    given = FigureDetail.model_validate({"value": 2.0, "plus_minus": {"minus": 0.1, "plus": 0.4}})
    assert (tolerance_of(loss, given).minus, tolerance_of(loss, given).plus) == (0.1, 0.4)
    assert tolerance_of(figures_of(parts.Fan)["level_dba"], FigureDetail(value=25)).plus == 4.0


def test_the_free_end_and_the_closed_end_of_a_pump_are_known_equally_well():
    """By the endings of its key a shut-off head would have had the 30 % of any pressure drop."""
    pump = figures_of(parts.Pump)
    assert pump["shutoff_kpa"].tolerance == pump["free_flow_l_min"].tolerance == "12%"


@pytest.mark.parametrize(
    "key",
    [
        "dust",
        "covered_share",
        "gap_mm",
        "loaded",
        "stands",
        "fins_along",
        "flanks",
        "face",
        "movers",
        "watts",
        "from_zone",
        "to_zone",
        "elements",
        "recirculated_share",
        "gravity",
    ],
)
def test_what_is_set_told_cleaned_or_turned_buys_nothing(key):
    said = [fields[key] for model in MODELS if key in (fields := described(model))]
    assert said
    assert not any(says.buys for says in said)


@pytest.mark.parametrize("key", ["length_mm", "fin_pitch_mm", "finish", "sections", "thickness_mm", "count", "bore_mm"])
def test_what_is_made_or_bought_costs(key):
    assert all(fields[key].buys for model in MODELS if key in (fields := described(model)))


def test_thicknesses_and_counts_that_are_made_stand_with_their_field():
    assert quantities(parts.Radiator)["thickness_mm"].options == (28, 38, 45, 60)
    assert quantities(parts.Radiator)["sections"].options == tuple(range(1, 13))
    assert quantities(solids.HeatPipe)["count"].options[:3] == (1, 2, 3)


def test_the_published_schema_says_it_too():
    definitions: dict[str, Any] = schema()["$defs"]
    for model, name, quantity in FIGURES:
        published = definitions[model.__name__]["properties"][name] if model.__name__ in definitions else None
        if published is None:
            assert model in (part_base.Part, solids.Body)
            continue
        assert (published["x-unit"], published["x-label"], published["x-group"]) == (
            quantity.unit,
            quantity.label,
            quantity.group,
        )
        assert all(published["x-range"][end] == getattr(quantity, end) for end in published["x-range"])
    assert definitions["Radiator"]["properties"]["thickness_mm"]["x-options"] == [28, 38, 45, 60]
    assert definitions["Sink"]["properties"]["stands"]["x-label"] == "stands"
    assert "x-unit" not in definitions["Sink"]["properties"]["stands"]


def test_every_choice_of_a_solid_is_described():
    for kind in (solids.Sink, solids.Panel, solids.HeatPipe, solids.Spreader):
        choices = [
            name for name, info in kind.model_fields.items() if "Literal" in str(info.annotation) and name != "kind"
        ]
        assert choices
        assert all(isinstance(described(kind)[name], Described) for name in choices if name != "direction"), kind
    assert get_args(solids.Material)
