"""Reads of builds, with permission: a stranger does not even learn that a build exists."""

import uuid
from typing import Any, Literal

from django.contrib.auth.models import User
from django.db.models import Count, OuterRef, Q, QuerySet, Subquery
from django.db.models.functions import Coalesce

from builds.models import Access, Build, GroupAccess, Revision
from wire.faults import ApiFault

Need = Literal["reader", "editor", "owner"]
_RANK = {"reader": 1, "editor": 2, "owner": 3}


def builds_of(user: User) -> QuerySet[Build]:
    """Own builds and shared ones that are not deleted, newest first."""
    through_a_group = GroupAccess.objects.filter(group__user=user).values("build")
    granted = Access.objects.filter(user=user).values("build")
    seen = Build.objects.filter(Q(owner=user) | Q(pk__in=granted) | Q(pk__in=through_a_group), deleted=None)
    return seen.select_related("owner")


def cards_of(user: User) -> list[dict[str, Any]]:
    """A line per build for the home page: one query, however many builds there are. A card is the last that was asked for."""
    granted = Access.objects.filter(build=OuterRef("pk"), user=user).values("role")
    of_group = GroupAccess.objects.filter(build=OuterRef("pk"), group__user=user).order_by("role").values("role")[:1]
    kept = Revision.objects.filter(build=OuterRef("pk")).values("build").annotate(count=Count("pk")).values("count")
    rows = builds_of(user).defer("text")
    told = rows.annotate(granted=Subquery(granted), of_group=Subquery(of_group), kept=Coalesce(Subquery(kept), 0))
    return [
        {
            "id": build.pk,
            "name": build.name,
            "owner": build.owner.username,
            "role": "owner" if build.owner_id == user.pk else _higher(build.granted, build.of_group),
            "updated": build.updated,
            "revisions": build.kept,
            "archived": build.archived is not None,
            "template": build.template is not None,
            "card": build.fresh_card,
        }
        for build in told
    ]


def _higher(*roles: str | None) -> str:
    return max((role for role in roles if role), key=lambda role: _RANK[role])


def role_in(user: User, build: Build) -> str | None:
    if build.owner_id == user.pk:
        return "owner"
    roles = [
        *build.access.filter(user=user).values_list("role", flat=True),
        *build.group_access.filter(group__user=user).values_list("role", flat=True),
        *(["reader"] if build.template is not None else []),
    ]
    return _higher(*roles) if roles else None


def templates() -> QuerySet[Build]:
    """Builds that everybody may begin with."""
    return Build.objects.filter(deleted=None).exclude(template=None).select_related("owner").order_by("name")


def offered_to(user: User) -> QuerySet[Build]:
    """Builds that their owners would pass on to somebody."""
    return Build.objects.filter(offered_to=user, deleted=None).select_related("owner")


def build_for(user: User, build_id: uuid.UUID, need: Need = "reader", *, lock: bool = False) -> Build:
    """The build if the user may do what is needed: 404 for strangers, 403 for too low a role."""
    rows = Build.objects.select_for_update() if lock else Build.objects
    build = rows.filter(pk=build_id, deleted=None).first()
    role = role_in(user, build) if build else None
    if build is None or role is None:
        raise ApiFault(404, f"builds/{build_id}", "there is no such build")
    if _RANK[role] < _RANK[need]:
        raise ApiFault(403, f"builds/{build_id}", f"a {role} may not do this", f"{need} and above")
    if need == "editor" and build.template is not None:
        raise ApiFault(403, f"builds/{build_id}", "a template is not changed", "copy it, or take it off the templates")
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
