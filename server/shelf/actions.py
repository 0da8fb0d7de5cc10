"""What changes a shelf: put an item on it, change one, take one off, read a shelf file."""

import json
import re
from datetime import date
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from krill.document.shelf import MOST_TRIED, ShelfItem, Tried, read_item, read_shelf, write_item
from shelf.models import Item
from wire.faults import ApiFault

MAX_ITEMS = 2000


@transaction.atomic
def put_item(user: User, name: str, part: dict[str, Any]) -> Item:
    """A new item with an id of its own made from its name."""
    _lock_shelf(user)
    slug = _free_slug(user, name)
    return _store(user, read_item({"id": slug, "name": name, "version": 1, "part": {**part, "id": slug}}))


@transaction.atomic
def change_item(user: User, slug: str, name: str, part: dict[str, Any]) -> Item:
    """Another version of an item; builds keep the copy that they took."""
    _lock_shelf(user)
    old = own_item(user, slug)
    told = {"tried": json.loads(old.text).get("tried", [])}
    item = read_item({"id": slug, "name": name, "version": old.version + 1, "part": {**part, "id": slug}} | told)
    return _store(user, item)


@transaction.atomic
def note_tried(user: User, slug: str, word: str, build: str, on: date) -> Item:
    """Write down why an item did not help; it keeps its version, since its figures are as they were."""
    _lock_shelf(user)
    item = read_item(json.loads(own_item(user, slug).text))
    if len(item.tried) >= MOST_TRIED:
        raise ApiFault(422, "word", "so much was tried with it", f"up to {MOST_TRIED} notes")
    note = Tried(word=word, build=build, on=on.isoformat())
    return _store(user, item.model_copy(update={"tried": [*item.tried, note]}))


@transaction.atomic
def show_to(user: User, slug: str, groups: list[str]) -> Item:
    """Show an item to exactly these of one's groups: their members take copies, its figures stay one's own."""
    _lock_shelf(user)
    item = own_item(user, slug)
    known = {group.name: group for group in user.groups.all()}
    if unknown := [name for name in groups if name not in known]:
        raise ApiFault(422, "groups", f"'{unknown[0]}' is no group of yours", ", ".join(known) or "you are in none")
    item.groups.set([known[name] for name in groups])
    return item


@transaction.atomic
def take_off(user: User, slug: str) -> None:
    _lock_shelf(user)
    own_item(user, slug).delete()


@transaction.atomic
def read_file(user: User, raw: dict[str, Any]) -> tuple[int, int]:
    """Items of a shelf file onto the shelf: (new, changed). An item that is on it already gets a higher version; what
    was tried with it is kept beside what the file says."""
    items = read_shelf(raw)
    _lock_shelf(user)
    new = changed = 0
    for item in items:
        old = Item.objects.filter(owner=user, slug=item.id).first()
        if old is None:
            new += 1
            _store(user, item)
            continue
        known = read_item(json.loads(old.text))
        tried = [*known.tried, *(note for note in item.tried if note not in known.tried)][:MOST_TRIED]
        if write_item(known)["part"] != write_item(item)["part"]:
            changed += 1
            _store(user, item.model_copy(update={"version": max(old.version + 1, item.version), "tried": tried}))
        elif tried != known.tried:
            changed += 1
            _store(user, known.model_copy(update={"tried": tried}))
    return new, changed


def _lock_shelf(user: User) -> None:
    """One change of a shelf at a time, till the transaction ends: two new items of one name get two ids."""
    User.objects.select_for_update(no_key=True).get(pk=user.pk)


def own_item(user: User, slug: str) -> Item:
    """An item of one's own shelf; 404 for anything else."""
    found = Item.objects.filter(owner=user, slug=slug).first()
    if found is None:
        raise ApiFault(404, slug, "there is no such item on your shelf")
    return found


def _store(user: User, item: ShelfItem) -> Item:
    if Item.objects.filter(owner=user).exclude(slug=item.id).count() >= MAX_ITEMS:
        raise ApiFault(422, "shelf", "the shelf is full", f"up to {MAX_ITEMS} items")
    stored, _ = Item.objects.update_or_create(
        owner=user,
        slug=item.id,
        defaults={
            "name": item.name,
            "kind": item.part.kind,
            "version": item.version,
            "text": json.dumps(write_item(item), ensure_ascii=False),
        },
    )
    return stored


def _free_slug(user: User, name: str) -> str:
    base = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")[:48] or "item"
    taken = set(Item.objects.filter(owner=user, slug__startswith=base).values_list("slug", flat=True))
    return next(slug for n in range(1, MAX_ITEMS + 2) if (slug := base if n == 1 else f"{base}-{n}") not in taken)
