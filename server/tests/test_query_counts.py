"""Lists ask the database as often for many rows as for one."""

import json

import pytest
from django.contrib.auth.models import Group
from django.db import connection
from django.test.utils import CaptureQueriesContext

from builds.actions import create_build
from builds.models import Access, Revision
from krill.recipes.water_loop import water_loop
from runs.models import KeptAnswer, Run
from shelf.actions import put_item, show_to
from studies.models import Study


def queries(client, path: str) -> int:
    with CaptureQueriesContext(
        connection,
    ) as caught:
        assert client.get(path).status_code == 200
    return len(caught)


def more_builds(people):
    for number in range(3):
        mine = create_build(people["owner"], water_loop(65, 100, 20, 24, f"Mine {number}"))
        theirs = create_build(people["editor"], water_loop(65, 100, 20, 24, f"Theirs {number}"))
        Access.objects.create(build=theirs, name="owner", user=people["owner"], role="reader")
        for build in (mine, theirs):
            revise(build, people["owner"], range(1, 4))


def revise(build, author, numbers):
    for number in numbers:
        Revision.objects.create(
            build=build,
            number=number,
            text=build.text,
            sha256=build.sha256,
            why="why",
            summary={},
            core_version="0",
            author=author,
        )


def test_the_list_of_builds(signed_in, people, build):
    client = signed_in("owner")
    one = queries(client, "/api/builds")
    more_builds(people)
    assert queries(client, "/api/builds") == one
    cards = client.get("/api/builds").json()
    assert {card["name"]: (card["role"], card["revisions"]) for card in cards} == {
        "Bench build": ("owner", 1),
        **{f"Mine {n}": ("owner", 3) for n in range(3)},
        **{f"Theirs {n}": ("reader", 3) for n in range(3)},
    }


@pytest.mark.parametrize("what", ["revisions", "access", "runs", "studies"])
def test_lists_of_a_build(signed_in, people, build, what):
    client = signed_in("owner")
    one_of_each(build, people["editor"])
    one = queries(client, f"/api/builds/{build.pk}/{what}")
    revise(build, people["editor"], range(2, 6))
    Access.objects.create(build=build, name="stranger", user=people["stranger"], role="reader")
    for _ in range(3):
        one_of_each(build, people["reader"])
    assert queries(client, f"/api/builds/{build.pk}/{what}") == one


def one_of_each(build, author):
    revision = build.revisions.last()
    run = {"format": "krill-run", "version": 1, "name": "run", "kind": "log", "windows": [{"workload": "both"}]}
    said = {"workload": "both", "name": "run", "kind": "log", "author": author, "text": json.dumps(run)}
    made = Run.objects.create(build=build, revision=revision, **said)
    KeptAnswer.objects.create(run=made, made_from=str(made.pk), answer={"predicted": {}, "sentence": "fine"})
    Study.objects.create(
        build=build, author=author, text=build.text, sha256=build.sha256, question={}, size=1, core_version="0"
    )


def test_the_shelf(signed_in, people):
    client, group = signed_in("owner"), Group.objects.create(name="workshop")
    for person in ("owner", "editor"):
        people[person].groups.add(group)

    def put(number: int) -> None:
        for person in ("owner", "editor"):
            item = put_item(people[person], f"Fan {number}", {"id": "fan", "kind": "fan"})
            show_to(people[person], item.slug, ["workshop"])

    put(0)
    one = queries(client, "/api/shelf")
    for number in range(1, 4):
        put(number)
    shown = [item for item in client.get("/api/shelf").json() if item["own"] or item["by"]]
    assert len(shown) == 8
    assert queries(client, "/api/shelf") == one
