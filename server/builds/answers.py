"""Builds as they go over the wire."""

import json
from collections.abc import Iterator
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpResponse

from builds.actions import PatchedDraft, StaleSave
from builds.changes import changes_between
from builds.models import Build, Revision
from builds.queries import role_in
from builds.schemas import Asked, OutlookIn
from krill.document.reading import read_text, write_object
from krill.errors import KrillError
from krill.prediction.answer.result import Prediction
from krill.prediction.predict import predict
from krill.sizing.outlook import bands_and_changes
from wire.faults import Fault, faults_of, problem
from wire.turns import worked_out


def standing(user: User, build: Build) -> dict[str, Any]:
    """A draft without its document: what can be undone and how it stands to its last revision."""
    undo, redo = build.edits.filter(undone=False).last(), build.edits.filter(undone=True).first()
    revision = build.revisions.last()
    return {
        "id": build.pk,
        "name": build.name,
        "owner": user.username if build.owner_id == user.pk else build.owner.username,
        "role": role_in(user, build) or "",
        "template": build.template is not None,
        "sequence": build.sequence,
        "sha256": build.sha256,
        "undo": (undo.label or "change") if undo else None,
        "redo": (redo.label or "change") if redo else None,
        "revision": revision.number if revision else None,
        "revision_why": revision.why if revision else None,
        "changed": revision is None or revision.sha256 != build.sha256,
    }


def build_out(user: User, build: Build) -> dict[str, Any]:
    """A draft with its document."""
    return standing(user, build) | {"document": json.loads(build.text)}


def patched_out(user: User, draft: PatchedDraft, asked: Asked | None) -> dict[str, Any]:
    """A draft after a patch with the central figures that were asked, or why there are none."""
    prediction, unsolved = None, list[Fault]()
    if asked is not None:
        try:
            prediction = predict(draft.document, [asked.workload], asked.room_c, samples=0)
        except KrillError as error:
            unsolved = faults_of(error)
    document = None if draft.as_sent else json.loads(draft.build.text)
    return standing(user, draft.build) | {"document": document, "prediction": prediction, "unsolved": unsolved}


def outlook(build: Build, asked: OutlookIn) -> dict[str, Any]:
    """Bands of a draft and its quick next changes, for a place or for the tightest one by the bands; none without places."""
    if asked.sequence not in (None, build.sequence):
        return {"sequence": build.sequence, "bands": None, "changes": None}
    document = read_text(build.text)
    bands, changes = worked_out(bands_and_changes, document, asked.workload, asked.place, asked.room_c, asked.samples)
    return {"sequence": build.sequence, "bands": bands, "changes": changes}


def conflict(user: User, stale: StaleSave) -> HttpResponse:
    """409: what is stored and what was sent, for the person to choose."""
    fault = Fault(
        where="base",
        what=f"the draft is at {stale.build.sequence}, yours is older",
        allowed="take theirs, or save yours on top of it",
    )
    shown = None if stale.sent is None else write_object(stale.sent)
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


def prediction_rows(prediction: Prediction) -> Iterator[tuple[Any, ...]]:
    """A forecast as a table: one row a place and workload."""
    yield (
        "workload",
        "room_c",
        "address",
        "name",
        "temperature_c",
        "low_c",
        "high_c",
        "limit_c",
        "margin_k",
        "status",
        "certifies",
    )
    for workload in prediction.workloads:
        for place in workload.places:
            low, high = (None, None) if place.band_c is None else (place.band_c.low, place.band_c.high)
            yield (
                workload.workload,
                workload.room_c,
                place.address,
                place.name,
                round(place.temperature_c, 2),
                low,
                high,
                place.limit_c,
                place.margin_k,
                place.status,
                prediction.certifies,
            )
