"""Older documents become current ones, one tested step a version."""

from collections.abc import Callable
from typing import Any, Final

#: version that a step starts from -> step; version 1 is the first, so there is none yet
STEPS: Final[dict[int, Callable[[dict[str, Any]], dict[str, Any]]]] = {}


def upgraded(raw: dict[str, Any]) -> dict[str, Any]:
    """The document in the current version."""
    while (step := STEPS.get(raw["version"])) is not None:
        raw = step(raw)
    return raw
