"""Published cases, read once from the project's own data file."""

import json
from collections.abc import Callable
from pathlib import Path
from types import SimpleNamespace

import pytest

PUBLISHED = Path(__file__).parent / "published/cases.json"


@pytest.fixture(scope="session")
def case() -> Callable[[str], SimpleNamespace]:
    """A published case by its id, with points, tolerance and source."""
    cases = {row["id"]: SimpleNamespace(**row) for row in json.loads(PUBLISHED.read_text())["cases"]}
    return lambda case_id: cases[case_id]
