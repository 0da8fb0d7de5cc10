"""Links that let somebody in once, and who is signed in where. People and groups themselves are Django's."""

import uuid

from django.contrib.auth.models import Group, User
from django.db import models


class OneTimeLink(models.Model):
    """An invitation, or with ``person`` a new password for somebody; of its token only a hash is kept."""

    token_sha256 = models.CharField(max_length=64, unique=True)
    person = models.ForeignKey(User, on_delete=models.CASCADE, null=True, related_name="links")
    note = models.CharField(max_length=120, blank=True)  # for whom, in the words of who made it
    groups = models.ManyToManyField(Group, blank=True)
    made_by = models.ForeignKey(User, on_delete=models.SET_NULL, null=True, related_name="+")
    made = models.DateTimeField(auto_now_add=True)
    ends = models.DateTimeField()
    taken = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-made"]

    def __str__(self) -> str:
        return self.note or (self.person.username if self.person else "invitation")


class SignedIn(models.Model):
    """A session of somebody: since when, seen when, from where; its key is told to nobody."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    key = models.CharField(max_length=40, unique=True)
    person = models.ForeignKey(User, on_delete=models.CASCADE, related_name="signed_in")
    began = models.DateTimeField(auto_now_add=True)
    seen = models.DateTimeField()
    address = models.CharField(max_length=45, blank=True)
    browser = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["-seen"]

    def __str__(self) -> str:
        return f"{self.person_id} from {self.address}"
