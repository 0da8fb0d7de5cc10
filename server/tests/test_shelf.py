"""The parts shelf: whose it is, versions, files, and what is refused."""

import json
import threading
import time
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.utils import timezone

from krill.document.reading import write_object
from krill.recipes.water_loop import water_loop
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


def tried(client, slug: str = "quiet-fan", **note: Any) -> Any:
    return client.post(f"/api/shelf/{slug}/tried", note, content_type="application/json")


def test_what_did_not_help_stays_with_the_part(signed_in):
    client = signed_in("owner")
    put(client)
    noted = tried(client, word="its frame hums on steel", build="Heron").json()
    day = timezone.localdate().isoformat()
    assert noted["tried"] == [{"word": "its frame hums on steel", "build": "Heron", "on": day}]
    assert noted["version"] == 1
    change = {"name": "Quiet fan", "part": FAN | {"level_dba": 20}}
    client.put("/api/shelf/quiet-fan", change, content_type="application/json")
    assert own(client)[0]["tried"] == noted["tried"]
    for answer in (tried(client, word=""), tried(client), tried(client, word="x" * 301)):
        assert answer.status_code == 422
    assert tried(client, "loud-fan", word="no").status_code == 404


def test_notes_of_two_shelves_come_together(signed_in):
    """A file adds what its owner tried, and takes away nothing; the figures are as they were, and so is the version."""
    client, other = signed_in("owner"), signed_in("stranger")
    put(client)
    put(other)
    tried(client, word="it hums")
    tried(other, word="too deep")
    file = client.get("/api/shelf/file").json()
    for told in ({"new": 0, "changed": 1}, {"new": 0, "changed": 0}):
        assert other.post("/api/shelf/file", file, content_type="application/json").json() == told
    [fan] = own(other)
    assert [note["word"] for note in fan["tried"]] == ["too deep", "it hums"]
    assert fan["version"] == 1


def test_a_part_takes_no_more_than_fifty_notes(signed_in):
    client = signed_in("owner")
    put(client)
    item = Item.objects.get(slug="quiet-fan")
    item.text = json.dumps(json.loads(item.text) | {"tried": [{"word": f"note {n}"} for n in range(49)]})
    item.save()
    assert tried(client, word="the fiftieth").status_code == 200
    assert tried(client, word="one more").status_code == 422


def test_what_could_stand_in_its_place_comes_from_every_shelf_that_one_sees(signed_in):
    client = signed_in("owner")
    put(client, "Loud fan", {"id": "x", "kind": "fan", "class": "fan_120x25", "level_dba": 33})
    tried(client, "loud-fan", word="heard through the wall")
    body = {"document": write_object(water_loop(125, 220, 30, 24)), "part": "fan-a1", "workload": "both"}
    found = client.post("/api/shelf/instead", body, content_type="application/json").json()
    loud = next(one for one in found if one["item"] == "loud-fan")
    assert loud["louder_db"] > 1
    assert loud["tried"] == ["heard through the wall"]
    assert len(found) > 1
    assert "loud-fan" not in str(
        signed_in("stranger").post("/api/shelf/instead", body, content_type="application/json").json()
    )
    answer = client.post("/api/shelf/instead", {**body, "part": "flux"}, content_type="application/json")
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"] == "flux"


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
