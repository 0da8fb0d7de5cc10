"""Reads of builds, with permission: a stranger does not even learn that a build exists."""

import uuid
from typing import Any, Literal

from django.contrib.auth.models import User
from django.db.models import Count, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce

from builds.models import Access, Build, Revision
from wire.faults import ApiFault

Need = Literal["reader", "editor", "owner"]
_RANK = {"reader": 1, "editor": 2, "owner": 3}


def builds_of(user: User) -> QuerySet[Build]:
    """Own builds and shared ones that are not deleted, newest first."""
    seen = Build.objects.filter(Q(owner=user) | Q(access__user=user), deleted=None)
    return seen.distinct().select_related("owner")


def cards_of(user: User) -> list[dict[str, Any]]:
    """A line per build for the home page: one query, however many builds there are. A card is the last that was asked for."""
    granted = Access.objects.filter(build=OuterRef("pk"), user=user).values("role")
    kept = Revision.objects.filter(build=OuterRef("pk")).values("build").annotate(count=Count("pk")).values("count")
    rows = builds_of(user).defer("text").annotate(granted=Subquery(granted), kept=Coalesce(Subquery(kept), 0))
    return [
        {
            "id": build.pk,
            "name": build.name,
            "owner": build.owner.username,
            "role": "owner" if build.owner_id == user.pk else build.granted,
            "updated": build.updated,
            "revisions": build.kept,
            "archived": build.archived is not None,
            "card": build.fresh_card,
        }
        for build in rows
    ]


def role_in(user: User, build: Build) -> str | None:
    if build.owner_id == user.pk:
        return "owner"
    access = build.access.filter(user=user).first()
    return access.role if access else None


def build_for(user: User, build_id: uuid.UUID, need: Need = "reader", *, lock: bool = False) -> Build:
    """The build if the user may do what is needed: 404 for strangers, 403 for too low a role."""
    rows = Build.objects.select_for_update() if lock else Build.objects
    build = rows.filter(pk=build_id, deleted=None).first()
    role = role_in(user, build) if build else None
    if build is None or role is None:
        raise ApiFault(404, f"builds/{build_id}", "there is no such build")
    if _RANK[role] < _RANK[need]:
        raise ApiFault(403, f"builds/{build_id}", f"a {role} may not do this", f"{need} and above")
    return build


def find(user: User, text: str) -> set[uuid.UUID]:
    """Builds whose name, parts, notes, revisions or runs say a text."""
    says = (
        Q(name__icontains=text)
        | Q(text__icontains=text)
        | Q(revisions__why__icontains=text)
        | Q(runs__name__icontains=text)
        | Q(runs__note__icontains=text)
    )
    return set(builds_of(user).filter(says).values_list("pk", flat=True))


def revision_of(build: Build, number: int) -> Revision:
    revision = build.revisions.filter(number=number).first()
    if revision is None:
        raise ApiFault(404, f"revisions/{number}", "there is no such revision", f"1 to {build.revisions.count()}")
    return revision
