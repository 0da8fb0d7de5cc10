"""Builds: one draft with its edit log, immutable revisions, and who may do what."""

import uuid
from typing import Any

from django.contrib.auth.models import User
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


class Access(models.Model):
    """What somebody else than the owner may do."""

    ROLES = [("editor", "editor"), ("reader", "reader")]
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="access")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="access")
    role = models.CharField(max_length=10, choices=ROLES)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["build", "user"], name="one_role_each")]

    def __str__(self) -> str:
        return f"{self.user_id} {self.role} {self.build_id}"


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
