from collections.abc import Iterator
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client

from builds.actions import create_build
from builds.models import Access, Build, Revision
from krill.recipes.water_loop import water_loop

PEOPLE = ("owner", "editor", "reader", "stranger")


@pytest.fixture(autouse=True)
def _empty_queue(request: pytest.FixtureRequest) -> Iterator[None]:
    """The queue's models are unmanaged: emptying the database after a transactional test leaves its rows."""
    yield
    mark = request.node.get_closest_marker("django_db")
    if mark is not None and mark.kwargs.get("transaction"):
        with connection.cursor() as cursor:
            cursor.execute(
                "TRUNCATE procrastinate_jobs, procrastinate_periodic_defers, procrastinate_events, "
                "procrastinate_workers CASCADE"
            )


@pytest.fixture
def people(db: Any) -> dict[str, User]:
    return {name: User.objects.create_user(name, password=f"{name}-long-enough") for name in PEOPLE}


@pytest.fixture
def build(people: dict[str, User]) -> Build:
    """A build of the owner, shared with an editor and a reader, with one revision."""
    made = create_build(people["owner"], water_loop(125, 220, 30, 24, "Bench build"))
    Access.objects.create(build=made, name="editor", user=people["editor"], role="editor")
    Access.objects.create(build=made, name="reader", user=people["reader"], role="reader")
    # written directly: what a revision predicts is tested where it is asked for, not for every permission
    Revision.objects.create(
        build=made,
        number=1,
        text=made.text,
        sha256=made.sha256,
        why="first",
        summary={},
        core_version="0",
        author=people["owner"],
    )
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
