"""Builds as they go over the wire."""

import json
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpResponse

from builds.actions import StaleSave
from builds.changes import changes_between
from builds.models import Build, Revision
from builds.queries import role_in
from krill.document.build import Build as Document
from krill.document.reading import write_object
from wire.faults import Fault, problem


def build_out(user: User, build: Build) -> dict[str, Any]:
    """A draft with what can be undone and how it stands to its last revision."""
    undo, redo = build.edits.filter(undone=False).last(), build.edits.filter(undone=True).first()
    revision = build.revisions.last()
    return {
        "id": build.pk,
        "name": build.name,
        "owner": build.owner.username,
        "role": role_in(user, build) or "",
        "sequence": build.sequence,
        "sha256": build.sha256,
        "document": json.loads(build.text),
        "undo": (undo.label or "change") if undo else None,
        "redo": (redo.label or "change") if redo else None,
        "revision": revision.number if revision else None,
        "revision_why": revision.why if revision else None,
        "changed": revision is None or revision.sha256 != build.sha256,
    }


def conflict(user: User, stale: StaleSave, yours: Document | None) -> HttpResponse:
    """409: what is stored and what was sent, for the person to choose."""
    fault = Fault(
        where="base",
        what=f"the draft is at {stale.build.sequence}, yours is older",
        allowed="take theirs, or save yours on top of it",
    )
    shown = None if yours is None else write_object(yours)
    return problem(409, [fault], stored=build_out(user, stale.build), yours=shown)


def revision_out(revision: Revision) -> dict[str, Any]:
    """A revision with what changed since the one before."""
    return {
        "number": revision.number,
        "why": revision.why,
        "author": revision.author.username if revision.author else "",
        "created": revision.created,
        "sha256": revision.sha256,
        "core_version": revision.core_version,
        "summary": revision.summary,
        "changes": changes_between(revision.parent.text if revision.parent else None, revision.text),
    }
