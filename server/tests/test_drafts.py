"""Drafts: saves, stale saves, undo over a reload, revisions, refusals."""

import json
import threading
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.db import connection

from builds.actions import StaleSave, create_build, save_draft
from builds.models import Build
from krill.document.reading import digest, read_text, write_text
from krill.recipes.water_loop import water_loop


def put(client: Any, build: Build, base: int, document: dict[str, Any], label: str = "") -> Any:
    body = json.dumps({"base": base, "document": document, "label": label})
    return client.put(f"/api/builds/{build.pk}/draft", body, content_type="application/json")


def document_of(build: Build) -> dict[str, Any]:
    return json.loads(Build.objects.get(pk=build.pk).text)


def test_undo_and_redo_survive_a_new_session(signed_in, build):
    document = document_of(build)
    document["workloads"][3]["watts"]["processor"] = 150
    assert put(signed_in("editor"), build, 0, document, "processor +25 W").json()["undo"] == "processor +25 W"
    later = signed_in("owner")
    undone = later.post(f"/api/builds/{build.pk}/undo", json.dumps({"base": 1}), content_type="application/json").json()
    assert undone["document"]["workloads"][3]["watts"]["processor"]["value"] == 125
    assert undone["redo"] == "processor +25 W"
    redone = later.post(f"/api/builds/{build.pk}/redo", json.dumps({"base": 2}), content_type="application/json").json()
    assert redone["document"] == document


def test_a_stale_save_gets_both_versions_and_overwrites_nothing(signed_in, build):
    first, second = document_of(build), document_of(build)
    first["notes"], second["notes"] = "theirs", "mine"
    assert put(signed_in("owner"), build, 0, first).status_code == 200
    answer = put(signed_in("editor"), build, 0, second)
    assert answer.status_code == 409
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert (answer.json()["title"], answer.json()["errors"][0]["where"]) == ("Conflict", "base")
    assert answer.json()["stored"]["document"]["notes"] == "theirs"
    assert answer.json()["yours"]["notes"] == "mine"
    assert document_of(build)["notes"] == "theirs"


def test_a_window_asks_without_the_document_whether_somebody_changed_it(signed_in, build):
    def seen_by(who):
        return signed_in(who).get(f"/api/builds/{build.pk}/standing")

    before = seen_by("reader").json()
    assert (before["sequence"], before["undo"]) == (0, None)
    assert "document" not in before
    document = document_of(build)
    document["notes"] = "theirs"
    put(signed_in("editor"), build, 0, document, "notes")
    after = seen_by("reader").json()
    assert (after["sequence"], after["undo"], after["role"]) == (1, "notes", "reader")
    assert seen_by("stranger").status_code == 404


def test_a_bad_document_is_refused_by_address(signed_in, build):
    document = document_of(build)
    document["workloads"][3]["watts"]["processor"] = -5
    answer = put(signed_in("owner"), build, 0, document)
    assert answer.status_code == 422
    allowed = "0 to 100000 W: more is a slip of the unit"
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert answer.json() == {
        "type": "about:blank",
        "title": "Unprocessable Entity",
        "status": 422,
        "detail": f"both/watts/processor: -5 (allowed: {allowed})",
        "errors": [{"where": "both/watts/processor", "what": "-5", "allowed": allowed}],
    }
    assert Build.objects.get(pk=build.pk).sequence == 0


def test_the_stored_text_is_canonical(build):
    document = read_text(build.text)
    assert write_text(document) == build.text
    assert build.sha256 == digest(document)


def test_a_revision_tells_what_changed(signed_in, build):
    document = document_of(build)
    document["rooms"][0]["air_c"] = 27
    client = signed_in("owner")
    put(client, build, 0, document)
    body = json.dumps({"why": "a hotter room"})
    answer = client.post(f"/api/builds/{build.pk}/revisions", body, content_type="application/json")
    assert answer.json()["changes"] == ["room/air_c: 24 → 27"]
    assert answer.json()["summary"]["workloads"][0]["places"]


def test_text_that_cannot_be_stored_is_refused(signed_in, build):
    document = {**document_of(build), "name": "x"}
    assert put(signed_in("owner"), build, 0, document, "nul \x00").status_code == 422


def test_sign_in_needs_the_csrf_token_and_is_held_off(signed_in, people):
    from django.test import Client

    client = Client(enforce_csrf_checks=True)
    body = json.dumps({"username": "owner", "password": "wrong"})
    assert client.post("/api/login", body, content_type="application/json").status_code in (401, 403)
    client.get("/api/session")
    headers = {"X-CSRFToken": client.cookies["csrftoken"].value}
    answers = [
        client.post("/api/login", body, content_type="application/json", headers=headers).status_code for _ in range(12)
    ]
    assert answers[0] == 401
    assert answers[-1] == 429


def test_the_worker_that_keeps_a_page_is_served_at_the_root_and_allowed(client):
    answer = client.get("/sw.js")
    assert answer.status_code == 200
    assert answer.headers["Content-Type"].startswith("text/javascript")
    assert b"networkFirst" in answer.content
    policy = answer.headers["Content-Security-Policy"]
    assert "worker-src 'self'" in policy
    assert "krill-worker" in policy


def test_password_change_and_policy_headers(signed_in, people):
    client = signed_in("owner")
    wrong = json.dumps({"old": "owner-long-enough", "new": "short"})
    assert client.post("/api/password", wrong, content_type="application/json").status_code == 422
    right = json.dumps({"old": "owner-long-enough", "new": "another-long-one"})
    assert client.post("/api/password", right, content_type="application/json").status_code == 204
    assert client.get("/api/builds").status_code == 200
    policy = client.get("/api/session").headers["Content-Security-Policy"]
    assert "unsafe" not in policy
    assert "script-src 'self'" in policy


@pytest.mark.django_db(transaction=True)
def test_two_saves_at_once_never_both_win():
    owner = User.objects.create_user("both")
    build = create_build(owner, water_loop(65, 100, 20, 22))
    outcomes: list[str] = []

    def save(note: str) -> None:
        document = read_text(build.text).model_copy(update={"notes": note})
        try:
            save_draft(owner, build.pk, 0, document, note)
            outcomes.append("saved")
        except StaleSave:
            outcomes.append("stale")
        finally:
            connection.close()

    threads = [threading.Thread(target=save, args=(f"note {i}",)) for i in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(outcomes) == ["saved", "stale", "stale", "stale"]
    assert Build.objects.get(pk=build.pk).sequence == 1
