"""A map over two figures: crossings against fresh predictions, where the build stands, refusals."""

import pytest
from asking import asked, axis
from strategies import recipe

from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.sizing.map_of import map_of

DUTIES = (0.3, 0.5, 0.65, 0.8, 1.0)


@pytest.fixture(scope="module")
def found():
    question = asked(
        [axis("movers/fans", *DUTIES), axis("radiator-a/sections", 1, 2, 3, 4)],
        demands={
            "margins": [{"workload": "both", "at_least_k": 12}],
            "sounds": [{"workload": "both", "at_most_dba": 36}],
        },
    )
    return map_of(recipe(), question)


def test_every_crossing_of_the_present_row_equals_a_fresh_prediction(found):
    raw = write_object(recipe())
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    for row, duty in enumerate(DUTIES):
        for mover in both["movers"]:
            if mover != "pump":
                both["movers"][mover] = {"duty": duty}
        alone = predict(read_object(raw), ["both"], samples=0).workloads[0]
        least = min(p.margin_k for p in alone.places if p.margin_k is not None)
        assert found.margin_k[row][2] == pytest.approx(least, abs=0.05)
        assert found.level_dba[row][2] == pytest.approx(alone.sound.total_dba, abs=0.05)
        assert found.spare_k[row][2] == pytest.approx(least - 12, abs=0.05)


def test_the_present_design_is_marked_on_both_axes(found):
    assert [a.now for a in found.axes] == [0.65, 3.0]
    assert found.axes[0].address == "movers/fans"


def test_more_air_and_more_radiator_never_cost_margin(found):
    for row in found.margin_k:
        settled = [margin for margin in row if margin is not None]
        assert settled == sorted(settled)
        assert None not in row[row.index(settled[0]) :]  # what boils, boils at the small end
    for column in zip(*found.margin_k, strict=True):
        settled = [margin for margin in column if margin is not None]
        assert settled == sorted(settled)


@pytest.mark.parametrize(
    "vary",
    [
        [axis("movers/fans", 0.5, 0.6)],
        [axis("movers/fans", 0.6, 0.5), axis("movers/pump", 0.5, 0.6)],
        [axis("fans/class", "fan_120x15", "fan_120x25"), axis("movers/pump", 0.5, 0.6)],
        [
            axis("movers/fans", *[0.3 + 0.01 * i for i in range(40)]),
            axis("movers/pump", *[0.3 + 0.01 * i for i in range(40)]),
        ],
    ],
)
def test_a_map_needs_two_axes_of_rising_numbers_that_can_be_waited_for(vary):
    with pytest.raises(DocumentRefused):
        map_of(recipe(), asked(vary))
