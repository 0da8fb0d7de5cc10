"""Writes to builds: one function, one transaction: permission, validation, change, log."""

import json
import uuid
from dataclasses import asdict, dataclass
from datetime import timedelta
from typing import Any

import jsonpatch
from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from builds.history import note
from builds.models import Access, Build, Edit, GroupAccess, Revision
from builds.queries import build_for
from krill import CORE_VERSION
from krill.document import reading
from krill.document.build import Build as Document
from krill.errors import KrillError
from krill.prediction.predict import predict
from krill.sizing.what_mattered import what_mattered
from wire.faults import ApiFault

#: changes that can be undone, at least; twice as many are kept before the oldest go
MAX_EDITS = 500
#: names that one build is shared with
MAX_SHARED = 100
#: a deleted build can be brought back for so long
KEPT_AFTER_DELETING = timedelta(days=30)


class StaleSave(Exception):
    """The draft has moved on; nothing was overwritten. Carries what is stored now, and what was sent to take its place."""

    def __init__(self, build: Build, sent: Document | None = None) -> None:
        self.build, self.sent = build, sent
        super().__init__("stale")


@dataclass(frozen=True)
class PatchedDraft:
    """A draft after a patch, with its document read; ``as_sent`` where it is stored just as the patch makes it."""

    build: Build
    document: Document
    as_sent: bool


@transaction.atomic
def create_build(owner: User, document: Document, how: str = "made it") -> Build:
    """A new build whose draft is the document."""
    must_have_room(owner)
    build = Build.objects.create(
        owner=owner, name=document.name, text=reading.write_text(document), sha256=reading.digest(document)
    )
    note(build, owner, how)
    return build


def must_have_room(owner: User) -> None:
    """ApiFault where somebody has as many builds as they may; deleted ones that can be brought back count."""
    if Build.objects.filter(owner=owner).count() >= settings.MOST_BUILDS:
        raise ApiFault(422, "builds", f"you have {settings.MOST_BUILDS} builds", "as many as you may: delete some")


@transaction.atomic
def save_draft(user: User, build_id: uuid.UUID, base: int, document: Document, label: str) -> Build:
    """Replace the draft by a document and log the change; StaleSave where the base is not the newest."""
    build = _fresh(user, build_id, base, document)
    return _changed(user, build, document, label, merge=False)


@transaction.atomic
def patch_draft(
    user: User, build_id: uuid.UUID, base: int, patch: list[dict[str, Any]], label: str, *, merge: bool
) -> PatchedDraft:
    """Change the draft by a JSON Patch and log it; StaleSave where the base is not the newest.

    With ``merge`` it goes into the change before, where the same person made that: typing is one step to undo.
    """
    build = _fresh(user, build_id, base)
    try:
        wanted = jsonpatch.apply_patch(json.loads(build.text), patch, in_place=True)
    except (jsonpatch.JsonPatchException, jsonpatch.JsonPointerException) as error:
        raise ApiFault(422, "patch", str(error), "operations on the draft at its base (RFC 6902)") from None
    document = reading.read_object(wanted)
    build = _changed(user, build, document, label, merge=merge)
    return PatchedDraft(build, document, as_sent=json.loads(build.text) == wanted)


def _changed(user: User, build: Build, document: Document, label: str, *, merge: bool) -> Build:
    """The draft with a document in it and the change in its log; nothing where nothing changed."""
    old, new = json.loads(build.text), reading.write_object(document)
    if old == new:
        return build
    last = build.edits.last()
    if last is not None and last.undone:  # what is undone stands behind all else
        build.edits.filter(undone=True).delete()
        last = build.edits.last()
    if merge and last is not None and last.author_id == user.pk:
        old, edit = jsonpatch.apply_patch(old, last.reverse, in_place=True), last
    else:
        note(build, user, label or "changed it")
        edit = Edit(build=build, position=1 if last is None else last.position + 1, author=user)
    edit.label, edit.forward, edit.reverse = label, _patch(old, new), _patch(new, old)
    if edit.forward:
        edit.save()
    elif edit.pk is not None:
        edit.delete()
    if edit.position % MAX_EDITS == 0:
        build.edits.filter(position__lte=edit.position - MAX_EDITS).delete()
    return _store(build, document)


def _patch(old: dict[str, Any], new: dict[str, Any]) -> list[dict[str, Any]]:
    """JSON Patch from one document to another; members that are equal are not searched for differences."""
    same = {key for key in old.keys() & new.keys() if old[key] == new[key]}
    before, after = ({key: value for key, value in document.items() if key not in same} for document in (old, new))
    found: list[dict[str, Any]] = jsonpatch.make_patch(before, after).patch
    return found


def _store(build: Build, document: Document) -> Build:
    build.text, build.sha256 = reading.write_text(document), reading.digest(document)
    build.name, build.sequence = document.name, build.sequence + 1
    build.save(update_fields=["text", "sha256", "name", "sequence", "updated"])
    return build


@transaction.atomic
def step_back(user: User, build_id: uuid.UUID, base: int) -> Build:
    """Undo the newest change that stands."""
    build = _fresh(user, build_id, base)
    edit = build.edits.filter(undone=False).last()
    if edit is None:
        raise ApiFault(422, "undo", "there is nothing to undo")
    note(build, user, f"undid: {edit.label or 'change'}")
    return _applied(build, edit, edit.reverse, undone=True)


@transaction.atomic
def step_forward(user: User, build_id: uuid.UUID, base: int) -> Build:
    """Do the oldest undone change again."""
    build = _fresh(user, build_id, base)
    edit = build.edits.filter(undone=True).first()
    if edit is None:
        raise ApiFault(422, "redo", "there is nothing to redo")
    note(build, user, f"did again: {edit.label or 'change'}")
    return _applied(build, edit, edit.forward, undone=False)


def _fresh(user: User, build_id: uuid.UUID, base: int, sent: Document | None = None) -> Build:
    """The build, held, to be changed on its newest sequence."""
    build = build_for(user, build_id, "editor", lock=True)
    if base != build.sequence:
        raise StaleSave(build, sent)
    return build


def _applied(build: Build, edit: Edit, patch: list[dict[str, Any]], *, undone: bool) -> Build:
    document = reading.read_object(jsonpatch.apply_patch(json.loads(build.text), patch))
    edit.undone = undone
    edit.save(update_fields=["undone"])
    return _store(build, document)


@transaction.atomic
def keep_revision(user: User, build_id: uuid.UUID, why: str) -> Revision:
    """Keep the draft as the next revision, with what is predicted of it."""
    build = build_for(user, build_id, "editor", lock=True)
    last = build.revisions.last()
    if last is not None and last.sha256 == build.sha256:
        raise ApiFault(422, "revision", f"nothing changed since revision {last.number}", "change the draft first")
    document = reading.read_text(build.text)
    note(build, user, f"kept revision {last.number + 1 if last else 1}: {why}")
    return Revision.objects.create(
        build=build,
        number=last.number + 1 if last else 1,
        parent=last,
        text=build.text,
        sha256=build.sha256,
        why=why,
        summary=summary_of(document) | {"mattered": _mattered(last, document)},
        core_version=CORE_VERSION,
        author=user,
    )


def summary_of(document: Document) -> dict[str, Any]:
    """Temperature, margin and status of every place in every workload: what the logbook shows."""
    if not document.workloads:
        return {"workloads": []}
    prediction = predict(document)
    return {
        "workloads": [
            {
                "workload": w.workload,
                "name": w.name,
                "sound_dba": w.sound.total_dba,
                "no_state": None if w.no_state is None else w.no_state.what,
                "places": [
                    {key: getattr(place, key) for key in ("address", "name", "temperature_c", "margin_k", "status")}
                    for place in w.places
                ],
            }
            for w in prediction.workloads
        ]
    }


def copy_build(user: User, build_id: uuid.UUID, name: str) -> Build:
    """A build of one's own with the draft of another in it; the other's revisions and runs stay where they are."""
    build = build_for(user, build_id)
    document = json.loads(build.text)
    return create_build(user, reading.read_object(document | {"name": name}), f"copied {build.name}")


@transaction.atomic
def rename_build(user: User, build_id: uuid.UUID, name: str) -> Build:
    """Give the draft another name: a change like any other, which can be undone."""
    build = build_for(user, build_id, "editor", lock=True)
    document = reading.read_object(json.loads(build.text) | {"name": name})
    return _changed(user, build, document, f"rename to {name}", merge=False)


@transaction.atomic
def archive_build(user: User, build_id: uuid.UUID, *, archived: bool) -> Build:
    """Put a build out of sight, or back."""
    build = build_for(user, build_id, "owner", lock=True)
    build.archived = timezone.now() if archived else None
    build.save(update_fields=["archived"])
    note(build, user, "archived it" if archived else "brought it back from the archive")
    return build


def _mattered(last: Revision | None, document: Document) -> dict[str, Any] | None:
    """What the changes since the last revision did in kelvins."""
    if last is None:
        return None
    try:
        found = what_mattered(reading.read_text(last.text), document)
    except KrillError:  # a revision of old that today's checks refuse
        return None
    return None if found is None else asdict(found)


@transaction.atomic
def delete_build(user: User, build_id: uuid.UUID) -> None:
    """Out of every list at once; gone for good some time later, until when it can be brought back."""
    build = build_for(user, build_id, "owner", lock=True)
    now = timezone.now()
    build.deleted = now
    build.save(update_fields=["deleted"])
    note(build, user, "deleted it")
    Build.objects.filter(deleted__lt=now - KEPT_AFTER_DELETING).delete()


@transaction.atomic
def restore_build(user: User, build_id: uuid.UUID) -> Build:
    """Bring a build back that its owner deleted."""
    build = Build.objects.select_for_update().filter(pk=build_id, owner=user).first()
    if build is None:
        raise ApiFault(404, f"builds/{build_id}", "there is no such build")
    build.deleted = None
    build.save(update_fields=["deleted"])
    note(build, user, "brought it back")
    return build


@transaction.atomic
def grant(user: User, build_id: uuid.UUID, username: str, role: str | None) -> None:
    """Give or (with None) take a role; nothing tells whether there is somebody of that name."""
    build = build_for(user, build_id, "owner", lock=True)
    if username == user.username:
        raise ApiFault(422, "username", "is you", "the name of somebody else")
    if role is None:
        build.access.filter(name=username).delete()
    elif build.access.exclude(name=username).count() >= MAX_SHARED:
        raise ApiFault(422, "access", "shared with too many", f"up to {MAX_SHARED}; share it with a group")
    else:
        other = User.objects.filter(username=username).first()
        Access.objects.update_or_create(build=build, name=username, defaults={"user": other, "role": role})
    note(build, user, f"shared with {username} as {role}" if role else f"no longer shared with {username}")


@transaction.atomic
def grant_group(user: User, build_id: uuid.UUID, name: str, role: str | None) -> None:
    """Give or (with None) take a role of one of one's own groups."""
    build = build_for(user, build_id, "owner", lock=True)
    group = user.groups.filter(name=name).first()
    if group is None and role is not None:
        raise ApiFault(422, "group", f"'{name}' is no group of yours", "a group that you are in")
    if role is None:
        build.group_access.filter(group__name=name).delete()
    else:
        GroupAccess.objects.update_or_create(build=build, group=group, defaults={"role": role})
    note(build, user, f"shared with the group {name} as {role}" if role else f"no longer shared with the group {name}")


@transaction.atomic
def set_template(user: User, build_id: uuid.UUID, *, template: bool) -> None:
    """Everybody may copy a template, and nobody changes it until it is none any more."""
    build = build_for(user, build_id, "owner", lock=True)
    if (build.template is not None) == template:
        return
    build.template = timezone.now() if template else None
    build.save(update_fields=["template"])
    note(build, user, "made it a template" if template else "took it off the templates")


@transaction.atomic
def offer(user: User, build_id: uuid.UUID, username: str) -> None:
    """Offer a build to somebody, who owns it once they take it; an empty name takes the offer back."""
    build = build_for(user, build_id, "owner", lock=True)
    if username == user.username:
        raise ApiFault(422, "username", "is you", "the name of somebody else")
    build.offered_name = username
    build.offered_to = User.objects.filter(username=username, is_active=True).first() if username else None
    build.save(update_fields=["offered_name", "offered_to"])
    note(build, user, f"offered to {username}" if username else "took the offer back")


@transaction.atomic
def take_over(user: User, build_id: uuid.UUID) -> Build:
    """Own what was offered; who owned it before may go on editing."""
    build = _offered(user, build_id)
    must_have_room(user)
    Access.objects.filter(build=build, user=user).delete()
    Access.objects.update_or_create(
        build=build, name=build.owner.username, defaults={"user": build.owner, "role": "editor"}
    )
    _pass_to(user, build)
    note(build, user, "took it over")
    return build


@transaction.atomic
def decline(user: User, build_id: uuid.UUID) -> None:
    """Leave what was offered to whom it belongs."""
    build = _offered(user, build_id)
    build.offered_name, build.offered_to = "", None
    build.save(update_fields=["offered_name", "offered_to"])
    note(build, user, "declined it")


@transaction.atomic
def pass_all_on(giver: User, taker: User) -> int:
    """Every build of somebody to somebody else, as an administrator does who looks after a person that has left."""
    builds = list(Build.objects.select_for_update().filter(owner=giver))
    for build in builds:
        Access.objects.filter(build=build, user=taker).delete()
        _pass_to(taker, build)
        note(build, giver, f"passed on to {taker.username} by an administrator")
    return len(builds)


def _offered(user: User, build_id: uuid.UUID) -> Build:
    build = Build.objects.select_for_update().filter(pk=build_id, offered_to=user, deleted=None).first()
    if build is None:
        raise ApiFault(404, f"builds/{build_id}", "there is no such offer")
    return build


def _pass_to(user: User, build: Build) -> None:
    build.owner, build.offered_name, build.offered_to = user, "", None
    build.save(update_fields=["owner", "offered_name", "offered_to"])
