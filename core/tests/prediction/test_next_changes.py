"""Next changes of loops and air: each equals a fresh prediction of the changed document, with sound and side effects."""

from pathlib import Path

import pytest

from krill.document.reading import read_text
from krill.prediction.next_changes import next_changes
from krill.prediction.predict import predict
from krill.prediction.steps.step import edited

SAVED = Path(__file__).parents[1] / "saved_documents"


def fresh(build, workload):
    found = predict(build, [workload], samples=0)["workloads"][0]
    return {place["address"]: place["temperature_c"] for place in found["places"]}, found["sound"]["total_dba"]


@pytest.mark.parametrize(("name", "workload"), [("issue-2-heron", "both"), ("issue-3-sandpiper", "imaging")])
def test_every_next_change_equals_a_fresh_prediction(name, workload):
    """Within 0.05 K for the part in view and the others, and within 0.05 dB."""
    build = read_text((SAVED / f"{name}.json").read_text())
    before, level = fresh(build, workload)
    found = next_changes(build, workload)
    assert len(found["changes"]) >= 10
    for change in found["changes"]:
        after, louder = fresh(edited(build, tuple(change["edits"])), workload)
        assert change["won_k"] == pytest.approx(before[found["place"]] - after[found["place"]], abs=0.05), change[
            "label"
        ]
        assert change["louder_db"] == pytest.approx(louder - level, abs=0.05), change["label"]
        for other in change["others"]:
            assert other["won_k"] == pytest.approx(before[other["address"]] - after[other["address"]], abs=0.05)


def test_loops_and_air_offer_what_a_designer_would_think_of():
    build = read_text((SAVED / "issue-2-heron.json").read_text())
    labels = " | ".join(change["label"] for change in next_changes(build, "both", "graphics-chip")["changes"])
    for word in (
        "sections",
        "thick",
        "all fans",
        "second pump",
        "turned round",
        "breathe room air",
        "cm²",
        "power limit",
    ):
        assert word in labels, word


def test_the_tightest_place_is_taken_where_none_is_named_and_the_best_comes_first():
    build = read_text((SAVED / "issue-2-heron.json").read_text())
    found = next_changes(build, "both")
    places = predict(build, ["both"], samples=0)["workloads"][0]["places"]
    tightest = min((p for p in places if p["margin_k"] is not None), key=lambda p: p["margin_k"])
    assert found["place"] == tightest["address"]
    won = [change["won_k"] for change in found["changes"]]
    assert won == sorted(won, reverse=True)
    assert found["changes"][0]["label"] in found["sentence"]
