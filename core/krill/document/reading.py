"""Reading and writing build documents: JSON text to a checked ``Build`` and back, losslessly."""

import hashlib
import json
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from krill.document.build import FORMAT, VERSION, Build
from krill.document.consistency import problems_of
from krill.document.refusals import refusal
from krill.document.storable import must_be_storable
from krill.document.upgrades import upgraded
from krill.errors import DocumentRefused, KrillError, Problem

MAX_CHARACTERS = 4_000_000


def read_text(text: str) -> Build:
    """A checked document from JSON text; DocumentRefused with every problem found."""
    return read_object(json_value(text, "a build document"))


def text_of_file(path: Path, wanted: str) -> str:
    """The text of a file, no more of it than a document may have; KrillError where it is no UTF-8."""
    with path.open("rb") as file:
        data = file.read(4 * MAX_CHARACTERS + 1)  # a sign takes up to four bytes
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise KrillError(f"{path} is no text in UTF-8 (byte {error.start}); allowed: {wanted} as JSON") from None


def json_value(text: str, wanted: str) -> Any:
    """What JSON text says; DocumentRefused where it is too long, no JSON, or nested too deeply for ``wanted``."""
    if len(text) > MAX_CHARACTERS:
        raise DocumentRefused([Problem("file", f"{len(text)} characters", f"up to {MAX_CHARACTERS}")])
    try:
        return json.loads(text, parse_constant=_refuse_constant)
    except json.JSONDecodeError as error:
        place = f"line {error.lineno} column {error.colno}"
        raise DocumentRefused([Problem(place, f"not JSON: {error.msg}", "a JSON object")]) from None
    except RecursionError:
        raise DocumentRefused([Problem("file", "nested too deeply", wanted)]) from None
    except ValueError:  # of a number of more than some thousand digits
        raise DocumentRefused([Problem("file", "a number beyond measure", wanted)]) from None


def _refuse_constant(name: str) -> float:
    raise DocumentRefused([Problem("file", f"{name} is not a figure", "finite numbers")])


def read_object(raw: Any) -> Build:
    """A checked document from a JSON value."""
    raw = upgraded(with_header(raw, FORMAT, VERSION))
    try:
        build = Build.model_validate(raw)
    except ValidationError as error:
        raise refusal(raw, error) from None
    problems = problems_of(build)
    if problems:
        raise DocumentRefused(problems)
    return build


def with_header(raw: Any, format_: str, newest: int) -> dict[str, Any]:
    """A JSON object of a format that this Krill reads; DocumentRefused says what it is instead."""
    if not isinstance(raw, dict):
        raise DocumentRefused([Problem("file", f"a JSON {type(raw).__name__}", "a JSON object")])
    if raw.get("format") != format_:
        raise DocumentRefused([Problem("format", f"{raw.get('format')!r}", f'"{format_}"')])
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DocumentRefused([Problem("version", f"{version!r}", f"a whole number from 1 to {newest}")])
    if version > newest:
        writer = raw.get("written_by") or "a newer Krill"
        what = f"version {version}, written by {writer}, is newer than this Krill"
        raise DocumentRefused([Problem("version", what, f"up to version {newest}")])
    must_be_storable(raw)
    return raw


def write_object(build: Build) -> dict[str, Any]:
    """The JSON value of a document: what was read, in the one key order."""
    data: dict[str, Any] = build.model_dump(mode="json", by_alias=True, exclude_unset=True)
    return data


def write_text(build: Build) -> str:
    """Canonical text: one key order, two spaces, a line end."""
    return build.model_dump_json(indent=2, by_alias=True, exclude_unset=True) + "\n"


def digest(build: Build) -> str:
    """SHA-256 of the canonical text, worked out once for each document object."""
    kept: str | None = build.__dict__.get("_digest")
    if kept is None:
        kept = build.__dict__["_digest"] = hashlib.sha256(write_text(build).encode()).hexdigest()
    return kept


def schema() -> dict[str, Any]:
    """The published JSON Schema of build documents."""
    data = Build.model_json_schema(by_alias=True)
    data["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    return data
