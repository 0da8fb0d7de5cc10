"""Rules of thumb beside the model: common practice, and where the two part."""

import pytest
from strategies import raw_recipe

from krill.document.reading import read_object
from krill.prediction.predict import predict


def rules(duty, sections=None, watts=None):
    raw = raw_recipe()
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    for mover in both["movers"]:
        if mover != "pump":
            both["movers"][mover] = {"duty": duty}
    if sections is not None:
        next(part for part in raw["parts"] if part["id"] == "radiator-a")["sections"] = sections
    if watts is not None:
        both["watts"]["graphics"] = watts
    return predict(read_object(raw), ["both"], samples=0).workloads[0].rules


@pytest.mark.parametrize(
    ("duty", "sections", "watts", "says"),
    [
        (0.9, None, None, "agree: enough"),
        (0.25, None, None, "yet the coolant stands"),
        (0.3, 1, 40, "agree: too little"),
    ],
)
def test_the_note_says_where_rule_and_model_part(duty, sections, watts, says):
    assert says in rules(duty, sections, watts).note


def test_watts_a_section_count_a_section_of_120_mm():
    found = rules(0.8)
    assert found.watts_per_section == pytest.approx(345 / 3, rel=0.12)
    assert found.sections == 3
