"""One step on a build, and the document with its edits made."""

import copy
from dataclasses import dataclass, field
from typing import Any, cast

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.part_base import Part
from krill.document.quantities import described, figures_of
from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused, Problem
from krill.sizing.result import Edit


@dataclass(frozen=True)
class Step:
    """One change: what it says, what it is about, figures it sets (SI by address), duties, or edits of the structure."""

    label: str
    about: str
    figures: dict[str, float] = field(default_factory=dict)
    edits: tuple[Edit, ...] = ()
    costs: tuple[str, ...] = ()
    duties: dict[str, float] = field(default_factory=dict)  # what movers are told instead, by id

    def buys(self, build: Build) -> bool:
        """Whether something must be bought for it."""
        return any(buys(build, edit.target, edit.field) for edit in self.edits)

    @property
    def price_key(self) -> str:
        """Where the user's figure of what it costs stands among the prices of the build."""
        return price_key(self.edits[0])

    @property
    def structural(self) -> bool:
        """Whether the change needs a document of its own to be solved."""
        return not self.figures and not self.duties


def buys(build: Build, owner: str, field_name: str) -> bool:
    """Whether a change of a field of what an id belongs to means buying something, or setting, telling or turning it."""
    item = build.housing if owner == "housing" else build.owner(owner)
    says = None if item is None else described(type(item)).get(field_name.split("/")[0])
    return says is None or says.buys


def price_key(edit: Edit) -> str:
    """``address=value`` of an edit; of a part that is added its id stands for it."""
    value = edit.value
    if isinstance(value, dict):
        value = value.get("id", value.get("value", ""))
    return (
        f"{edit.target}/{edit.field}={value:g}" if isinstance(value, float) else (f"{edit.target}/{edit.field}={value}")
    )


def edited(build: Build, edits: tuple[Edit, ...]) -> Build:
    """The document with edits made, read again. DocumentRefused where they make no sense."""
    raw = copy.deepcopy(write_object(build))
    for edit in edits:
        _apply(raw, edit)
    return read_object(raw)


def _apply(raw: dict[str, Any], edit: Edit) -> None:
    owner, path, value = edit.target, edit.field.split("/"), edit.value
    if owner == "parts":
        _apply_to_parts(raw, path[0], value)
        return
    target = _owner(raw, owner)
    for key in path[:-1]:
        target = target.setdefault(key, {})
    target[path[-1]] = value


def _apply_to_parts(raw: dict[str, Any], field_name: str, value: Any) -> None:
    """A part more (+), one in place of the one of its id (=), or one less (-) with what workloads tell it."""
    if field_name == "+":
        raw["parts"].append(value)
        return
    if field_name == "=":
        raw["parts"] = [value if part["id"] == value["id"] else part for part in raw["parts"]]
        return
    raw["parts"] = [part for part in raw["parts"] if part["id"] != value]
    for workload in raw.get("workloads", []):
        workload.get("movers", {}).pop(value, None)


def _owner(raw: dict[str, Any], owner: str) -> dict[str, Any]:
    if owner in ("housing", "brief"):
        return cast(dict[str, Any], raw.setdefault(owner, {}))
    lists = ("parts", "workloads", "zones", "loops", "air_paths", "recirculations", "rooms", "bonds", "slots")
    items = [item for key in lists for item in raw.get(key, [])]
    items += [place for part in raw.get("parts", []) for place in part.get("places", [])]
    items += [hop for route in raw.get("routes", []) for hop in route["hops"]]
    found = next((item for item in items if item["id"] == owner), None)
    if found is None:
        raise DocumentRefused([Problem(owner, "there is nothing of this id", "an id of the build")])
    return cast(dict[str, Any], found)


def rounded(value: float, digits: int = 3) -> float:
    """To so many digits that count: what a person would type, and never 0 for something small."""
    return float(f"{value:.{digits}g}")


def signed(value: float, unit: str, digits: int = 0) -> str:
    """A difference with its sign, a real minus."""
    return f"{value:+.{digits}f} {unit}".replace("-", "−")


def value_in_units(table: FigureTable, address: str) -> float:
    return table.figures[address].in_units


def figure_step(
    table: FigureTable, part: Part, field_name: str, wanted: float, label: str, costs: tuple[str, ...] = ()
) -> Step:
    """A step that sets one figure of a part to a value in the document's units."""
    address = f"{part.id}/{field_name}"
    estimate = {"value": rounded(wanted, 6), "from": "estimate"}
    edit: Edit = Edit(target=part.id, field=field_name, value=estimate)
    factor = figures_of(type(part))[field_name].factor
    return Step(label, part.id, {address: rounded(wanted, 6) * factor}, (edit,), costs)
