"""Documents that a command names."""

from pathlib import Path

from krill.document.build import Build
from krill.document.reading import read_text


def build_from(path: str) -> Build:
    """The checked build of a file."""
    return read_text(Path(path).read_text(encoding="utf-8"))
