"""Kinds x questions: every kind has its row in every table that asks for it; a throw-away kind walks the whole road.

``QUESTIONS`` is what adding a kind means: CONTRIBUTING points here.
"""

from typing import Annotated, Literal, get_args

import pytest
from machines import box, fan, machine, opening, path, source, sure
from pydantic import Field

from krill.catalogue.shelf import class_shelf
from krill.components.air_parts import air_edge
from krill.components.coolant_parts import PowerFigures, coolant_edge
from krill.components.stated import STATED_AIR
from krill.document.build import Build, Hop
from krill.document.consistency import problems_of
from krill.document.figures import Figure
from krill.document.hop_rules import ON_THE_WAY, RULES
from krill.document.kinds import MOVER_KINDS, kinds_with, part_models
from krill.document.part_base import Part
from krill.document.parts import AnyPart
from krill.document.quantities import Quantity, figures_of
from krill.document.shelf import KINDS as SHELF_KINDS
from krill.networks.layers import LAYER_LAWS
from krill.networks.structure import HOP_NODES, LAYER_KINDS
from krill.prediction.answer.hop_laws import LAYER_SOURCES
from krill.prediction.answer.origins import LAYER_FIGURES
from krill.prediction.predict import predict

HOP_KINDS = get_args(Hop.model_fields["kind"].annotation)


def rows(table) -> set[str]:
    """Kinds of parts that a singledispatch table has a row for."""
    models = part_models()
    return {kind for kind, model in models.items() if table.dispatch(model) is not table.dispatch(object)}


#: (question, its table's rows, the kinds that it is asked of): one file each
QUESTIONS = {
    "what it asks of the coolant (components/coolant_parts.py)": (rows(coolant_edge), set(kinds_with("in_loop"))),
    "what it asks of the air (components/air_parts.py)": (rows(air_edge), set(kinds_with("in_air"))),
    "rule of a hop (document/hop_rules.py)": (set(RULES), set(HOP_KINDS)),
    "nodes of a hop (networks/structure.py)": (set(HOP_NODES), set(HOP_KINDS)),
    "law of a layer (networks/layers.py)": (set(LAYER_LAWS), set(LAYER_KINDS)),
    "source of a layer's law (prediction/answer/hop_laws.py)": (set(LAYER_SOURCES), set(LAYER_KINDS)),
    "figures of a layer inside a place (prediction/answer/origins.py)": (set(LAYER_FIGURES), set(LAYER_KINDS[:5])),
    "place on the shelf (document/shelf.py)": (set(SHELF_KINDS), {*kinds_with("on_shelf"), "coolant"}),
}  # fmt: skip


@pytest.mark.parametrize("question", QUESTIONS)
def test_every_kind_has_its_row_and_no_row_is_of_nobody(question):
    table, asked_of = QUESTIONS[question]
    assert asked_of - table == set(), f"{question}: no row"
    assert table - asked_of == set(), f"{question}: asked of nobody"


def test_traits_agree_with_each_other():
    assert MOVER_KINDS == ("pump", "fan")
    assert set(kinds_with("takes_routes")) <= set(kinds_with("in_air"))
    assert set(kinds_with("exchanges_heat")) <= set(kinds_with("in_air")) | set(kinds_with("in_loop"))
    assert set(kinds_with("has_mouth")) <= set(kinds_with("in_air"))
    assert not {"source", "supply"} & set(kinds_with("on_shelf"))
    assert set(ON_THE_WAY) < set(HOP_KINDS)


def test_every_shelf_kind_that_a_class_makes_reads_back():
    made = {item.part.kind for item in class_shelf()}
    assert made <= set(SHELF_KINDS)
    assert {"fan", "pump", "radiator", "plate", "sink", "heat_pipe"} <= made


def test_without_a_row_a_kind_is_refused_by_name():
    tube = part_models()["tube"].model_validate({"id": "t", "kind": "tube", "length_m": 1, "bore_mm": 10})
    with pytest.raises(TypeError, match="t: a Tube has no air side"):
        air_edge(tube, None)
    with pytest.raises(TypeError, match="has no coolant side"):
        coolant_edge(part_models()["gap"].model_validate({"id": "g", "kind": "gap", "gap_mm": 5, "span_mm": 50}), None)


class Baffle(Part):
    """A throw-away kind: a plate across an air path that costs a loss on its own area."""

    in_air = True

    kind: Literal["baffle"]
    area_cm2: Annotated[Figure, Quantity("area", unit="cm²")]
    loss: Annotated[Figure, Quantity("loss coefficient", group="flow", at_least=0, tolerance="35%")]


class BuildWithBaffles(Build):
    parts: list[Annotated[AnyPart | Baffle, Field()]] = []


def test_a_new_kind_needs_its_model_and_its_row_and_nothing_else():
    """Its figures have units, ranges and bands; it stands in a path, is solved, drawn from and told."""

    @air_edge.register
    def _baffle(part: Baffle, values) -> PowerFigures:
        area = values(f"{part.id}/area_cm2")
        return PowerFigures(values(f"{part.id}/loss") * 1.18 / (2 * area**2), 2.0, STATED_AIR)

    raw = machine(
        [fan("blow"), opening("in", 200), {"id": "baffle", "kind": "baffle", "area_cm2": sure(50), "loss": 4}],
        [box("box")],
        [path("through", "out", "box", "blow", "baffle"), path("exit", "box", "out", "in")],
        sources=[source("chip", "box")],
        watts={"chip": 20},
        movers={"blow": {"duty": 1.0}},
    )
    build = BuildWithBaffles.model_validate(raw)
    assert problems_of(build) == []
    assert figures_of(Baffle)["area_cm2"].factor == 1e-4
    result = predict(build, ["full"], samples=40).workloads[0]
    element = next(item for item in result.air if item.address == "baffle")
    velocity = element.airflow_m3_h / 3600 / 50e-4
    assert element.kind == "baffle"
    assert element.drop_pa == pytest.approx(4 * 1.18 / 2 * velocity**2, rel=0.02)
    assert result.places[0].band_c.low < result.places[0].temperature_c < result.places[0].band_c.high
    wrong = BuildWithBaffles.model_validate(
        {**raw, "parts": [*raw["parts"][:2], {**raw["parts"][2], "loss": -1}, *raw["parts"][3:]]}
    )
    assert [(p.where, p.allowed) for p in problems_of(wrong)] == [("baffle/loss", "0 or more")]
