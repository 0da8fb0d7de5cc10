"""What the home page lists: cards, copies, names, the archive, what was deleted and brought back, and what is found."""

import json
from datetime import timedelta

import pytest
from django.utils import timezone

from builds.actions import KEPT_AFTER_DELETING, create_build, delete_build
from builds.models import Build
from krill.document.reading import read_object, read_text, write_object
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop


def listed(client):
    return {row["name"]: row for row in client.get("/api/builds").json()}


def put(client, path, body):
    return client.put(path, json.dumps(body), content_type="application/json")


def post(client, path, body=None):
    return client.post(path, json.dumps(body or {}), content_type="application/json")


def test_a_card_says_what_is_tightest_as_a_fresh_prediction_has_it(signed_in, build):
    client = signed_in("owner")
    assert listed(client)["Bench build"]["card"] is None
    card = client.get(f"/api/builds/{build.pk}/card").json()
    document = read_text(build.text)
    found = predict(document, None, 29.0, 100)  # the brief's hottest room: hot day, 24 + 5 °C
    least = min(
        ((place, workload) for workload in found.workloads for place in workload.places if place.margin_band_k),
        key=lambda pair: pair[0].margin_band_k.low,
    )
    place, workload = least
    assert (card["place"], card["workload"], card["status"]) == (place.name, workload.name, place.status)
    assert card["margin_k"] == pytest.approx(place.margin_k)
    assert card["half_k"] == pytest.approx((place.margin_band_k.high - place.margin_band_k.low) / 2)
    assert card["room_c"] == 29.0
    assert card["ceiling_dba"] == 38
    tower = next(t for t in card["towers"] if t["watts"] == pytest.approx(place.watts))
    top = tower["floor_k"] + sum(tower["drops_k"])
    assert top == pytest.approx(place.temperature_c - 29.0, abs=0.1)
    assert listed(client)["Bench build"]["card"] == card


def test_a_card_that_is_asked_for_is_no_change_of_the_build(signed_in, build):
    client = signed_in("owner")
    before = Build.objects.get(pk=build.pk).updated
    client.get(f"/api/builds/{build.pk}/card")
    assert Build.objects.get(pk=build.pk).updated == before


def test_a_card_is_of_the_draft_as_it_stands(signed_in, build):
    client = signed_in("owner")
    first = client.get(f"/api/builds/{build.pk}/card").json()
    raw = json.loads(build.text)
    both = next(item for item in raw["workloads"] if item["id"] == "both")
    both["watts"]["processor"] = 200
    assert (
        put(client, f"/api/builds/{build.pk}/draft", {"base": 0, "document": raw, "label": "hotter"}).status_code == 200
    )
    assert listed(client)["Bench build"]["card"] is None
    assert client.get(f"/api/builds/{build.pk}/card").json()["margin_k"] < first["margin_k"]


def test_the_card_of_what_cannot_be_solved_says_what_is_missing(signed_in, people):
    raw = write_object(water_loop(65, 100, 20, 24, "Bare"))
    made = create_build(people["owner"], read_object(raw | {"workloads": [], "brief": {}}))
    card = signed_in("owner").get(f"/api/builds/{made.pk}/card").json()
    assert (card["status"], card["missing"]) == ("unknown", "no workload")


def test_a_copy_is_ones_own_and_leaves_the_other_alone(signed_in, build):
    client = signed_in("reader")
    made = post(client, f"/api/builds/{build.pk}/copy", {"name": "Mine"}).json()
    assert (made["name"], made["role"], made["revision"]) == ("Mine", "owner", None)
    assert made["document"] == json.loads(build.text) | {"name": "Mine"}
    assert Build.objects.get(pk=build.pk).name == "Bench build"


def test_a_name_is_changed_like_a_figure_and_can_be_undone(signed_in, build):
    client = signed_in("editor")
    named = put(client, f"/api/builds/{build.pk}/name", {"name": "Heron"}).json()
    assert (named["name"], named["document"]["name"], named["undo"]) == ("Heron", "Heron", "rename to Heron")
    back = post(client, f"/api/builds/{build.pk}/undo", {"base": named["sequence"]}).json()
    assert back["name"] == "Bench build"
    assert put(client, f"/api/builds/{build.pk}/name", {"name": ""}).status_code == 422


def test_the_archive_holds_a_build_out_of_sight_and_gives_it_back(signed_in, build):
    client = signed_in("owner")
    put(client, f"/api/builds/{build.pk}/archived", {"archived": True})
    assert listed(client)["Bench build"]["archived"]
    put(client, f"/api/builds/{build.pk}/archived", {"archived": False})
    assert not listed(client)["Bench build"]["archived"]


def test_what_is_deleted_is_nowhere_until_it_is_brought_back(signed_in, build):
    owner, reader = signed_in("owner"), signed_in("reader")
    assert owner.delete(f"/api/builds/{build.pk}").status_code == 204
    assert listed(owner) == {} == listed(reader)
    assert owner.get(f"/api/builds/{build.pk}").status_code == 404
    assert post(owner, f"/api/builds/{build.pk}/restore").status_code == 204
    assert "Bench build" in listed(reader)


@pytest.mark.parametrize(("ago", "stays"), [(timedelta(minutes=-1), True), (timedelta(minutes=1), False)])
def test_what_was_deleted_long_ago_is_gone_for_good(people, build, ago, stays):
    """Thirty days; both sides of it."""
    assert timedelta(days=30) == KEPT_AFTER_DELETING
    Build.objects.filter(pk=build.pk).update(deleted=timezone.now() - KEPT_AFTER_DELETING - ago)
    other = create_build(people["owner"], water_loop(65, 100, 20, 24, "Other"))
    delete_build(people["owner"], other.pk)
    assert Build.objects.filter(pk=build.pk).exists() is stays


@pytest.mark.parametrize(
    ("text", "found"), [("bench", True), ("Graphics plate", True), ("first", True), ("no such thing", False)]
)
def test_a_build_is_found_by_its_name_its_parts_and_why_it_was_kept(signed_in, build, text, found):
    asked = signed_in("owner").get("/api/find", {"text": text}).json()
    assert (str(build.pk) in asked) is found
    assert signed_in("stranger").get("/api/find", {"text": text}).json() == []


def test_the_last_run_is_told_in_one_sentence(signed_in, build):
    client = signed_in("owner")
    assert client.get(f"/api/builds/{build.pk}/last-run").json() is None
    reading = {"minute": 60, "role": "processor-core/temperature", "value": 95}
    post(client, f"/api/builds/{build.pk}/runs/readings", {"workload": "both", "name": "Old", "readings": [reading]})
    rooms = {"room_start_c": 24, "room_end_c": 24}
    body = {"workload": "both", "name": "New", "readings": [reading], **rooms}
    assert post(client, f"/api/builds/{build.pk}/runs/readings", body).status_code == 201
    last = client.get(f"/api/builds/{build.pk}/last-run").json()
    assert (last["name"], last["agrees"]) == ("New", False)
    assert last["sentence"]


def test_a_watt_figure_that_is_left_out_is_what_the_recipe_starts_at(signed_in):
    client = signed_in("owner")
    recipe = next(item for item in client.get("/api/recipes").json() if item["id"] == "furniture_box")
    starts = [ask["start_w"] for ask in recipe["asks"]]
    made = post(client, "/api/recipes/document", {"recipe": "furniture_box", "processor_w": 80}).json()
    both = next(item for item in made["workloads"] if item["id"] == "both")
    assert both["watts"]["processor"]["value"] == 80
    assert both["watts"]["graphics"]["value"] == starts[1]
    card = post(client, "/api/recipes/answer", {"recipe": "furniture_box", "processor_w": 80}).json()
    assert card["status"] in ("holds", "tight")
    assert recipe["picture"]["wood"]
    assert {(mouth["face"], mouth["way"]) for mouth in recipe["picture"]["mouths"]} == {
        ("back", "out"),
        ("back", "either"),
    }


def test_a_card_of_an_older_core_is_not_shown(signed_in, build):
    """The list and the card itself ask one and the same question of what is stored."""
    client = signed_in("owner")
    card = client.get(f"/api/builds/{build.pk}/card").json()
    Build.objects.filter(pk=build.pk).update(card=card | {"place": "old"}, card_of=f"{build.sha256} 0.0.1")
    assert listed(client)["Bench build"]["card"] is None
    assert client.get(f"/api/builds/{build.pk}/card").json() == card
