"""Fit over HTTP: what lengths say, what a gap costs, templates and adapters as files; refusals say where."""

import pytest

from runs.demo.story import limpet_revisions, revisions

pytestmark = pytest.mark.django_db


@pytest.fixture
def user_client(signed_in):
    return signed_in("owner")


@pytest.fixture
def heron():
    return revisions()[2][0]


def test_heron_is_measured_up(user_client, heron):
    fit = user_client.post("/api/fit", {"document": heron}, content_type="application/json").json()
    says = {slot["slot"]: (slot["says"], slot["breathes"]) for slot in fit["slots"]}
    assert says == {"slot-rear": ("measure", "starved"), "slot-bottom": ("fits by class", "well")}
    (contact,) = fit["contacts"]
    assert (contact["says"], contact["worst"]) == ("floats", "under-regulators")
    assert {clash["says"] for clash in fit["plan"]["clashes"]} == {"in its room", "measure"}
    assert "Longest Graphics" in {limit["what"] for limit in fit["limits"]}


def test_what_a_gap_costs_comes_from_the_network(user_client, heron):
    heron["parts"].append({"id": "gap-rear", "kind": "gap", "slot": "slot-rear", "span_mm": 120})
    heron["air_paths"][1]["elements"].insert(0, "gap-rear")
    asked = {"document": heron, "workload": "both"}
    (cost,) = user_client.post("/api/gap-costs", asked, content_type="application/json").json()
    assert cost["left_mm"] == pytest.approx(1.5)
    assert 1 < cost["costs_k"] < 20
    assert cost["curve"][0][0] == pytest.approx(0.2)


@pytest.mark.parametrize(
    ("form", "kind", "begins"),
    [
        ("pdf", "application/pdf", b"%PDF"),
        ("svg", "image/svg+xml", b"<?xml"),
        ("dxf", "image/vnd.dxf", b"  0\nSECTION"),
    ],
)
def test_a_template_is_a_file(user_client, heron, form, kind, begins):
    asked = {"document": heron, "face": "bottom", "form": form}
    answer = user_client.post("/api/template", asked, content_type="application/json")
    assert answer.status_code == 200
    assert answer["Content-Type"] == kind
    assert answer["Content-Disposition"] == f'attachment; filename="template-bottom.{form}"'
    assert answer.content.startswith(begins)


def test_a_face_with_nothing_to_cut_for_is_refused_in_words(user_client, heron):
    answer = user_client.post("/api/template", {"document": heron, "face": "left"}, content_type="application/json")
    assert answer.status_code == 422
    (fault,) = answer.json()["errors"]
    assert fault["where"] == "face/left"
    assert "back, bottom" in fault["allowed"]


def test_an_adapter_is_described_and_made(user_client):
    shape = {"first_mm": 92, "second": "square", "second_mm": 120, "length_mm": 40}
    says = user_client.post("/api/adapter", shape, content_type="application/json").json()
    assert says["plastic_cm3"] == pytest.approx(31, abs=2)
    made = user_client.post("/api/adapter-file", shape | {"form": "3mf"}, content_type="application/json")
    assert made["Content-Type"] == "model/3mf"
    assert made.content.startswith(b"PK")
    wrong = user_client.post("/api/adapter", shape | {"wall_mm": 0.1}, content_type="application/json")
    assert wrong.status_code == 422
    assert wrong.json()["errors"][0]["where"] == "adapter/wall_mm"


def test_outlines_by_class_are_told_with_their_bands(user_client):
    told = user_client.get("/api/outlines").json()
    cube = next(body for body in told["bodies"] if body["id"] == "supply_cube")
    assert cube["size_mm"][0] == [125, 1]
    assert cube["origin"] == "S"
    assert {"rubber_pads", "screw_heads"} <= {layer["id"] for layer in told["layers"]}


def test_a_tube_says_how_tightly_it_bends(user_client):
    asked = {"bore_mm": 10, "outside_mm": 16, "offset_mm": 40}
    bend = user_client.post("/api/tube-bend", asked, content_type="application/json").json()
    assert bend["radius_mm"] == pytest.approx(38.9, abs=0.1)
    assert bend["s_length_mm"] == pytest.approx(68, abs=1)
    wrong = user_client.post("/api/tube-bend", asked | {"outside_mm": 10}, content_type="application/json")
    assert wrong.json()["errors"][0]["where"] == "tube/outside_mm"


def test_heron_has_leads_a_height_and_a_joint(user_client, heron):
    fit = user_client.post("/api/fit", {"document": heron}, content_type="application/json").json()
    leads = {lead["lead"]: lead for lead in fit["leads"]}
    assert leads["feed-graphics"]["says"] == "long enough"
    assert {bend["says"] for bend in leads["feed-graphics"]["bends"]} == {"lies", "measure"}
    assert leads["lead-fan-left"]["says"] == "to order"
    assert not any(lead["near"] or lead["through"] for lead in fit["leads"])
    assert [(one["part"], one["says"]) for one in fit["reached"]] == [("reservoir", "reached")]
    heights = {check["of"]: check["well"] for check in fit["heights"]}
    assert heights == {"reservoir over pump": True, "fill on top": True, "feet": True}


def test_a_bent_panel_and_a_flanged_adapter_are_files(user_client, heron):
    def asked(path, body):
        return user_client.post(path, body, content_type="application/json")

    flat = asked("/api/template", {"document": heron, "face": "bottom", "form": "svg"})
    bent = asked("/api/template", {"document": heron, "face": "bottom", "form": "svg", "flange_mm": 15})
    assert b"Bend lines are marked" in bent.content
    assert b"Bend lines" not in flat.content
    assert asked("/api/template", {"document": heron, "face": "bottom", "flange_mm": 3}).status_code == 422
    adapter = {"first_mm": 116, "second_mm": 80, "length_mm": 50, "first_fan_mm": 120, "plastic": "abs"}
    says = asked("/api/adapter", adapter).json()
    assert (says["softens_c"], says["at_most_c"], says["pieces"]) == (90, 80, 1)
    assert asked("/api/adapter-file", adapter | {"form": "3mf"}).content.startswith(b"PK")
    (fault,) = asked("/api/adapter", adapter | {"first_fan_mm": 121}).json()["errors"]
    assert fault["where"] == "adapter/first_fan_mm"


def test_classes_of_leads_and_joints_are_listed(user_client):
    told = user_client.get("/api/outlines").json()
    assert {"feed_8", "main_round"} <= {one["id"] for one in told["leads"]}
    assert {one["id"] for one in told["joints"] if "oil" in one["note"]} == {"foam_tape"}
    assert told["plugs"]
    assert told["fittings"]


def test_what_holds_is_told_at_the_temperature_of_the_prediction(user_client, heron):
    asked = {"document": heron, "workloads": ["both"], "samples": 0}
    result = user_client.post("/api/predict", asked, content_type="application/json").json()["workloads"][0]
    drive = next(place for place in result["places"] if place["address"] == "drive-place")
    (joint,) = result["joints"]
    assert joint["at_c"] == drive["temperature_c"]
    assert joint["says"] == joint["by_car"] == "holds"
    (board,) = result["beside"]
    assert (board["name"], board["says"]) == ("Writing board", "stays cool")


def test_limpets_board_is_drilled_for_in_its_front(user_client):
    """Four holes of a small square board that stands with its back to the front panel."""
    limpet = limpet_revisions()[-1][0]
    asked = {"document": limpet, "face": "front", "form": "dxf"}
    drawn = user_client.post("/api/template", asked, content_type="application/json").content
    assert drawn.count(b"CIRCLE") == 4
    fit = user_client.post("/api/fit", {"document": limpet}, content_type="application/json").json()
    assert not fit["plan"]["clashes"]
    assert not fit["shorts"]
