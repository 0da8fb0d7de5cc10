"""Reading and writing build documents: JSON text to a checked ``Build`` and back, losslessly."""

import hashlib
import json
import re
from typing import Any

from pydantic import ValidationError

from krill import CORE_VERSION
from krill.document.build import FORMAT, VERSION, Build
from krill.document.consistency import problems_of
from krill.document.upgrades import upgraded
from krill.errors import DocumentRefused, Problem

MOST_CHARACTERS = 4_000_000


def read_text(text: str) -> Build:
    """A checked document from JSON text; DocumentRefused with every problem found."""
    if len(text) > MOST_CHARACTERS:
        raise DocumentRefused([Problem("file", f"{len(text)} characters", f"up to {MOST_CHARACTERS}")])
    try:
        raw = json.loads(text, parse_constant=_refuse_constant)
    except json.JSONDecodeError as error:
        place = f"line {error.lineno} column {error.colno}"
        raise DocumentRefused([Problem(place, f"not JSON: {error.msg}", "a JSON object")]) from None
    except RecursionError:
        raise DocumentRefused([Problem("file", "nested too deeply", "a build document")]) from None
    return read_object(raw)


def _refuse_constant(name: str) -> float:
    raise DocumentRefused([Problem("file", f"{name} is not a figure", "finite numbers")])


def read_object(raw: Any) -> Build:
    """A checked document from a JSON value."""
    if not isinstance(raw, dict):
        raise DocumentRefused([Problem("file", f"a JSON {type(raw).__name__}", "a JSON object")])
    _check_header(raw)
    raw = upgraded(raw)
    try:
        build = Build.model_validate(raw)
    except ValidationError as error:
        raise refusal(raw, error) from None
    problems = problems_of(build)
    if problems:
        raise DocumentRefused(problems)
    return build


def refusal(raw: dict[str, Any], error: ValidationError) -> DocumentRefused:
    """What a schema found wrong, in Krill's words: where, what, what is allowed."""
    return DocumentRefused([_problem(raw, e) for e in error.errors(include_url=False)])


def _check_header(raw: dict[str, Any]) -> None:
    if raw.get("format") != FORMAT:
        raise DocumentRefused([Problem("format", f"{raw.get('format')!r}", f'"{FORMAT}"')])
    version = raw.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DocumentRefused([Problem("version", f"{version!r}", f"a whole number from 1 to {VERSION}")])
    if version > VERSION:
        raise DocumentRefused(
            [
                Problem(
                    "version",
                    f"version {version}, written by {raw.get('written_by') or 'a newer Krill'}, is newer than this Krill",
                    f"up to version {VERSION}",
                )
            ]
        )


def _problem(raw: dict[str, Any], error: Any) -> Problem:
    where = _address(raw, error["loc"])
    kind, context = error["type"], error.get("ctx", {})
    if kind == "extra_forbidden":
        newer = _newer_writer(raw)
        what = f"unknown key, from a newer Krill ({newer})" if newer else "unknown key"
        return Problem(where, what, "the keys of the published schema")
    if kind == "missing":
        return Problem(where, "missing", "a value")
    what = f"{_shown(error.get('input'))}"
    allowed = re.sub(r"^(Input should be|Value error,) ", "", error["msg"])
    if kind == "union_tag_invalid":
        allowed = context.get("expected_tags", allowed)
    return Problem(where, what, allowed)


def _newer_writer(raw: dict[str, Any]) -> str | None:
    writer = str(raw.get("written_by") or "")
    found = re.fullmatch(r"krill (\d+)\.(\d+)\.(\d+)", writer)
    own = tuple(int(n) for n in CORE_VERSION.split("."))
    return writer if found and tuple(int(n) for n in found.groups()) > own else None


def _shown(value: Any) -> str:
    text = json.dumps(value, default=str)
    return text if len(text) <= 80 else text[:77] + "..."


def _address(raw: Any, location: tuple[int | str, ...]) -> str:
    """id/field instead of list positions: the innermost id stands first, what lies in it follows."""
    pieces: list[str] = []
    here = raw
    for step in location:
        if isinstance(step, int) and isinstance(here, list) and step < len(here):
            here = here[step]
            if isinstance(here, dict) and isinstance(here.get("id"), str):
                pieces = [here["id"]]
            else:
                pieces.append(str(step))
        elif isinstance(here, dict) and step in here:
            here = here[step]
            pieces.append(str(step))
        elif not _is_union_branch(step):
            pieces.append(str(step))
    return "/".join(pieces) or "file"


_UNION_BRANCHES = {
    "int", "float", "str", "FigureDetail", "UnequalTolerance", "Parallel", "source", "supply", "interface", "plate",
    "radiator", "pump", "tube", "fitting", "coupling", "flow_meter", "strainer", "reservoir", "fan", "opening", "filter",
    "duct", "gap", "obstacle", "cooler", "Coolant",
}  # fmt: skip


def _is_union_branch(step: int | str) -> bool:
    return step in _UNION_BRANCHES or (isinstance(step, str) and ("[" in step or "(" in step))


def write_object(build: Build) -> dict[str, Any]:
    """The JSON value of a document: what was read, in the one key order."""
    data: dict[str, Any] = build.model_dump(mode="json", by_alias=True, exclude_unset=True)
    return data


def write_text(build: Build) -> str:
    """Canonical text: one key order, two spaces, a line end."""
    return build.model_dump_json(indent=2, by_alias=True, exclude_unset=True) + "\n"


def digest(build: Build) -> str:
    """SHA-256 of the canonical text."""
    return hashlib.sha256(write_text(build).encode()).hexdigest()


def schema() -> dict[str, Any]:
    """The published JSON Schema of build documents."""
    data = Build.model_json_schema(by_alias=True)
    data["$schema"] = "https://json-schema.org/draft/2020-12/schema"
    return data
