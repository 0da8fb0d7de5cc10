"""Shapes of builds on the wire."""

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from ninja import Field, Schema

from krill.prediction.answer.result import Prediction, Status
from krill.recipes.picture import Picture
from krill.sizing.result import NextChanges
from wire.documents import AskedRoom, BuildJson, GivenBuild
from wire.faults import Errors, Fault
from wire.text import Text


class CardTower(Schema):
    """A place as a small picture draws it: watts wide, on its terrace, a block for each hop; kelvins over the room."""

    watts: float
    floor_k: float
    drops_k: list[float]
    limit_k: float | None


class Card(Schema):
    """Whether a build holds in its tightest workload; an ``unknown`` one says what is missing and where."""

    status: Status
    missing: str | None = None
    where: str | None = None
    margin_k: float | None = None
    half_k: float | None = None
    place: str | None = None
    workload: str | None = None
    room_c: float | None = None
    sound_dba: float | None = None
    ceiling_dba: float | None = None
    towers: list[CardTower]


class BuildCard(Schema):
    id: UUID
    name: str
    owner: str
    role: str
    updated: datetime
    revisions: int
    archived: bool
    template: bool
    card: Card | None


class NameIn(Schema):
    name: Annotated[Text, Field(min_length=1, max_length=120)]


class FindQuery(Schema):
    text: Annotated[Text, Field(min_length=1, max_length=80)]


class ArchiveIn(Schema):
    archived: bool


class Standing(Schema):
    """How a draft stands: its sequence, what can be undone, its last revision."""

    id: UUID
    name: str
    owner: str
    role: str
    template: bool
    sequence: int
    sha256: str
    undo: str | None
    redo: str | None
    revision: int | None
    revision_why: str | None
    changed: bool


class BuildOut(Standing):
    document: BuildJson


class PatchedOut(Standing):
    """A draft after a patch; ``document`` where it is stored otherwise than the patch makes it.

    ``prediction`` has the central figures that were asked; ``unsolved`` says why there are none.
    """

    document: BuildJson | None
    prediction: Prediction | None
    unsolved: list[Fault]


class Conflict(Errors):
    """A stale save: nothing was overwritten; both versions are here."""

    stored: BuildOut
    yours: BuildJson | None


Side = Annotated[float, Field(ge=20, le=3000)]
Inside = tuple[Side, Side, Side]


class RecipeIn(Schema):
    """Three watt figures of a recipe: what they stand for, and start at where they are left out, ``list_recipes`` says."""

    recipe: str = "water_loop"
    processor_w: float | None = Field(None, description="first figure")
    graphics_w: float | None = Field(None, description="second figure")
    rest_w: float | None = Field(None, description="third figure")
    room_c: float = 25
    inside_mm: Inside | None = Field(None, description="inner width, depth and height; the start's own if left out")
    name: Annotated[Text, Field(min_length=1, max_length=120)] | None = None


class RecipeAsk(Schema):
    """A watt figure of a recipe: what it starts at, its least, and what the largest first size holds, W."""

    label: str
    start_w: float
    least_w: float
    holds_w: float


class RecipeOut(Schema):
    """Recipes of one shape differ in how they are cooled, which ``variant`` says; the picture is of its first document."""

    id: str
    shape: str
    variant: str
    name: str
    says: str
    asks: list[RecipeAsk]
    inside_mm: Inside | None
    picture: Picture


class AssemblyOut(Schema):
    """What is put into a build in one step; ids that the build has already are changed by who puts it in."""

    id: str
    name: str
    says: str
    parts: list[dict[str, Any]]
    zones: list[dict[str, Any]]
    air_paths: list[dict[str, Any]]
    loops: list[dict[str, Any]]
    into_loop: list[str]
    routes: list[dict[str, Any]]
    movers: dict[str, dict[str, Any]]
    watts: dict[str, dict[str, Any]]


class ImportIn(Schema):
    document: GivenBuild


class SaveIn(Schema):
    base: int = Field(ge=0, description="sequence that the change was made on")
    document: GivenBuild
    label: Annotated[Text, Field(max_length=200)] = ""


class Asked(Schema):
    """A question to the draft: a workload, in the build's room or another."""

    workload: str
    room_c: AskedRoom = None


class PatchIn(Schema):
    """``merge`` puts the change into the one before, where the same person made that."""

    base: int = Field(ge=0, description="sequence that the patch was made on")
    patch: Annotated[list[dict[str, Any]], Field(max_length=2000, description="JSON Patch, RFC 6902")]
    label: Annotated[Text, Field(max_length=200)] = ""
    merge: bool = False
    asked: Asked | None = None


class OutlookIn(Asked):
    place: str | None = Field(None, description="next changes of this place, or of the tightest")
    samples: int = Field(400, ge=20, le=2000)
    sequence: int | None = Field(None, description="of the draft in view; another one is not solved")


class OutlookOut(Schema):
    """No ``bands`` where the draft's ``sequence`` is not the one asked for, no ``changes`` where no part makes heat."""

    sequence: int
    bands: Prediction | None
    changes: NextChanges | None


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


Name = Annotated[Text, Field(min_length=1, max_length=150)]
Role = Literal["editor", "reader"]


class AccessIn(Schema):
    username: Name
    role: Role | None


class GroupAccessIn(Schema):
    group: Name
    role: Role | None


class Member(Schema):
    name: str
    role: str


class AccessOut(Schema):
    """Names as they were typed: nothing says whether there is somebody of that name."""

    owner: str
    people: list[Member]
    groups: list[Member]
    offered_to: str


class TemplateIn(Schema):
    template: bool


class OfferIn(Schema):
    """An empty name takes the offer back."""

    username: Annotated[Text, Field(max_length=150)]


class Listed(Schema):
    """A build of somebody else that may be copied, or taken over."""

    id: UUID
    name: str
    owner: str


class EventOut(Schema):
    at: datetime
    who: str
    did: str
