"""Differences of two documents in words, by address."""

import json
from typing import Any

MAX_LINES = 40


def changes_between(old_text: str | None, new_text: str) -> list[str]:
    """One line a changed figure: address, old and new value."""
    if old_text is None:
        return []
    old, new = _flat(json.loads(old_text), ""), _flat(json.loads(new_text), "")
    lines = []
    for address in {**old, **new}:
        before, after = old.get(address), new.get(address)
        if before != after:
            lines.append(f"{address}: {_shown(before)} → {_shown(after)}")
    return lines[:MAX_LINES] + ([f"and {len(lines) - MAX_LINES} more"] if len(lines) > MAX_LINES else [])


def _flat(value: Any, address: str) -> dict[str, Any]:
    if isinstance(value, dict) and "value" in value:
        return {address: value["value"]}
    if isinstance(value, dict):
        found: dict[str, Any] = {}
        for key, item in value.items():
            if key != "id":
                found |= _flat(item, f"{address}/{key}" if address else key)
        return found
    if isinstance(value, list) and any(isinstance(item, dict) and "id" in item for item in value):
        found = {}
        for item in value:
            found |= _flat(item, str(item.get("id", "?")))
        return found
    return {address: value}


def _shown(value: Any) -> str:
    if value is None:
        return "—"
    text = value if isinstance(value, str) else json.dumps(value)
    return text if len(text) <= 60 else text[:57] + "…"
