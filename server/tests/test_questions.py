"""Questions over HTTP: two documents compared, off or stopped, a fan, a level, a pasted curve; recipes and the demo."""

import copy
import gzip
import json

import pytest
from solving import run_study

from krill.document.reading import read_object
from krill.prediction.predict import predict
from runs.demo.story import limpet, limpet_revisions, revisions, sandpiper, sandpiper_turned


@pytest.fixture
def document(signed_in):
    client = signed_in("owner")
    made = client.post(
        "/api/builds/recipe",
        {"recipe": "thin_box", "processor_w": 65, "graphics_w": 75, "rest_w": 18, "room_c": 24},
        content_type="application/json",
    ).json()
    return made["document"]


def ask(client, path, body):
    return client.post(f"/api/{path}", body, content_type="application/json")


def test_recipes_are_listed_with_what_they_ask(signed_in):
    client = signed_in("owner")
    recipes = client.get("/api/recipes").json()
    shapes = [r["shape"] for r in recipes]
    assert list(dict.fromkeys(shapes)) == [
        "Small board, one chip",
        "Box, air cooler",
        "Ready-made closed loop",
        "Custom loop",
        "Two cards",
        "Two machines",
        "Furniture box",
        "Outside radiator",
        "Fanless housing",
        "Thin box",
        "Duct",
    ]
    assert all(len(r["asks"]) == 3 for r in recipes)
    # what stands beside another of its shape says in what it differs
    assert all(r["variant"] for r in recipes if shapes.count(r["shape"]) > 1)
    assert len({r["id"] for r in recipes}) == len(recipes) == 16
    unknown = ask(client, "builds/recipe", {"recipe": "oil_bath"})
    assert unknown.status_code == 422
    assert "ducted_sink" in unknown.json()["errors"][0]["allowed"]


def test_two_documents_are_compared_place_by_place(signed_in, document):
    client, second = signed_in("owner"), copy.deepcopy(document)
    second["recirculations"] = []
    answer = ask(client, "compare", {"first": document, "second": second, "workload": "both", "samples": 40}).json()
    processor = next(p for p in answer["places"] if p["name"] == "Processor")
    assert processor["says"] == "cooler"
    assert processor["difference_k"] < -3
    bad = ask(client, "compare", {"first": document, "second": {}, "workload": "both"})
    assert bad.status_code == 422


def test_a_load_in_time_and_what_is_off_in_time(signed_in, document):
    client = signed_in("owner")
    body = {"document": document, "workload": "both", "minutes": 12, "samples": 12, "drift_k_h": 1.0}
    told = ask(client, "forecast-in-time", body).json()
    assert told["minutes"][-1] == 12
    assert told["samples"] == 12
    core = next(curve for curve in told["curves"] if curve["address"] == "processor-core")
    assert core["low_c"][-1] < core["c"][-1] < core["high_c"][-1]
    assert told["sentence"].endswith(".")
    table = ask(client, "stopped-in-time", {"document": document, "workload": "both"}).json()
    assert [one["address"] for one in table["minutes"]] == [case["address"] for case in table["settled"]["cases"]]
    met = [limit["minutes"] for one in table["minutes"] for limit in one["met"]]
    assert met
    assert all(0 < minutes <= table["looked_min"] for minutes in met)


@pytest.mark.parametrize(
    ("more", "where"),
    [
        ({"minutes": 0}, "minutes"),
        ({"minutes": 2881}, "minutes"),
        ({"samples": 401}, "samples"),
        ({"drift_k_h": 21}, "drift_k_h"),
        ({"before": "sleeping"}, "before"),
        ({"workload": "sleeping"}, "workloads/sleeping"),
    ],
)
def test_a_load_in_time_refuses_by_name(signed_in, document, more, where):
    body = {"document": document, "workload": "both", "minutes": 2, **more}
    answer = ask(signed_in("owner"), "forecast-in-time", body)
    assert answer.status_code == 422
    assert where in answer.json()["errors"][0]["where"]


def test_off_or_stopped_and_fan_and_level(signed_in, document):
    client, body = signed_in("owner"), {"document": document, "workload": "both"}
    table = ask(client, "stopped", body).json()
    assert {case["address"] for case in table["cases"]} == {"fan-processor", "fan-graphics-left", "fan-graphics-right"}
    fan = ask(client, "fan-operation", body | {"fan": "fan-processor"}).json()
    assert fan["airflow_m3_h"] > 5
    assert ask(client, "fan-operation", body | {"fan": "paste-processor"}).status_code == 422
    level = ask(client, "speed-for-level", body | {"wanted_dba": 28}).json()
    assert level["reached"]
    assert level["total_dba"] == pytest.approx(28, abs=1e-3)


def test_a_pasted_curve_says_what_it_was_read_as(signed_in):
    client = signed_in("owner")
    found = ask(client, "curve", {"text": "gpm psi\n0 5\n3 0", "kind": "pump"}).json()
    assert (found["flow_unit"], found["pressure_unit"]) == ("gal/min", "psi")
    refused = ask(client, "curve", {"text": "words", "kind": "pump"})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["allowed"] == "two or more lines of flow and pressure"


def test_documents_too_large_to_solve_while_waiting_are_refused(signed_in, document):
    client, large = signed_in("owner"), copy.deepcopy(document)
    large["parts"] += [{"id": f"p{n}", "kind": "plate"} for n in range(400)]
    for path in ("stopped", "predict"):
        answer = ask(client, path, {"document": large, "workload": "both", "workloads": ["both"]})
        assert answer.status_code == 422
        assert "up to" in answer.json()["errors"][0]["allowed"]


def test_the_demo_tells_of_two_parts_in_one_duct_and_of_the_plinth():
    imaging = predict(read_object(sandpiper()), ["imaging"], samples=0).workloads[0]
    here = {p.name: next((h.drop_k for h in p.hops if h.kind == "air-here"), 0.0) for p in imaging.places}
    assert here["Small computer"] > here["LED array"] + 3
    outlets = [e.airflow_m3_h for e in imaging.air if e.address.startswith("outlet")]
    assert len(outlets) == 2
    assert all(flow > 0 for flow in outlets)
    assert sandpiper_turned()["housing"]["gravity"] != sandpiper()["housing"]["gravity"]
    first, plinth, third = (predict(read_object(d), ["both"], samples=0).workloads[0] for d, _ in revisions())
    names = {e.name for e in plinth.loops[0].elements}
    assert {"Coupling down", "Coupling up"} <= names
    assert any(z.name == "Plinth air" for z in plinth.zones)
    assert plinth.loops[0].flow_l_min < first.loops[0].flow_l_min
    coolant = [w.loops[0].highest_c for w in (plinth, first, third)]
    assert coolant == sorted(
        coolant
    )  # the revisions' reasons say so: cool in the plinth, nothing won by the second radiator


def test_next_changes_curves_and_watts_of_limpet(signed_in):
    client, body = signed_in("owner"), {"document": limpet(), "workload": "full"}
    changes = ask(client, "next-changes", body | {"place": "processor-core"}).json()
    assert changes["place"] == "processor-core"
    assert changes["changes"][0]["won_k"] >= changes["changes"][1]["won_k"] > 0.5
    assert changes["changes"][0]["edits"]
    curve = ask(client, "sink-curve", body | {"part": "back"}).json()
    assert {c["stands"] for c in curve["curves"]} == {"upright", "lying_fins_up", "lying_fins_down", "on_edge"}
    chart = ask(client, "pipe-chart", body | {"part": "pipes"}).json()
    assert chart["result"]["state"] == "works"
    held = ask(client, "watts-it-holds", {"document": limpet(), "rooms_c": [19, 33], "workloads": ["full"]}).json()[
        "held"
    ]
    assert {item["source"] for item in held} == {"processor", "radio", "memory", "drive", "converter"}
    for path, part in (("sink-curve", "paste"), ("pipe-chart", "paste")):
        refused = ask(client, path, body | {"part": part})
        assert refused.status_code == 422
        assert refused.json()["errors"][0]["allowed"]


def test_limpets_story_is_what_is_computed():
    """Three pipes, five pipes: about a kelvin; bare: some five kelvins worse, and over the burn threshold in summer."""
    found = [predict(read_object(document), ["full"], samples=0).workloads[0] for document, _ in limpet_revisions()]
    T = [next(p for p in w.places if p.address == "processor-core").temperature_c for w in found]
    assert 0.5 < T[0] - T[1] < 2.0
    assert 3.5 < T[2] - T[1] < 6.5
    summer = predict(read_object(limpet_revisions()[2][0]), ["full"], room_c=33, samples=0).workloads[0]
    assert any("skin burns" in notice.text for notice in summer.notices)


def test_solve_for_draws_its_curve_and_takes_the_room_as_an_unknown(signed_in, document):
    client = signed_in("owner")
    body = {"document": document, "workload": "both", "goal": "margin", "of": "processor-core", "wanted": 5.0}
    room = document["rooms"][0]["id"]
    answer = ask(client, "solve-for", body | {"address": f"{room}/air_c"}).json()
    assert answer["reached"]
    assert answer["unit"] == "°C"
    assert len(answer["curve"]) > 10
    assert answer["curve_wanted"] == 5.0
    hotter = ask(client, "predict", {"document": document, "workloads": ["both"], "room_c": answer["value"]}).json()
    place = next(p for p in hotter["workloads"][0]["places"] if p["address"] == "processor-core")
    assert place["margin_k"] == pytest.approx(5.0, abs=0.05)


@pytest.mark.parametrize(
    ("more", "where"),
    [
        ({"address": "processor-core/at_c/throttle"}, "processor-core/at_c/throttle"),
        ({"address": "movers/fan-processor", "reach": [0.2, 3]}, "reach"),
        ({"address": "movers/fan-processor", "reach": [0.9, 0.2]}, "reach"),
    ],
)
def test_solve_for_refuses_in_words_what_cannot_be(signed_in, document, more, where):
    body = {"document": document, "workload": "both", "goal": "margin", "of": "processor-core", "wanted": 5.0}
    answer = ask(signed_in("owner"), "solve-for", body | more)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"] == where
    assert answer.json()["errors"][0]["allowed"]


def test_next_changes_say_which_are_machines_of_their_own(signed_in, build):
    client = signed_in("owner")
    body = {"document": json.loads(build.text), "workload": "both"}
    quick = ask(client, "next-changes", body | {"quick": True}).json()
    whole = ask(client, "next-changes", body).json()
    assert not quick["whole"]
    assert not any(change["alone"] for change in quick["changes"])
    alone = [change for change in whole["changes"] if change["alone"]]
    assert alone
    assert {c["label"] for c in whole["changes"]} - {c["label"] for c in quick["changes"]} == {
        c["label"] for c in alone
    }


def test_changes_and_a_figure_by_what_a_load_does_in_time(signed_in, build):
    client, document = signed_in("owner"), json.loads(build.text)
    body = {"document": document, "workload": "both"}
    aim = {"kind": "after", "of": "processor-core", "minutes": 20}
    found = ask(client, "next-changes", body | {"quick": True, "aim": aim}).json()
    assert (found["aim"]["unit"], found["aim"]["minutes"], found["aim"]["before"]) == ("°C", 20, "idle")
    assert found["changes"][0]["gained"] < 0
    assert "after 20 min" in found["sentence"]
    wanted = found["aim"]["now"] + 4
    solved = ask(
        client,
        "solve-for",
        body | {"address": "movers/fans", "goal": "after", "of": "processor-core", "wanted": wanted, "minutes": 20},
    ).json()
    assert solved["reached"]
    assert solved["got"] == pytest.approx(wanted, abs=0.2)
    assert solved["goal_unit"] == "°C"
    for more, where in (
        ({"kind": "burst", "of": "drive"}, "of/drive"),
        ({"kind": "after", "of": "nowhere"}, "of/nowhere"),
    ):
        refused = ask(client, "next-changes", body | {"quick": True, "aim": aim | more})
        assert refused.status_code == 422
        assert refused.json()["errors"][0]["where"] == where
    assert ask(client, "next-changes", body | {"aim": aim | {"minutes": 0.05}}).status_code == 422


def test_a_load_that_comes_and_goes_is_asked_for_by_its_minutes(signed_in, build):
    client, body = signed_in("owner"), {"document": json.loads(build.text), "workload": "both", "minutes": 60}
    found = ask(client, "forecast-in-time", body | {"on_min": 10, "off_min": 20}).json()
    assert [phase["name"] for phase in found["phases"]][1:] == ["on", "off", "on", "off"]
    stays = ask(client, "forecast-in-time", body).json()
    assert (stays["on_min"], stays["phases"][-1]["name"]) == (None, "sustained")
    refused = ask(client, "forecast-in-time", body | {"on_min": 0.1, "off_min": 0.1})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["where"] == "cycle"
    assert ask(client, "forecast-in-time", body | {"on_min": 0, "off_min": 5}).status_code == 422


def test_a_fan_curve_is_followed_in_time_as_it_was_told(signed_in, build):
    client, body = signed_in("owner"), {"document": json.loads(build.text), "workload": "both", "sensor": "loop-a"}
    points = ask(client, "fan-curve", body).json()["points"]
    found = ask(client, "fan-curve-in-time", body | {"points": points}).json()
    assert found["chosen"] == 0
    assert found["settings"][0]["hysteresis_k"] == 2
    assert "holds still at every load" in found["says"]
    for wrong in ([], points[:1], [{"at_c": 30, "duty": 1.2}, *points]):
        assert ask(client, "fan-curve-in-time", body | {"points": wrong}).status_code == 422
    nowhere = ask(client, "fan-curve-in-time", body | {"points": points, "sensor": "nowhere"})
    assert nowhere.status_code == 422
    assert nowhere.json()["errors"][0]["where"] == "sensor/nowhere"


def test_a_map_over_the_room_and_a_study_of_it(signed_in, document):
    client, room = signed_in("owner"), document["rooms"][0]["id"]
    vary = [
        {"address": "movers/fans", "options": [{"value": 0.5}, {"value": 1.0}]},
        {"address": f"{room}/air_c", "options": [{"value": 20}, {"value": 30}]},
    ]
    question = {"vary": vary, "demands": {"margins": [{"workload": "both", "at_least_k": 3}]}}
    found = ask(client, "map", {"document": document, "question": question}).json()
    for cooler, warmer in found["margin_k"]:
        assert 6 < cooler - warmer < 14
    refused = ask(client, "map", {"document": document, "question": question | {"room_c": 24}})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["where"] == "room_c"


def test_a_study_brings_its_prices_to_the_parts(signed_in, document):
    """Asked over HTTP, solved by a worker in this process, taken: the price stated for one piece stands on each fan."""
    client = signed_in("owner")
    made = ask(
        client,
        "builds/recipe",
        {"recipe": "water_loop", "processor_w": 125, "graphics_w": 220, "rest_w": 30, "room_c": 24},
    ).json()
    options = [{"value": "fan_120x15", "price": 9}, {"value": "fan_120x25", "price": 14}]
    question = {
        "vary": [
            {"address": "fans/class", "options": options},
            {"address": "movers/fans", "options": [{"value": 0.6}, {"value": 0.9}]},
        ],
        "demands": {"margins": [{"workload": "both", "at_least_k": 1}]},
    }
    study = ask(client, f"builds/{made['id']}/studies", {"name": "fans", "question": question}).json()
    run_study(study["id"])
    result = client.get(f"/api/studies/{study['id']}/result").json()
    fans = [part for part in made["document"]["parts"] if part["kind"] == "fan"]
    assert result["columns"]["price"] == pytest.approx([9 * len(fans)] * 2 + [14 * len(fans)] * 2)
    number = result["meets"][0]
    taken = ask(
        client, f"studies/{study['id']}/candidates/{number}/take", {"base": made["sequence"], "why": "cheap"}
    ).json()
    prices = [part["price"] for part in taken["document"]["parts"] if part["kind"] == "fan"]
    assert prices == [9 if number < 2 else 14] * len(fans)


def test_what_may_be_asked_and_a_document_with_edits(signed_in, build):
    client, document = signed_in("reader"), json.loads(build.text)
    offers = ask(client, "offers", {"document": document, "workload": "both", "place": "processor-core"}).json()
    assert {axis["address"] for axis in offers["axes"]} >= {"radiator-a/sections", "movers/fans", "housing/gravity"}
    assert any("hottest room in which" in question["says"] for question in offers["questions"])
    edits = [{"target": "parts", "field": "-", "value": "elbows"}]
    refused = ask(client, "edited", {"document": document, "edits": edits})
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["what"] == "there is no part 'elbows'"
    edits = [{"target": "tube", "field": "length_m", "value": {"value": 2.5, "from": "measured"}}]
    made = ask(client, "edited", {"document": document, "edits": edits}).json()
    tube = next(part for part in made["parts"] if part["id"] == "tube")
    assert tube["length_m"] == {"value": 2.5, "from": "measured"}
    tube["length_m"] = next(part for part in document["parts"] if part["id"] == "tube")["length_m"]
    assert made == document


def test_answers_are_compressed_for_whom_that_helps(signed_in, build):
    path = f"/api/builds/{build.pk}"
    plain = signed_in("owner").get(path)
    packed = signed_in("owner").get(path, HTTP_ACCEPT_ENCODING="gzip")
    assert packed.headers["Content-Encoding"] == "gzip"
    assert "Content-Encoding" not in plain.headers
    assert json.loads(gzip.decompress(packed.content)) == plain.json()
    assert len(packed.content) < len(plain.content) / 3


def test_a_start_is_made_in_the_housing_that_is_asked(signed_in):
    client = signed_in("owner")
    offered = next(one for one in client.get("/api/recipes").json() if one["id"] == "tower_box")
    assert offered["inside_mm"] == [200, 400, 380]
    asked = {"recipe": "tower_box", "inside_mm": [250, 400, 380]}
    made = client.post("/api/builds/recipe", asked, content_type="application/json")
    assert made.json()["document"]["housing"]["inner_size_mm"] == [250, 400, 380]
    refused = client.post("/api/builds/recipe", {**asked, "inside_mm": [2, 400, 380]}, content_type="application/json")
    assert refused.status_code == 422
    assert "inside_mm" in refused.json()["errors"][0]["where"]
