"""The parts shelf as an open file: parts by class and figures, each with its version."""

from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter, ValidationError

from krill.document.build import CoolantMixture
from krill.document.figures import Strict
from krill.document.kinds import kinds_with
from krill.document.part_base import Day, Slug
from krill.document.parts import AnyPart
from krill.document.refusals import refusal
from krill.errors import DocumentRefused, Problem

FORMAT = "krill-shelf"
VERSION = 1
#: what lies on a shelf
KINDS = (*kinds_with("on_shelf"), "coolant")
#: notes of what was tried with one thing
MOST_TRIED = 50


class Coolant(Strict):
    """A coolant on the shelf: what a loop is filled with."""

    id: Slug
    kind: Literal["coolant"]
    name: str = ""
    mixture: CoolantMixture
    note: str | None = None


ShelfPart = Annotated[AnyPart | Coolant, Field()]


class Tried(Strict):
    """Somebody tried the part and it did not help: why, in which build, on which day."""

    word: Annotated[str, Field(min_length=1, max_length=300)]
    build: Annotated[str, Field(max_length=120)] = ""
    on: Day | None = None


class ShelfItem(Strict):
    """One thing on the shelf; a changed one has a higher version, and copies in builds keep theirs."""

    id: Slug
    name: Annotated[str, Field(min_length=1, max_length=120)]
    version: Annotated[int, Field(ge=1)] = 1
    part: ShelfPart
    tried: Annotated[list[Tried], Field(max_length=MOST_TRIED)] = []


class Shelf(Strict):
    format: Literal["krill-shelf"]
    version: Literal[1]
    written_by: str | None = None
    items: list[ShelfItem] = []


_ITEM: TypeAdapter[ShelfItem] = TypeAdapter(ShelfItem)


def read_item(raw: Any) -> ShelfItem:
    """A checked item; DocumentRefused says where, what and what is allowed."""
    try:
        item = _ITEM.validate_python(raw)
    except ValidationError as error:
        raise refusal(raw if isinstance(raw, dict) else {}, error) from None
    if item.part.kind not in KINDS:
        raise DocumentRefused([Problem(f"{item.id}/kind", f"a {item.part.kind}", ", ".join(KINDS))])
    return item


def read_shelf(raw: Any) -> list[ShelfItem]:
    """The items of a shelf file; DocumentRefused where one of them cannot be or two have one id."""
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise DocumentRefused(
            [Problem("format", f"{raw.get('format') if isinstance(raw, dict) else raw!r}", f'"{FORMAT}"')]
        )
    if raw.get("version") != VERSION:
        raise DocumentRefused([Problem("version", f"{raw.get('version')!r}", f"{VERSION}")])
    given = raw.get("items")
    if not isinstance(given, list):
        raise DocumentRefused([Problem("items", "no list", "a list of items")])
    items = [read_item(item) for item in given]
    seen: set[str] = set()
    for item in items:
        if item.id in seen:
            raise DocumentRefused([Problem(item.id, "two items have this id", "an id of its own for each")])
        seen.add(item.id)
    return items


def write_item(item: ShelfItem) -> dict[str, Any]:
    data: dict[str, Any] = item.model_dump(mode="json", by_alias=True, exclude_unset=True)
    return data
