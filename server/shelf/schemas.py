"""Shapes of the shelf on the wire."""

from typing import Annotated, Any

from ninja import Field, Schema

from wire.text import Text


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


class ShelfItemIn(Schema):
    name: Annotated[Text, Field(min_length=1, max_length=120)]
    part: dict[str, Any]


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
