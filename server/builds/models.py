"""Builds: one draft with its edit log, immutable revisions, and who may do what."""

import uuid
from typing import Any

from django.contrib.auth.models import Group, User
from django.db import models

from krill import CORE_VERSION


class Build(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="builds")
    name = models.CharField(max_length=120)
    text = models.TextField()  # canonical text of the draft
    sha256 = models.CharField(max_length=64)
    sequence = models.PositiveIntegerField(default=0)
    created = models.DateTimeField(auto_now_add=True)
    updated = models.DateTimeField(auto_now=True)
    archived = models.DateTimeField(null=True)
    deleted = models.DateTimeField(null=True)  # can be brought back until it is purged
    template = models.DateTimeField(null=True)  # since when everybody may copy it and nobody changes it
    offered_name = models.CharField(max_length=150, blank=True)  # who may take it over, as it was typed
    offered_to = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="offered")
    card = models.JSONField(null=True)
    card_of = models.CharField(max_length=90, blank=True)  # state of the draft and version of the core that it is of

    class Meta:
        ordering = ["-updated"]

    def __str__(self) -> str:
        return self.name

    @property
    def card_state(self) -> str:
        """What a card has to be of, to be one of the draft as it stands."""
        return f"{self.sha256} {CORE_VERSION}"

    @property
    def fresh_card(self) -> dict[str, Any] | None:
        """The card of the draft as it stands; None where it has not been computed."""
        found: dict[str, Any] | None = self.card
        return found if self.card_of == self.card_state else None


ROLES = [("editor", "editor"), ("reader", "reader")]


class Access(models.Model):
    """What somebody else than the owner may do; a name that is nobody's stands there all the same, and does nothing."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="access")
    name = models.CharField(max_length=150)
    user = models.ForeignKey(User, on_delete=models.CASCADE, null=True, related_name="access")
    role = models.CharField(max_length=10, choices=ROLES)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["build", "name"], name="one_role_each")]

    def __str__(self) -> str:
        return f"{self.name} {self.role} {self.build_id}"


class GroupAccess(models.Model):
    """What the members of a group may do."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="group_access")
    group = models.ForeignKey(Group, on_delete=models.CASCADE, related_name="builds")
    role = models.CharField(max_length=10, choices=ROLES)

    class Meta:
        ordering = ["group__name"]
        constraints = [models.UniqueConstraint(fields=["build", "group"], name="one_role_a_group")]

    def __str__(self) -> str:
        return f"{self.group_id} {self.role} {self.build_id}"


class Event(models.Model):
    """Who did what with a build, and when; kept as long as the build, though its edits are not."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="events")
    at = models.DateTimeField(auto_now_add=True)
    who = models.CharField(max_length=150)
    did = models.CharField(max_length=300)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.who} {self.did}"


class Edit(models.Model):
    """One change of the draft as JSON Patch, both ways; ``undone`` ones can be done again."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="edits")
    position = models.PositiveIntegerField()
    forward = models.JSONField()
    reverse = models.JSONField()
    label = models.CharField(max_length=200, blank=True)
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    undone = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["build", "position"], name="one_edit_a_position")]

    def __str__(self) -> str:
        return self.label or f"edit {self.position}"


class Revision(models.Model):
    """An immutable state of the document with why it was kept and what was predicted of it."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", on_delete=models.SET_NULL, null=True)
    text = models.TextField()
    sha256 = models.CharField(max_length=64)
    why = models.CharField(max_length=300)
    summary = models.JSONField()
    core_version = models.CharField(max_length=20)
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["build", "number"], name="one_revision_a_number")]

    def __str__(self) -> str:
        return f"revision {self.number}"
