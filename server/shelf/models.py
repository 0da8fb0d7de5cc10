"""A person's parts shelf."""

import uuid

from django.contrib.auth.models import Group, User
from django.db import models


class Item(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="shelf")
    slug = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=20)
    version = models.PositiveIntegerField(default=1)
    text = models.TextField()  # the item as JSON, as it was accepted
    groups = models.ManyToManyField(Group, blank=True, related_name="shelf")  # whose members see it too
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["kind", "name"]
        constraints = [models.UniqueConstraint(fields=["owner", "slug"], name="one_item_of_a_slug")]

    def __str__(self) -> str:
        return f"{self.kind} {self.name}"
