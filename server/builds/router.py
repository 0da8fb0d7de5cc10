"""Builds over HTTP: drafts, undo, revisions, access, export."""

import json
from dataclasses import asdict
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from builds import actions, history
from builds.answers import build_out, outlook, patched_out, prediction_rows, revision_out, standing
from builds.cards import card_of, card_of_document
from builds.models import Build, Event
from builds.queries import build_for, cards_of, find, offered_to, revision_of, templates
from builds.schemas import (
    AccessIn,
    AccessOut,
    ArchiveIn,
    AssemblyOut,
    BuildCard,
    BuildOut,
    Card,
    Conflict,
    EventOut,
    FindQuery,
    GroupAccessIn,
    ImportIn,
    Listed,
    NameIn,
    OfferIn,
    OutlookIn,
    OutlookOut,
    PatchedOut,
    PatchIn,
    RecipeIn,
    RecipeOut,
    RevisionDocument,
    RevisionIn,
    RevisionOut,
    SaveIn,
    Standing,
    StepIn,
    TemplateIn,
)
from krill.document.build import Build as Document
from krill.document.reading import read_text, write_object
from krill.prediction.predict import predict
from krill.recipes.assemblies import ASSEMBLIES
from krill.recipes.book import RECIPES, Recipe
from krill.recipes.picture import picture_of
from krill.sizing.first_size import first_size
from wire.documents import BuildJson
from wire.downloads import download, table_download
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import user_of

router = Router(tags=["builds"], by_alias=True)

PICTURED_ROOM_C = 23.0


@router.get("/builds", response={200: list[BuildCard], ERRORS: Errors}, operation_id="list_builds")
def list_builds(request: HttpRequest) -> list[dict[str, Any]]:
    return cards_of(user_of(request))


@router.get("/recipes", response={200: list[RecipeOut], ERRORS: Errors}, operation_id="list_recipes")
def list_recipes(request: HttpRequest) -> list[dict[str, Any]]:
    """Every recipe with the three watt figures that it asks for, and a picture."""
    return _recipes()


@lru_cache(maxsize=1)
def _recipes() -> list[dict[str, Any]]:
    return [_recipe_out(recipe) for recipe in RECIPES.values()]


def _recipe_out(recipe: Recipe) -> dict[str, Any]:
    first = recipe.make(*recipe.starts, PICTURED_ROOM_C, recipe.name)
    return {
        "id": recipe.id,
        "shape": recipe.shape,
        "variant": recipe.variant,
        "name": recipe.name,
        "says": recipe.says,
        "asks": [ask._asdict() for ask in recipe.asks],
        "inside_mm": first.housing.inner_size_mm,
        "picture": picture_of(first),
    }


@router.get("/assemblies", response={200: list[AssemblyOut], ERRORS: Errors}, operation_id="list_assemblies")
def list_assemblies(request: HttpRequest) -> list[dict[str, Any]]:
    """Coolers, cards, radiators and closed loops that are put into a build in one step."""
    return [asdict(assembly) for assembly in ASSEMBLIES]


@router.post("/builds/recipe", response={201: BuildOut, ERRORS: Errors}, operation_id="create_from_recipe")
def create_from_recipe(request: HttpRequest, data: RecipeIn) -> Status[Any]:
    """A document from three watt figures and a room, every guess marked as one."""
    return Status(201, build_out(user_of(request), actions.create_build(user_of(request), _from_recipe(data))))


def _from_recipe(data: RecipeIn) -> Document:
    recipe = RECIPES.get(data.recipe)
    if recipe is None:
        raise ApiFault(422, "recipe", f"'{data.recipe}'", ", ".join(RECIPES))
    given = (data.processor_w, data.graphics_w, data.rest_w)
    first, second, rest = (start if watts is None else watts for watts, start in zip(given, recipe.starts, strict=True))
    return first_size(recipe, (first, second, rest), data.room_c, data.name or recipe.name, data.inside_mm)


@router.post("/recipes/answer", response={200: Card, ERRORS: Errors}, operation_id="recipe_answer")
def recipe_answer(request: HttpRequest, data: RecipeIn) -> dict[str, Any]:
    """Whether what a recipe makes would hold; nothing is stored."""
    return card_of_document(_from_recipe(data))


@router.post("/recipes/document", response={200: BuildJson, ERRORS: Errors}, operation_id="recipe_document")
def recipe_document(request: HttpRequest, data: RecipeIn) -> dict[str, Any]:
    """What a recipe makes, to be put into a build that is there already; nothing is stored."""
    return write_object(_from_recipe(data))


@router.post("/builds", response={201: BuildOut, ERRORS: Errors}, operation_id="import_build")
def import_build(request: HttpRequest, data: ImportIn) -> Status[Any]:
    """A build from a document that somebody wrote or exported."""
    return Status(201, build_out(user_of(request), actions.create_build(user_of(request), data.document)))


@router.get("/builds/{build_id}", response={200: BuildOut, ERRORS: Errors}, operation_id="get_build")
def get_build(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    return build_out(user_of(request), build_for(user_of(request), build_id))


@router.get("/builds/{build_id}/standing", response={200: Standing, ERRORS: Errors}, operation_id="build_standing")
def build_standing(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    """How the draft stands, without its document: what a window asks to learn of changes made elsewhere."""
    return standing(user_of(request), build_for(user_of(request), build_id))


@router.get("/find", response={200: list[UUID], ERRORS: Errors}, operation_id="find_builds")
def find_builds(request: HttpRequest, q: Query[FindQuery]) -> list[UUID]:
    """Builds whose name, parts, notes, revisions or runs say a text."""
    return sorted(find(user_of(request), q.text))


@router.get("/builds/{build_id}/card", response={200: Card, ERRORS: Errors}, operation_id="build_card")
def build_card(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    """Whether the draft holds in its tightest workload, with a small picture of its terraces."""
    return card_of(build_for(user_of(request), build_id))


@router.post("/builds/{build_id}/copy", response={201: BuildOut, ERRORS: Errors}, operation_id="copy_build")
def copy_build(request: HttpRequest, build_id: UUID, data: NameIn) -> Status[Any]:
    user = user_of(request)
    return Status(201, build_out(user, actions.copy_build(user, build_id, data.name)))


@router.put("/builds/{build_id}/name", response={200: BuildOut, ERRORS: Errors}, operation_id="rename_build")
def rename_build(request: HttpRequest, build_id: UUID, data: NameIn) -> dict[str, Any]:
    user = user_of(request)
    return build_out(user, actions.rename_build(user, build_id, data.name))


@router.put("/builds/{build_id}/archived", response={204: None, ERRORS: Errors}, operation_id="archive_build")
def archive_build(request: HttpRequest, build_id: UUID, data: ArchiveIn) -> Status[Any]:
    actions.archive_build(user_of(request), build_id, archived=data.archived)
    return Status(204, None)


@router.post("/builds/{build_id}/restore", response={204: None, ERRORS: Errors}, operation_id="restore_build")
def restore_build(request: HttpRequest, build_id: UUID) -> Status[Any]:
    """Bring back a build that was deleted in the last thirty days."""
    actions.restore_build(user_of(request), build_id)
    return Status(204, None)


@router.delete("/builds/{build_id}", response={204: None, ERRORS: Errors}, operation_id="delete_build")
def delete_build(request: HttpRequest, build_id: UUID) -> Status[Any]:
    actions.delete_build(user_of(request), build_id)
    return Status(204, None)


@router.put(
    "/builds/{build_id}/draft", response={200: BuildOut, 409: Conflict, ERRORS: Errors}, operation_id="save_draft"
)
def save_draft(request: HttpRequest, build_id: UUID, data: SaveIn) -> dict[str, Any]:
    """Save a whole draft on its base sequence; a stale base gets 409 with both versions."""
    user = user_of(request)
    return build_out(user, actions.save_draft(user, build_id, data.base, data.document, data.label))


@router.patch(
    "/builds/{build_id}/draft", response={200: PatchedOut, 409: Conflict, ERRORS: Errors}, operation_id="patch_draft"
)
def patch_draft(request: HttpRequest, build_id: UUID, data: PatchIn) -> dict[str, Any]:
    """Change the draft on its base sequence, and answer its central figures; a stale base gets 409."""
    user = user_of(request)
    draft = actions.patch_draft(user, build_id, data.base, data.patch, data.label, merge=data.merge)
    return patched_out(user, draft, data.asked)


@router.post(
    "/builds/{build_id}/outlook",
    response={200: OutlookOut, ERRORS: Errors},
    operation_id="outlook",
    tags=["predictions"],
)
def outlook_of_draft(request: HttpRequest, build_id: UUID, data: OutlookIn) -> dict[str, Any]:
    """Bands of the stored draft, and its next changes of figures and duties."""
    return outlook(build_for(user_of(request), build_id), data)


@router.post("/builds/{build_id}/undo", response={200: BuildOut, 409: Conflict, ERRORS: Errors}, operation_id="undo")
def undo(request: HttpRequest, build_id: UUID, data: StepIn) -> dict[str, Any]:
    return build_out(user_of(request), actions.step_back(user_of(request), build_id, data.base))


@router.post("/builds/{build_id}/redo", response={200: BuildOut, 409: Conflict, ERRORS: Errors}, operation_id="redo")
def redo(request: HttpRequest, build_id: UUID, data: StepIn) -> dict[str, Any]:
    return build_out(user_of(request), actions.step_forward(user_of(request), build_id, data.base))


@router.get("/builds/{build_id}/document", response={200: BuildJson, ERRORS: Errors}, operation_id="export_build")
def export_build(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """The draft as a file, in its canonical text."""
    build = build_for(user_of(request), build_id)
    return download(build.text, "build.krill.json", "application/json")


@router.get(
    "/builds/{build_id}/revisions", response={200: list[RevisionOut], ERRORS: Errors}, operation_id="list_revisions"
)
def list_revisions(request: HttpRequest, build_id: UUID) -> list[dict[str, Any]]:
    """Oldest first, each with what changed since the one before."""
    build = build_for(user_of(request), build_id)
    return [revision_out(revision) for revision in build.revisions.select_related("parent", "author")]


@router.post("/builds/{build_id}/revisions", response={201: RevisionOut, ERRORS: Errors}, operation_id="keep_revision")
def keep_revision(request: HttpRequest, build_id: UUID, data: RevisionIn) -> Status[Any]:
    return Status(201, revision_out(actions.keep_revision(user_of(request), build_id, data.why)))


@router.get(
    "/builds/{build_id}/revisions/{number}",
    response={200: RevisionDocument, ERRORS: Errors},
    operation_id="get_revision",
)
def get_revision(request: HttpRequest, build_id: UUID, number: int) -> dict[str, Any]:
    revision = revision_of(build_for(user_of(request), build_id), number)
    return {"number": revision.number, "document": json.loads(revision.text)}


@router.get("/builds/{build_id}/access", response={200: AccessOut, ERRORS: Errors}, operation_id="list_access")
def list_access(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    build = build_for(user_of(request), build_id)
    groups = build.group_access.select_related("group")
    return {
        "owner": build.owner.username,
        "people": [{"name": one.name, "role": one.role} for one in build.access.all()],
        "groups": [{"name": one.group.name, "role": one.role} for one in groups],
        "offered_to": build.offered_name,
    }


@router.put("/builds/{build_id}/access", response={204: None, ERRORS: Errors}, operation_id="grant_access")
def grant_access(request: HttpRequest, build_id: UUID, data: AccessIn) -> Status[Any]:
    """Give or take a role; the answer is the same whether there is somebody of that name or not."""
    actions.grant(user_of(request), build_id, data.username, data.role)
    return Status(204, None)


@router.put("/builds/{build_id}/group-access", response={204: None, ERRORS: Errors}, operation_id="grant_group_access")
def grant_group_access(request: HttpRequest, build_id: UUID, data: GroupAccessIn) -> Status[Any]:
    """Give or take a role of all members of a group that one is in."""
    actions.grant_group(user_of(request), build_id, data.group, data.role)
    return Status(204, None)


@router.put("/builds/{build_id}/template", response={204: None, ERRORS: Errors}, operation_id="set_template")
def set_template(request: HttpRequest, build_id: UUID, data: TemplateIn) -> Status[Any]:
    """A template is read and copied by everybody, and changed by nobody."""
    actions.set_template(user_of(request), build_id, template=data.template)
    return Status(204, None)


@router.get("/templates", response={200: list[Listed], ERRORS: Errors}, operation_id="list_templates")
def list_templates(request: HttpRequest) -> list[dict[str, Any]]:
    """Builds of this Krill to begin with, by name."""
    return [_listed(build) for build in templates()]


@router.get("/offered", response={200: list[Listed], ERRORS: Errors}, operation_id="list_offered_builds")
def list_offered(request: HttpRequest) -> list[dict[str, Any]]:
    """Builds that others would pass on to who asks."""
    return [_listed(build) for build in offered_to(user_of(request))]


def _listed(build: Build) -> dict[str, Any]:
    return {"id": build.pk, "name": build.name, "owner": build.owner.username}


@router.put("/builds/{build_id}/offer", response={204: None, ERRORS: Errors}, operation_id="offer_build")
def offer_build(request: HttpRequest, build_id: UUID, data: OfferIn) -> Status[Any]:
    """Offer a build to somebody, who owns it once they take it."""
    actions.offer(user_of(request), build_id, data.username)
    return Status(204, None)


@router.post("/builds/{build_id}/take-over", response={200: BuildOut, ERRORS: Errors}, operation_id="take_over_build")
def take_over_build(request: HttpRequest, build_id: UUID) -> dict[str, Any]:
    """Own a build that was offered; who owned it before may go on editing."""
    return build_out(user_of(request), actions.take_over(user_of(request), build_id))


@router.post("/builds/{build_id}/decline", response={204: None, ERRORS: Errors}, operation_id="decline_build")
def decline_build(request: HttpRequest, build_id: UUID) -> Status[Any]:
    actions.decline(user_of(request), build_id)
    return Status(204, None)


@router.get("/builds/{build_id}/events", response={200: list[EventOut], ERRORS: Errors}, operation_id="list_events")
def list_events(request: HttpRequest, build_id: UUID) -> list[Event]:
    """Who did what with a build and when, the newest first."""
    return list(history.of(build_for(user_of(request), build_id)))


@router.get(
    "/builds/{build_id}/prediction.csv",
    response={200: str, ERRORS: Errors},
    operation_id="prediction_csv",
    tags=["predictions"],
)
def prediction_csv(request: HttpRequest, build_id: UUID) -> HttpResponse:
    """The forecast of the draft as a table, one row a place and workload."""
    prediction = predict(read_text(build_for(user_of(request), build_id).text))
    return table_download(prediction_rows(prediction), "prediction.csv")
