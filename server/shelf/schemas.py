"""Shapes of the shelf on the wire."""

from datetime import date
from typing import Annotated, Any

from ninja import Field, Schema

from wire.documents import AskedBuild
from wire.text import Text


class TriedOut(Schema):
    """It was tried and did not help: why, in which build, on which day."""

    word: str
    build: str = ""
    on: date | None = None


class ShelfItemOut(Schema):
    """``own`` is False for what others show to a group (``by``) and for class-typical parts, which ship with Krill."""

    id: str
    name: str
    kind: str
    version: int
    own: bool
    by: str
    groups: list[str]
    part: dict[str, Any]
    tried: list[TriedOut]


class ShelfItemIn(Schema):
    name: Annotated[Text, Field(min_length=1, max_length=120)]
    part: dict[str, Any]


class TriedIn(Schema):
    """Why a part did not help, and the name of the build that it was tried in."""

    word: Annotated[Text, Field(min_length=1, max_length=300)]
    build: Annotated[Text, Field(max_length=120)] = ""


class InsteadIn(Schema):
    """A document and one of its parts; the brief's hardest workload unless one is named."""

    document: AskedBuild
    part: Text
    workload: Text | None = None


class ShownTo(Schema):
    groups: Annotated[list[Text], Field(max_length=50)]


class ShelfFile(Schema):
    format: str = "krill-shelf"
    version: int = 1
    written_by: str | None = None
    items: list[dict[str, Any]]


class ShelfRead(Schema):
    new: int
    changed: int
