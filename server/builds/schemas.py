"""Shapes of builds on the wire."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Field, Schema

from wire.documents import BuildJson, GivenBuild
from wire.faults import Errors
from wire.text import Text


class BuildCard(Schema):
    id: UUID
    name: str
    owner: str
    role: str
    updated: datetime
    revisions: int


class BuildOut(Schema):
    id: UUID
    name: str
    owner: str
    role: str
    sequence: int
    sha256: str
    document: BuildJson
    undo: str | None
    redo: str | None
    revision: int | None
    revision_why: str | None
    changed: bool


class Conflict(Errors):
    """A stale save: nothing was overwritten; both versions are here."""

    stored: BuildOut
    yours: BuildJson | None


class RecipeIn(Schema):
    """Three watt figures of a recipe: what they stand for is said by ``list_recipes``."""

    recipe: str = "water_loop"
    processor_w: float = Field(125, description="first figure: sustained watts of the processor")
    graphics_w: float = Field(220, description="second figure: board watts of the graphics card")
    rest_w: float = Field(30, description="third figure: memory, drive and regulators together")
    room_c: float = 25
    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None


class RecipeOut(Schema):
    id: str
    name: str
    says: str
    asks: list[tuple[str, float]]


class ImportIn(Schema):
    document: GivenBuild


class SaveIn(Schema):
    base: int = Field(ge=0, description="sequence that the change was made on")
    document: GivenBuild
    label: Annotated[Text, Field(max_length=200)] = ""


class StepIn(Schema):
    base: int = Field(ge=0)


class RevisionIn(Schema):
    why: Annotated[Text, Field(min_length=1, max_length=300)]


class RevisionOut(Schema):
    number: int
    why: str
    author: str
    created: datetime
    sha256: str
    core_version: str
    summary: dict[str, Any]
    changes: list[str]


class RevisionDocument(Schema):
    number: int
    document: BuildJson


class AccessIn(Schema):
    username: Annotated[Text, Field(max_length=150)]
    role: Literal["editor", "reader"] | None


class AccessOut(Schema):
    username: str
    role: str
