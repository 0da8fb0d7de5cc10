"""The parts shelf over HTTP: one's own items and the class-typical ones, search, export and import."""

import json
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Status

from krill import CORE_VERSION
from krill.catalogue.shelf import class_shelf
from krill.document.shelf import read_item
from krill.sizing.substitutes import Substitute, substitutes
from shelf import actions
from shelf.answers import own_out, shipped_out, shown_out
from shelf.models import Item
from shelf.queries import own_items, shown_items
from shelf.schemas import InsteadIn, ShelfFile, ShelfItemIn, ShelfItemOut, ShelfRead, ShownTo, TriedIn
from wire.faults import ERRORS, Errors
from wire.people import user_of
from wire.text import Text

router = Router(tags=["shelf"], by_alias=True)


@router.get("/shelf", response={200: list[ShelfItemOut], ERRORS: Errors}, operation_id="list_shelf")
def list_shelf(request: HttpRequest, kind: Text = "", search: Text = "") -> list[dict[str, Any]]:
    """One's own items first, then those of one's groups and of every class.

    ``search`` looks for all its words in name and class.
    """
    own = [own_out(item) for item in own_items(user_of(request))]
    own += [shown_out(item) for item in shown_items(user_of(request))]
    shipped = [shipped_out(item) for item in class_shelf()]
    words = search.lower().split()
    return [
        item
        for item in own + shipped
        if (not kind or item["kind"] == kind)
        and all(word in f"{item['name']} {item['kind']} {item['part'].get('class', '')}".lower() for word in words)
    ]


@router.post("/shelf", response={201: ShelfItemOut, ERRORS: Errors}, operation_id="put_on_shelf")
def put_on_shelf(request: HttpRequest, data: ShelfItemIn) -> Status[Any]:
    return Status(201, own_out(actions.put_item(user_of(request), data.name, data.part)))


@router.post("/shelf/instead", response={200: list[Substitute], ERRORS: Errors}, operation_id="substitutes")
def instead_of_a_part(request: HttpRequest, data: InsteadIn) -> list[Substitute]:
    """What else of one's shelf, one's groups' and the class-typical one could stand in a part's place, nearest first."""
    user = user_of(request)
    kept = [read_item(json.loads(item.text)) for item in [*own_items(user), *shown_items(user)]]
    return substitutes(data.document, data.part, [*kept, *class_shelf()], data.workload)


@router.get("/shelf/file", response={200: ShelfFile, ERRORS: Errors}, operation_id="export_shelf")
def export_shelf(request: HttpRequest) -> dict[str, Any]:
    """One's own items as an open file."""
    items = [json.loads(item.text) for item in Item.objects.filter(owner=user_of(request))]
    return {"format": "krill-shelf", "version": 1, "written_by": f"krill {CORE_VERSION}", "items": items}


@router.post("/shelf/file", response={200: ShelfRead, ERRORS: Errors}, operation_id="import_shelf")
def import_shelf(request: HttpRequest, data: ShelfFile) -> dict[str, int]:
    """Put the items of a shelf file on the shelf; all of them or, where one is refused, none."""
    new, changed = actions.read_file(user_of(request), data.dict())
    return {"new": new, "changed": changed}


@router.put("/shelf/{slug}", response={200: ShelfItemOut, ERRORS: Errors}, operation_id="change_shelf_item")
def change_shelf_item(request: HttpRequest, slug: Text, data: ShelfItemIn) -> dict[str, Any]:
    return own_out(actions.change_item(user_of(request), slug, data.name, data.part))


@router.post("/shelf/{slug}/tried", response={200: ShelfItemOut, ERRORS: Errors}, operation_id="note_tried")
def note_tried(request: HttpRequest, slug: Text, data: TriedIn) -> dict[str, Any]:
    """Write down that an item of one's own was tried and did not help, because."""
    return own_out(actions.note_tried(user_of(request), slug, data.word, data.build, timezone.localdate()))


@router.put("/shelf/{slug}/groups", response={200: ShelfItemOut, ERRORS: Errors}, operation_id="show_shelf_item")
def show_shelf_item(request: HttpRequest, slug: Text, data: ShownTo) -> dict[str, Any]:
    """Show an item to groups that one is in."""
    return own_out(actions.show_to(user_of(request), slug, data.groups))


@router.delete("/shelf/{slug}", response={204: None, ERRORS: Errors}, operation_id="take_off_shelf")
def take_off_shelf(request: HttpRequest, slug: Text) -> Status[Any]:
    actions.take_off(user_of(request), slug)
    return Status(204, None)
