"""What a schema found wrong, in Krill's words: where, what, what is allowed. One problem for each wrong thing."""

import json
import re
from collections.abc import Iterable
from difflib import get_close_matches
from functools import lru_cache
from typing import Any, Final

from pydantic import ValidationError
from pydantic_core import ErrorDetails

from krill import CORE_VERSION
from krill.document.figures import Strict
from krill.errors import DocumentRefused, Problem

#: what is allowed where a value has the wrong type, by the kind of error
_ALLOWED: Final[dict[str, str]] = {
    "int_type": "a whole number",
    "int_parsing": "a whole number",
    "int_from_float": "a whole number",
    "float_type": "a number",
    "float_parsing": "a number",
    "finite_number": "a finite number",
    "string_type": "text",
    "bool_type": "true or false",
    "bool_parsing": "true or false",
    "list_type": "a list",
    "tuple_type": "a list",
    "dict_type": "a JSON object",
    "model_type": "a JSON object",
    "model_attributes_type": "a JSON object",
    "string_pattern_mismatch": "lower-case letters, digits, - and _, up to 64",
    "extra_forbidden": "the keys of the published schema",
    "missing": "a value",
    "union_tag_not_found": "a kind",
}
#: ends of a range: words, and where the error says the end
_BOUNDS: Final[dict[str, tuple[str, str]]] = {
    "greater_than": ("more than {}", "gt"),
    "greater_than_equal": ("{} or more", "ge"),
    "less_than": ("less than {}", "lt"),
    "less_than_equal": ("up to {}", "le"),
}
_FIGURE = '{"value": …, "plus_minus": …, "from": …}'
_SHOWN = 80


def refusal(raw: dict[str, Any], error: ValidationError) -> DocumentRefused:
    """Every problem once: tries of a union at one value are one problem, and none where one of them got further in."""
    found: dict[str, Problem] = {}
    for detail in error.errors(include_url=False):
        problem = _problem(raw, detail)
        known = found.get(problem.where)
        found[problem.where] = problem if known is None else _either(known, problem)
    return DocumentRefused([p for where, p in found.items() if not _goes_on(where, found)])


def _either(first: Problem, second: Problem) -> Problem:
    if second.allowed in first.allowed.split(" or "):
        return first
    return Problem(first.where, first.what, f"{first.allowed} or {second.allowed}")


def _goes_on(where: str, others: Iterable[str]) -> bool:
    return any(other.startswith(f"{where}/") for other in others)


def _problem(raw: dict[str, Any], error: ErrorDetails) -> Problem:
    kind, context = error["type"], error.get("ctx", {})
    where = address_of(raw, error["loc"], kind == "missing")
    if kind == "extra_forbidden":
        newer = _newer_writer(raw)
        what = f"unknown key, from a newer Krill ({newer})" if newer else "unknown key"
        return Problem(where, what, _keys_near(str(error["loc"][-1])))
    if kind == "missing":
        return Problem(where, "missing", _ALLOWED[kind])
    if kind == "union_tag_not_found":
        return Problem(f"{where}/kind", "missing", _ALLOWED[kind])
    if kind == "union_tag_invalid":
        return Problem(f"{where}/kind", _shown(context.get("tag")), str(context.get("expected_tags")))
    return Problem(where, _shown(error.get("input")), _allowed(error))


@lru_cache(maxsize=1)
def _known_keys() -> frozenset[str]:
    """Keys of every object of the document, as they stand in a file."""
    models, waiting = set[type[Strict]](), [Strict]
    while waiting:
        for model in waiting.pop().__subclasses__():
            if model not in models:
                models.add(model)
                waiting.append(model)
    return frozenset(field.alias or name for model in models for name, field in model.model_fields.items())


def _keys_near(key: str) -> str:
    near = get_close_matches(key, sorted(_known_keys()), n=2, cutoff=0.7) if key not in _known_keys() else []
    return _ALLOWED["extra_forbidden"] + (f"; the nearest: {', '.join(near)}" if near else "")


def _allowed(error: ErrorDetails) -> str:
    branch = error["loc"][-1] if error["loc"] else ""
    if branch == "int":  # of a union with fractions
        return "a number"
    if branch == "FigureDetail":
        return _FIGURE
    if error["type"] in _BOUNDS:
        word, key = _BOUNDS[error["type"]]
        return word.format(f"{error['ctx'][key]:g}")
    words = re.sub(r"^(Input should be|Value error,) ", "", error["msg"])
    return _ALLOWED.get(error["type"], words)


def _newer_writer(raw: dict[str, Any]) -> str | None:
    writer = str(raw.get("written_by") or "")
    found = re.fullmatch(r"krill (\d+)\.(\d+)\.(\d+)", writer)
    own = tuple(int(n) for n in CORE_VERSION.split("."))
    return writer if found and tuple(int(n) for n in found.groups()) > own else None


def _shown(value: Any) -> str:
    text = json.dumps(value, default=str)
    return text if len(text) <= _SHOWN else text[: _SHOWN - 3] + "..."


def address_of(raw: Any, location: tuple[int | str, ...], missing: bool = False) -> str:
    """id/field instead of list positions: the innermost id stands first, what lies in it follows.

    A step of the location that stands nowhere in the document names the branch of a union; the last step of something
    ``missing`` is its name.
    """
    pieces: list[str] = []
    here = raw
    for number, step in enumerate(location):
        if isinstance(step, int) and isinstance(here, list) and step < len(here):
            here = here[step]
            own = here.get("id") if isinstance(here, dict) else None
            pieces = [own] if isinstance(own, str) else [*pieces, str(step)]
        elif isinstance(here, dict) and step in here:
            here = here[step]
            pieces.append(str(step))
        elif missing and number == len(location) - 1:
            pieces.append(str(step))
    return "/".join(pieces) or "file"
