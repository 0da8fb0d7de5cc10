"""The parts shelf: whose it is, versions, files, and what is refused."""

import json
import threading
import time
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.db import connection

from shelf import actions
from shelf.models import Item

FAN = {"id": "x", "kind": "fan", "class": "fan_120x25", "level_dba": {"value": 22, "from": "measured"}}


def put(client, name: str = "Quiet fan", part: dict[str, Any] = FAN) -> Any:
    return client.post("/api/shelf", {"name": name, "part": part}, content_type="application/json")


def own(client) -> list[dict[str, Any]]:
    return [item for item in client.get("/api/shelf").json() if item["own"]]


def test_a_part_is_kept_with_an_id_of_its_own_and_grows_versions(signed_in):
    client = signed_in("owner")
    first, second = put(client).json(), put(client).json()
    assert (first["id"], second["id"]) == ("quiet-fan", "quiet-fan-2")
    assert first["part"]["id"] == "quiet-fan"
    changed = client.put(
        f"/api/shelf/{first['id']}",
        {"name": "Quiet fan", "part": FAN | {"level_dba": 20}},
        content_type="application/json",
    ).json()
    assert (changed["version"], changed["part"]["level_dba"]) == (2, 20)
    assert client.delete(f"/api/shelf/{second['id']}").status_code == 204
    assert [item["id"] for item in own(client)] == ["quiet-fan"]


def test_a_shelf_is_its_owners_alone(signed_in):
    put(signed_in("owner"))
    stranger = signed_in("stranger")
    assert own(stranger) == []
    assert stranger.delete("/api/shelf/quiet-fan").status_code == 404
    assert len(own(signed_in("owner"))) == 1


def test_search_goes_over_own_and_class_typical_parts(signed_in):
    client = signed_in("owner")
    put(client)
    names = [item["name"] for item in client.get("/api/shelf?search=quiet fan").json()]
    assert names == ["Quiet fan"]
    shipped = client.get("/api/shelf?kind=radiator&search=240").json()
    assert shipped
    assert all(not item["own"] and item["kind"] == "radiator" and "240" in item["name"] for item in shipped)


def test_a_file_goes_out_and_comes_in_all_or_nothing(signed_in):
    client = signed_in("owner")
    put(client)
    put(client, "Coolant", {"id": "c", "kind": "coolant", "mixture": {"fluid": "water"}})
    file = client.get("/api/shelf/file").json()
    other = signed_in("stranger")
    assert other.post("/api/shelf/file", file, content_type="application/json").json() == {"new": 2, "changed": 0}
    assert other.post("/api/shelf/file", file, content_type="application/json").json() == {"new": 0, "changed": 0}
    changed = json.loads(json.dumps(file))
    changed["items"][0]["part"] |= (
        {"kind": "coolant"} if changed["items"][0]["part"]["kind"] == "coolant" else {"level_dba": 19}
    )
    fan = next(item for item in changed["items"] if item["part"]["kind"] == "fan")
    fan["part"]["level_dba"] = 18
    assert other.post("/api/shelf/file", changed, content_type="application/json").json() == {"new": 0, "changed": 1}
    assert next(item for item in own(other) if item["kind"] == "fan")["version"] == 2
    broken = {
        **file,
        "items": [*file["items"], {"id": "bad", "name": "Bad", "part": {"id": "b", "kind": "fan", "wings": 3}}],
    }
    before = own(other)
    answer = other.post("/api/shelf/file", broken, content_type="application/json")
    assert answer.status_code == 422
    assert "wings" in answer.json()["errors"][0]["where"]
    assert own(other) == before


@pytest.mark.parametrize(
    ("part", "words"),
    [
        ({"id": "x", "kind": "fan", "level_dba": "loud"}, "loud"),
        ({"id": "x", "kind": "spoiler"}, "spoiler"),
        ({"kind": "source", "places": [{"id": "p", "temperature_kind": "case"}]}, "a source"),
    ],
)
def test_what_is_no_part_is_refused_in_words(signed_in, part, words):
    answer = put(signed_in("owner"), part=part)
    assert answer.status_code == 422
    assert any(words in fault["what"] for fault in answer.json()["errors"]), answer.json()


@pytest.mark.django_db(transaction=True)
def test_two_puts_of_one_name_at_once_both_stay(monkeypatch):
    owner = User.objects.create_user("both")
    look = actions._free_slug

    def slowly(user: User, name: str) -> str:
        found = look(user, name)
        time.sleep(0.1)
        return found

    monkeypatch.setattr(actions, "_free_slug", slowly)

    def put_one(level: int) -> None:
        try:
            actions.put_item(owner, "Quiet fan", FAN | {"level_dba": level})
        finally:
            connection.close()

    threads = [threading.Thread(target=put_one, args=(level,)) for level in (18, 22, 26)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    stored = {item.slug: json.loads(item.text) for item in Item.objects.filter(owner=owner)}
    assert sorted(stored) == ["quiet-fan", "quiet-fan-2", "quiet-fan-3"]
    assert sorted(item["part"]["level_dba"] for item in stored.values()) == [18, 22, 26]
    assert {item["version"] for item in stored.values()} == {1}
