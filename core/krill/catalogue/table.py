"""Tables of the catalogue: JSON files that ship with it, each read once."""

import json
from functools import lru_cache
from importlib import resources
from typing import Any


@lru_cache
def table(name: str) -> dict[str, Any]:
    """A table by its name, as it stands in its file; whoever asks reads it only."""
    data: dict[str, Any] = json.loads(resources.files("krill.catalogue").joinpath(f"{name}.json").read_text())
    return data
