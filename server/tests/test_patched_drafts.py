"""Patches of a draft: what they answer, what becomes one step to undo, what is refused; bands and next changes of a draft."""

import json
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.test import Client

from builds.actions import create_build, patch_draft
from builds.models import Build
from krill.document.reading import read_object
from krill.prediction.predict import predict
from krill.records import to_json
from krill.sizing.next_changes import next_changes

ROOM = {"op": "replace", "path": "/rooms/0/air_c", "value": 30}


def patched(client: Client, build: Build, base: int, *patch: Any, **more: Any) -> Any:
    body = {"base": base, "patch": list(patch), **more}
    return client.patch(f"/api/builds/{build.pk}/draft", json.dumps(body), content_type="application/json")


def document_of(build: Build) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(Build.objects.get(pk=build.pk).text)
    return found


def undone(client: Client, build: Build, base: int) -> dict[str, Any]:
    answer = client.post(f"/api/builds/{build.pk}/undo", json.dumps({"base": base}), content_type="application/json")
    found: dict[str, Any] = answer.json()
    return found


def test_a_patch_is_stored_and_answers_its_central_figures(signed_in, build):
    answer = patched(signed_in("editor"), build, 0, ROOM, label="hotter", asked={"workload": "both"}).json()
    assert document_of(build)["rooms"][0]["air_c"] == 30
    assert (answer["sequence"], answer["undo"], answer["changed"]) == (1, "hotter", True)
    assert answer["document"] is None
    assert answer["unsolved"] == []
    alone = to_json(predict(read_object(document_of(build)), ["both"], samples=0))
    assert answer["prediction"] == alone
    assert answer["prediction"]["workloads"][0]["room_c"] == 30
    cool = patched(signed_in("editor"), build, 1, asked={"workload": "both", "room_c": 18}).json()
    assert cool["prediction"]["workloads"][0]["room_c"] == 18
    assert cool["sequence"] == 1
    assert patched(signed_in("editor"), build, 1).json()["prediction"] is None


def test_what_is_stored_otherwise_than_it_was_sent_comes_back(signed_in, build):
    answer = patched(signed_in("owner"), build, 0, {"op": "replace", "path": "/rooms/0/air_c", "value": 30.0}).json()
    assert answer["document"] is None
    tube = next(i for i, part in enumerate(document_of(build)["parts"]) if part["kind"] == "tube")
    length = {"value": 2, "plus_minus": 0.1, "origin": "measured"}
    answer = patched(signed_in("owner"), build, 1, {"op": "add", "path": f"/parts/{tube}/length_m", "value": length})
    stored = document_of(build)
    assert stored["parts"][tube]["length_m"] == {"value": 2, "plus_minus": 0.1, "from": "measured"}
    assert answer.json()["document"] == stored


def test_a_stale_patch_changes_nothing(signed_in, build):
    assert patched(signed_in("owner"), build, 0, ROOM).status_code == 200
    answer = patched(signed_in("editor"), build, 0, {**ROOM, "value": 20})
    assert answer.status_code == 409
    assert answer.json()["stored"]["sequence"] == 1
    assert answer.json()["yours"] is None
    assert document_of(build)["rooms"][0]["air_c"] == 30


@pytest.mark.parametrize(
    ("patch", "where"),
    [
        ({"op": "replace", "path": "/rooms/7/air_c", "value": 3}, "patch"),
        ({"op": "jump", "path": "/rooms/0/air_c"}, "patch"),
        ({"op": "test", "path": "/rooms/0/air_c", "value": -40}, "patch"),
        ({"op": "remove", "path": "no pointer"}, "patch"),
        ({"path": "/rooms/0/air_c", "value": 3}, "patch"),
        ({"op": "replace", "path": "/workloads/3/watts/processor", "value": -5}, "both/watts/processor"),
        ({"op": "replace", "path": "", "value": 7}, "file"),
    ],
)
def test_a_patch_that_does_not_fit_is_refused_with_its_place(signed_in, build, patch, where):
    answer = patched(signed_in("owner"), build, 0, patch)
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"] == where
    assert Build.objects.get(pk=build.pk).sequence == 0


def test_a_draft_that_cannot_be_solved_is_stored_and_says_why(signed_in, build):
    answer = patched(signed_in("owner"), build, 0, ROOM, asked={"workload": "nothing"})
    assert answer.status_code == 200
    assert answer.json()["prediction"] is None
    assert answer.json()["unsolved"][0]["where"] == "workloads/nothing"
    assert answer.json()["sequence"] == 1


def test_a_draft_with_a_class_that_nobody_knows_opens_unknown_and_names_it(signed_in, build):
    client, parts = signed_in("owner"), document_of(build)["parts"]
    index, fan = next((n, part) for n, part in enumerate(parts) if part["kind"] == "fan")
    named = {"op": "add", "path": f"/parts/{index}/class", "value": "fan_of_another_day"}
    answer = patched(client, build, 0, named, asked={"workload": "both"})
    assert (answer.status_code, answer.json()["prediction"]) == (200, None)
    [problem] = answer.json()["unsolved"]
    assert (problem["where"], "the nearest: fan_" in problem["allowed"]) == (f"{fan['id']}/class", True)
    opened = client.get(f"/api/builds/{build.pk}")
    assert (opened.status_code, opened.json()["document"]["parts"][index]["class"]) == (200, "fan_of_another_day")


def test_typing_is_one_step_to_undo(signed_in, build):
    client = signed_in("owner")
    patched(client, build, 0, {**ROOM, "value": 2}, label="room 2", merge=True)
    patched(client, build, 1, {**ROOM, "value": 28}, label="room 28", merge=True)
    answer = patched(client, build, 2, {**ROOM, "value": 28.5}, label="room 28.5", merge=True).json()
    assert answer["undo"] == "room 28.5"
    assert build.edits.count() == 1
    back = undone(client, build, 3)
    assert back["document"]["rooms"][0]["air_c"] == json.loads(build.text)["rooms"][0]["air_c"]
    assert (back["undo"], back["redo"]) == (None, "room 28.5")


def test_a_merge_that_comes_back_to_the_start_leaves_no_step(signed_in, build):
    client, before = signed_in("owner"), json.loads(build.text)["rooms"][0]["air_c"]
    patched(client, build, 0, ROOM, label="hotter")
    answer = patched(client, build, 1, {**ROOM, "value": before}, label="back", merge=True).json()
    assert answer["undo"] is None
    assert document_of(build)["rooms"][0]["air_c"] == before


def test_nobody_types_into_the_step_of_somebody_else(people, build):
    patch_draft(people["owner"], build.pk, 0, [ROOM], "mine", merge=True)
    patch_draft(people["editor"], build.pk, 1, [{**ROOM, "value": 31}], "theirs", merge=True)
    assert [edit.label for edit in build.edits.all()] == ["mine", "theirs"]
    assert {edit.author for edit in build.edits.all()} == {people["owner"], people["editor"]}


def test_a_change_after_an_undo_forgets_what_was_undone(people, build):
    owner: User = people["owner"]
    patch_draft(owner, build.pk, 0, [ROOM], "first", merge=False)
    patch_draft(owner, build.pk, 1, [{**ROOM, "value": 31}], "second", merge=False)
    build.edits.filter(label="second").update(undone=True)
    patch_draft(owner, build.pk, 2, [{**ROOM, "value": 32}], "third", merge=False)
    assert [edit.label for edit in build.edits.all()] == ["first", "third"]


def test_of_a_long_log_the_oldest_changes_go(people, build, monkeypatch):
    monkeypatch.setattr("builds.actions.MAX_EDITS", 3)
    for sequence in range(6):
        patch_draft(people["owner"], build.pk, sequence, [{**ROOM, "value": 20 + sequence}], str(sequence), merge=False)
    assert [edit.label for edit in build.edits.all()] == ["3", "4", "5"]


def test_the_outlook_has_bands_and_the_next_changes_of_the_tightest(signed_in, build):
    client = signed_in("reader")

    def ask(**body: Any) -> Any:
        return client.post(f"/api/builds/{build.pk}/outlook", json.dumps(body), content_type="application/json")

    found = ask(workload="both", samples=60).json()
    document = read_object(document_of(build))
    bands = predict(document, ["both"], samples=60)
    assert found["sequence"] == 0
    assert found["bands"] == to_json(bands)
    tightest = bands.workloads[0].tightest
    assert found["changes"] == to_json(next_changes(document, "both", tightest, quick=True))
    other = ask(workload="both", samples=60, place="drive-place").json()
    assert other["changes"]["place"] == "drive-place"
    assert ask(workload="both", samples=60, place="a place that went").json()["changes"] == found["changes"]
    assert ask(workload="no such").status_code == 422
    assert ask(workload="both", samples=5).status_code == 422


def test_the_outlook_of_a_build_without_parts_has_no_changes(signed_in, people):
    document = {"name": "Empty", "rooms": [{"id": "room", "air_c": 22}], "workloads": [{"id": "full", "watts": {}}]}
    outside = {"id": "outside", "kind": "outside", "room": "room"}
    empty = create_build(
        people["owner"], read_object({"format": "krill-build", "version": 1, "zones": [outside], **document})
    )
    client = signed_in("owner")
    body = json.dumps({"workload": "full", "samples": 20})
    answer = client.post(f"/api/builds/{empty.pk}/outlook", body, content_type="application/json")
    assert answer.status_code == 200
    assert answer.json()["changes"] is None
    asked = json.dumps({"document": document_of(empty), "workload": "full"})
    refused = client.post("/api/next-changes", asked, content_type="application/json")
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["what"] == "no part gives its heat anywhere"
