"""Documents that a command names."""

from pathlib import Path
from typing import Any

from krill.document.build import Build
from krill.document.reading import json_value, read_object, text_of_file


def build_from(path: str) -> Build:
    """The checked build of a file."""
    return read_object(json_from(path, "a build document"))


def json_from(path: str, wanted: str) -> Any:
    """The JSON value of a file."""
    return json_value(text_of_file(Path(path), wanted), wanted)
