"""Builds kept before a rule came still open, in state unknown, and name the figure; nothing of them is lost."""

import json
from pathlib import Path
from typing import Any

import pytest

from builds.models import Build

SAVED = Path(__file__).parents[2] / "core" / "tests" / "refused_documents"
REFUSED = {"range": "room/air_c", "class": "blower/class", "reference": "air-duct/to_zone"}


@pytest.fixture(params=REFUSED)
def kept(request: pytest.FixtureRequest, build: Build) -> tuple[Build, str]:
    """A stored build whose text today's reader or catalogue refuses, and where."""
    text = (SAVED / f"{request.param}.json").read_text()
    Build.objects.filter(pk=build.pk).update(text=text)
    build.refresh_from_db()
    return build, REFUSED[request.param]


def test_it_opens_with_its_document_as_it_was(signed_in: Any, kept: tuple[Build, str]) -> None:
    build, _ = kept
    opened = signed_in("owner").get(f"/api/builds/{build.pk}")
    assert opened.status_code == 200
    assert opened.json()["document"] == json.loads(build.text)


def test_what_is_asked_of_it_is_refused_by_the_figures_name(signed_in: Any, kept: tuple[Build, str]) -> None:
    build, where = kept
    answer = signed_in("owner").get(f"/api/builds/{build.pk}/prediction.csv")
    assert answer.status_code == 422
    assert any(problem["where"].startswith(where) for problem in answer.json()["errors"])


def test_its_file_can_still_be_taken_out(signed_in: Any, kept: tuple[Build, str]) -> None:
    build, _ = kept
    answer = signed_in("owner").get(f"/api/builds/{build.pk}/document")
    assert (answer.status_code, answer.content.decode()) == (200, build.text)
