"""Warnings with their reasons, each provoked by one change of the recipe; loops through the document."""

import pytest
from strategies import raw_recipe

from krill.document.reading import read_object
from krill.prediction.predict import predict


def part(raw, part_id):
    return next(p for p in raw["parts"] if p["id"] == part_id)


def notices(change, workload="both"):
    raw = raw_recipe()
    change(raw)
    return predict(read_object(raw), [workload], samples=0).workloads[0].notices


def said(found, text):
    return [n for n in found if text in n.text]


def test_mixed_wetted_metals():
    assert said(notices(lambda raw: part(raw, "radiator-a").update(metal="aluminium")), "corrode")
    assert not said(notices(lambda raw: None), "corrode")


def test_a_supply_over_its_rating():
    assert said(notices(lambda raw: part(raw, "supply").update(rating_w=300)), "are asked of a supply rated 300 W")
    assert said(notices(lambda raw: part(raw, "supply").update(rating_w=430)), "little headroom")


def test_sound_over_its_ceiling():
    found = notices(lambda raw: raw["workloads"][3].update(sound_ceiling_dba=20))
    assert said(found, "over the ceiling of 20 dBA")[0].level == "warning"


def test_hot_coolant_and_low_flow():
    def starve(raw):
        raw["workloads"][3]["movers"]["pump"] = {"duty": 0.08}

    found = notices(starve)
    assert said(found, "l/min: plates and radiator lose much")

    def stew(raw):
        raw["rooms"][0]["air_c"] = 44
        for mover in raw["workloads"][3]["movers"]:
            if mover.startswith("fan"):
                raw["workloads"][3]["movers"][mover] = {"duty": 0.5}

    assert said(notices(stew), "Coolant reaches")


def test_fans_told_less_than_their_start_duty_or_nothing():
    def whisper(raw):
        raw["workloads"][3]["movers"]["fan-a1"] = {"duty": 0.05}

    assert said(notices(whisper), "less than its start duty")
    assert said(notices(lambda raw: raw["workloads"][3]["movers"].pop("fan-a1")), "runs at full speed")
    pushed = notices(whisper)
    assert said(pushed, "pushed backwards")  # its neighbours blow back through it


def test_a_mover_that_sits_nowhere_and_a_stall_dip():
    def spare(raw):
        raw["parts"].append({"id": "spare", "kind": "fan", "class": "fan_80x25"})

    assert said(notices(spare), "it moves nothing")

    def dip(raw):
        part(raw, "fan-a1")["curve"] = [[0, 24], [20, 16], [40, 17], [70, 8], [98, 0]]

    assert said(notices(dip), "falling envelope")


def test_a_pump_stronger_than_it_is_made_for():
    def push(raw):
        part(raw, "pump")["highest_kpa"] = 20
        raw["workloads"][3]["movers"]["pump"] = {"duty": 1.0}

    assert said(notices(push), "over the 20 kPa")


def test_loop_operating_point_of_a_document_against_the_closed_form(case):
    """H13 through ``predict``: a pump given by shut-off head and free flow, a quadratic loop."""
    p, out = case("H13").points[0]["in"], case("H13").points[0]["out"]
    raw = raw_recipe()
    part(raw, "pump").update(shutoff_kpa=p["dp0_Pa"] / 1000, free_flow_l_min=p["Qmax_m3_s"] * 6e4)
    part(raw, "pump").pop("class")
    raw["parts"] = [q for q in raw["parts"] if q["id"] not in ("tube", "elbows", "reservoir")]
    at_4 = (4 / 6e4) ** 2 / 1000
    for plate in ("plate-processor", "plate-graphics"):
        four = p["R_block_Pa_s2_m6"] / 2 * at_4
        part(raw, plate).update(drop_4_kpa=four, drop_1_kpa=four / 16)
    part(raw, "fittings").update(count=6, loss=1.0, bore_mm=p["d_m"] * 1000)
    raw["parts"].append({"id": "rest", "kind": "coupling", "drop_4_kpa": p["R_radiator"] * at_4})
    part(raw, "radiator-a")["drop_4_kpa"] = 1e-6
    raw["loops"][0].update(
        elements=["pump", "plate-processor", "plate-graphics", "fittings", "rest", "radiator-a"],
        coolant={"fluid": "water"},
    )
    raw["workloads"][3]["movers"]["pump"] = {"duty": 1.0}
    loop = predict(read_object(raw), ["both"], samples=0).workloads[0].loops[0]
    # drops of plates and pump are stated for water at 35 C (994 kg/m3); all scale alike with density
    assert loop.flow_l_min == pytest.approx(out["Q_m3_s"] * 6e4, rel=2e-3)


def test_series_pumps_add_their_heads():
    raw = raw_recipe()
    one = predict(read_object(raw), ["both"], samples=0).workloads[0].loops[0]
    raw["parts"].append({**part(raw, "pump"), "id": "pump-b"})
    raw["loops"][0]["elements"].insert(1, "pump-b")
    raw["workloads"][3]["movers"]["pump-b"] = {"duty": 0.7}
    two = predict(read_object(raw), ["both"], samples=0).workloads[0].loops[0]
    assert one.flow_l_min * 1.2 < two.flow_l_min < one.flow_l_min * 2
    assert len(two.pumps) == 2
