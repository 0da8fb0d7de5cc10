"""Reads of the shelf."""

from django.contrib.auth.models import User
from django.db.models import QuerySet

from shelf.models import Item


def own_items(user: User) -> QuerySet[Item]:
    """What somebody keeps, with the groups that each is shown to."""
    return Item.objects.filter(owner=user).prefetch_related("groups")


def shown_items(user: User) -> QuerySet[Item]:
    """What others show to somebody's groups."""
    others = Item.objects.filter(groups__user=user).exclude(owner=user).distinct()
    return others.select_related("owner").prefetch_related("groups")
