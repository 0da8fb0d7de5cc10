from typing import Any

import pytest
from django.contrib.auth.models import User
from django.test import Client

from builds.actions import create_build
from builds.models import Access, Build, Revision
from krill.recipes.water_loop import water_loop

PEOPLE = ("owner", "editor", "reader", "stranger")


@pytest.fixture
def people(db: Any) -> dict[str, User]:
    return {name: User.objects.create_user(name, password=f"{name}-long-enough") for name in PEOPLE}


@pytest.fixture
def build(people: dict[str, User]) -> Build:
    """A build of the owner, shared with an editor and a reader, with one revision."""
    made = create_build(people["owner"], water_loop(125, 220, 30, 24, "Bench build"))
    Access.objects.create(build=made, user=people["editor"], role="editor")
    Access.objects.create(build=made, user=people["reader"], role="reader")
    # written directly: what a revision predicts is tested where it is asked for, not for every permission
    Revision.objects.create(build=made, number=1, text=made.text, sha256=made.sha256, why="first", summary={},
                            core_version="0", author=people["owner"])  # fmt: skip
    return made


@pytest.fixture
def signed_in(people: dict[str, User]) -> Any:
    """A client of somebody by name; None is signed out."""

    def client_of(name: str | None) -> Client:
        client = Client()
        if name:
            client.force_login(people[name])
        return client

    return client_of
