"""One step on a build, and the document with its edits made."""

import copy
from dataclasses import dataclass, field
from typing import Any

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.reading import read_object, write_object
from krill.prediction.result import Edit
from krill.units import to_si


@dataclass(frozen=True)
class Step:
    """One change: what it says, what it is about, figures it sets (SI by address), duties, or edits of the structure."""

    label: str
    about: str
    figures: dict[str, float] = field(default_factory=dict)
    edits: tuple[Edit, ...] = ()
    costs: tuple[str, ...] = ()
    duties: dict[str, float] = field(default_factory=dict)  # what movers are told instead, by id

    @property
    def structural(self) -> bool:
        """Whether the change needs a document of its own to be solved."""
        return not self.figures and not self.duties


def edited(build: Build, edits: tuple[Edit, ...]) -> Build:
    """The document with edits made, read again. DocumentRefused where they make no sense."""
    raw = copy.deepcopy(write_object(build))
    for edit in edits:
        _apply(raw, edit)
    return read_object(raw)


def _apply(raw: dict[str, Any], edit: Edit) -> None:
    owner, path = edit["target"], edit["field"].split("/")
    if (owner, path) == ("parts", ["+"]):
        raw["parts"].append(edit["value"])
        return
    items = [item for key in ("parts", "workloads", "zones", "loops", "air_paths") for item in raw.get(key, [])]
    items += [place for part in raw.get("parts", []) for place in part.get("places", [])]
    items += [hop for route in raw.get("routes", []) for hop in route["hops"]]
    target = next(item for item in items if item["id"] == owner)
    for key in path[:-1]:
        target = target[key]
    target[path[-1]] = edit["value"]


def value_in_units(table: FigureTable, address: str) -> float:
    return table.figures[address].value / to_si(address.split("/")[1])


def figure_step(
    table: FigureTable, part: Any, field_name: str, wanted: float, label: str, costs: tuple[str, ...] = ()
) -> Step:
    """A step that sets one figure of a part to a value in the document's units."""
    address = f"{part.id}/{field_name}"
    estimate = {"value": round(wanted, 6), "from": "estimate"}
    edit: Edit = {"target": part.id, "field": field_name, "value": estimate}
    return Step(label, part.id, {address: round(wanted, 6) * to_si(field_name)}, (edit,), costs)
