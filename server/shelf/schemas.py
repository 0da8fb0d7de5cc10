"""Shapes of the shelf on the wire."""

from typing import Annotated, Any

from ninja import Field, Schema

from wire.text import Text


class ShelfItemOut(Schema):
    """``own`` is False for the class-typical parts that ship with Krill: estimates, nobody changes them."""

    id: str
    name: str
    kind: str
    version: int
    own: bool
    part: dict[str, Any]


class ShelfItemIn(Schema):
    name: Annotated[Text, Field(min_length=1, max_length=120)]
    part: dict[str, Any]


class ShelfFile(Schema):
    format: str = "krill-shelf"
    version: int = 1
    written_by: str | None = None
    items: list[dict[str, Any]]


class ShelfRead(Schema):
    new: int
    changed: int
