"""The published schema of build documents with the ids of the classes that each kind of part has."""

from typing import Any

from krill.catalogue.classes import classes
from krill.document.reading import schema


def schema_with_classes() -> dict[str, Any]:
    """JSON Schema whose ``class`` fields list what the catalogue knows of that kind; a kind without classes takes none."""
    data = schema()
    for name, definition in data["$defs"].items():
        fields = definition.get("properties", {})
        if "class" in fields:
            kind = fields.get("kind", {}).get("const", name.lower())
            known = sorted(key for key, row in classes().items() if row.kind == kind)
            fields["class"]["anyOf"] = [*([{"enum": known}] if known else []), {"type": "null"}]
    return data
