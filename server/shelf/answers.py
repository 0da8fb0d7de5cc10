"""Items of the shelf as they go over the wire."""

import json
from typing import Any

from krill.document.shelf import ShelfItem, write_item
from shelf.models import Item


def own_out(item: Item) -> dict[str, Any]:
    """An item that somebody keeps."""
    stored = json.loads(item.text)
    told = {"id": item.slug, "name": item.name, "kind": item.kind, "version": item.version}
    groups = sorted(group.name for group in item.groups.all())
    return {**told, "own": True, "by": "", "groups": groups, "part": stored["part"], "tried": stored.get("tried", [])}


def shown_out(item: Item) -> dict[str, Any]:
    """An item that somebody else shows to a group."""
    return own_out(item) | {"id": f"{item.owner.username}/{item.slug}", "own": False, "by": item.owner.username}


def shipped_out(item: ShelfItem) -> dict[str, Any]:
    """An item of a class, which ships with Krill."""
    told = {"id": item.id, "name": item.name, "kind": item.part.kind, "version": item.version}
    return {**told, "own": False, "by": "", "groups": [], "part": write_item(item)["part"], "tried": []}
