"""Older documents become current ones, one tested step a version."""

from collections.abc import Callable
from typing import Any, Final

from krill.document.order_rules import nameable

#: version that a step starts from -> step; version 1 is the first, so there is none yet
STEPS: Final[dict[int, Callable[[dict[str, Any]], dict[str, Any]]]] = {}


#: a Krill of this version took machines, orders and dues without looking where they end
_UNCHECKED: Final = "krill 0.1.0"


#: lists whose items an order may name beside parts
_ORDERED: Final = ("leads", "insulators", "loops", "steps")


def mended(raw: dict[str, Any]) -> dict[str, Any]:
    """A document of a Krill that did not check machines, order and dues: machines that parts name are there, an order that
    ends nowhere is gone, a due of no part is of the whole build."""
    if raw.get("written_by") != _UNCHECKED:
        return raw
    parts = [part for part in _list(raw, "parts") if isinstance(part, dict)]
    machines = _list(raw, "machines")
    known = [machine.get("id") for machine in machines if isinstance(machine, dict)]
    named = dict.fromkeys(part["machine"] for part in parts if isinstance(part.get("machine"), str))
    lost = [{"id": machine} for machine in named if machine not in known]
    ids = _ids(parts)
    known_ids = nameable(ids, [item for key in _ORDERED for item in _ids(_list(raw, key))])
    kept = [
        rule
        for rule in _list(raw, "assembly")
        if not isinstance(rule, dict) or {str(rule.get("first")), str(rule.get("then"))} <= known_ids
    ]
    dues = [
        {key: value for key, value in due.items() if key != "part"}
        if isinstance(due, dict) and due.get("part") not in ids
        else due
        for due in _list(raw, "dues")
    ]
    found = {"machines": machines + lost, "assembly": kept, "dues": dues}
    return raw | {key: value for key, value in found.items() if value != _list(raw, key)}


def _ids(items: list[Any]) -> list[str]:
    return [str(item.get("id")) for item in items if isinstance(item, dict)]


def _list(raw: dict[str, Any], key: str) -> list[Any]:
    value = raw.get(key)
    return value if isinstance(value, list) else []


def upgraded(raw: dict[str, Any]) -> dict[str, Any]:
    """The document in the current version."""
    raw = mended(raw)
    while (step := STEPS.get(raw["version"])) is not None:
        raw = step(raw)
    return raw
