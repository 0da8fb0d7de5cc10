"""Every operation with broken bodies, addresses and queries: never a failure of the server, never a figure that is no JSON."""

import json
import random
import re
from typing import Any

import pytest
from django.test import Client
from mutated import BAD, ROUNDS, mutated, starts

from builds.actions import create_build
from krill.document.reading import read_object
from krill_server.api import api

LEFT_ALONE = {"login", "logout", "change_password"}
ADDRESSES = ("1", "-1", "%00", "x" * 300, "9" * 30, "%ed%a0%80", "00000000-0000-0000-0000-000000000000", "..%2f", "a'b")
QUERIES = ("1", "-1", "1e400", "nan", "%00", "x", "9" * 30, "")
SCHEMA: dict[str, Any] = api.get_openapi_schema()


def operations() -> list[tuple[str, str, dict[str, Any]]]:
    return [
        (method, path, operation)
        for path, methods in SCHEMA["paths"].items()
        for method, operation in methods.items()
        if operation["operationId"] not in LEFT_ALONE
    ]


def sound(keys: list[str], document: dict[str, Any]) -> dict[str, Any]:
    """A body as a page would send it, of those keys that the operation has."""
    workload = document["workloads"][0]["id"]
    part = document["parts"][0]["id"]
    question = {
        "vary": [{"address": "movers/fans", "options": [{"value": 0.5}, {"value": 0.7}]}],
        "demands": {"margins": [{"workload": workload, "at_least_k": 5}]},
    }
    whole = {
        "document": document,
        "first": document,
        "second": document,
        "options": [{"label": "a", "document": document}],
        "workload": workload,
        "question": question,
        "part": part,
        "edits": [{"target": part, "field": "name", "value": "x"}],
        "readings": [{"minute": 60, "role": "processor-core/temperature", "value": 70}],
        "samples": 20,
        "room_c": 25,
        "fan": "fan",
        "loop": "loop-a",
        "address": "radiator-a/sections",
        "goal": "margin",
        "sensor": "processor-core",
        "wanted": 5,
        "wanted_dba": 30,
        "base": 0,
        "name": "n",
        "why": "y",
        "text": "1 2\n3 4",
        "kind": "fan",
    }
    return {key: whole[key] for key in keys if key in whole}


def keys_of(operation: dict[str, Any]) -> list[str]:
    body = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})
    name = body.get("$ref", "").rsplit("/", 1)[-1]
    return list(SCHEMA["components"]["schemas"].get(name, {}).get("properties", {}))


@pytest.fixture
def attacked(people: Any) -> Client:
    client = Client(raise_request_exception=False)
    client.force_login(people["owner"])
    return client


def test_nothing_that_is_sent_makes_the_server_fail(attacked: Client, people: Any) -> None:
    chance = random.Random(3)
    own = [str(create_build(people["owner"], read_object(raw)).pk) for raw in starts()[:2]]
    asked = operations()
    statuses = set()
    for _ in range(700 * ROUNDS):
        method, path, operation = chance.choice(asked)
        url = re.sub(r"\{build_id\}", lambda _: chance.choice(own), path)
        url = re.sub(r"\{\w+\}", lambda _: chance.choice([*ADDRESSES, *own]), url)
        if chance.random() < 0.3:
            named = [one["name"] for one in operation.get("parameters", []) if one["in"] == "query"]
            url += "?" + "&".join(f"{name}={chance.choice(QUERIES)}" for name in named)
        body: Any = sound(keys_of(operation), chance.choice(starts()))
        if chance.random() < 0.8:
            body = mutated(body, chance) if body else chance.choice(BAD)
        answer = attacked.generic(method.upper(), url, json.dumps(body), content_type="application/json")
        statuses.add(answer.status_code)
        assert answer.status_code < 500, (method, url, answer.content[:300])
        if answer.content and "json" in answer["Content-Type"]:
            json.loads(answer.content, parse_constant=pytest.fail)
    assert {200, 404, 422} <= statuses


def test_without_signing_in_nothing_is_answered(people: Any) -> None:
    owned = str(create_build(people["owner"], read_object(starts()[0])).pk)
    stranger = Client(raise_request_exception=False)
    for method, path, operation in operations():
        url = re.sub(r"\{\w+\}", owned, path)
        answer = stranger.generic(method.upper(), url, "{}", content_type="application/json")
        expected = {"session": 200, "look_at_link": 422, "take_link": 422}.get(operation["operationId"], 401)
        assert answer.status_code == expected, (method, path)  # a link is looked at by its token, which is missing here
