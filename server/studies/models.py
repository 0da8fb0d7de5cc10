"""Studies: a question put to a build as it stood, and what is solved of it so far."""

import uuid

from django.contrib.auth.models import User
from django.db import models

from builds.models import Build


class Study(models.Model):
    STATES = [(state, state) for state in ("waiting", "running", "done", "failed", "cancelled")]
    OPEN = ("waiting", "running")

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="studies")
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    name = models.CharField(max_length=120, blank=True)
    text = models.TextField()  # the document that is asked about, as it stood
    sha256 = models.CharField(max_length=64)
    question = models.JSONField()
    core_version = models.CharField(max_length=20)
    state = models.CharField(max_length=10, choices=STATES, default="waiting")
    size = models.PositiveIntegerField()
    solved = models.PositiveIntegerField(default=0)
    failure = models.CharField(max_length=500, blank=True)
    result = models.JSONField(null=True)
    created = models.DateTimeField(auto_now_add=True)
    started = models.DateTimeField(null=True)
    finished = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return self.name or f"study of {self.size}"


class SolvedChunk(models.Model):
    """Figures of some candidates, kept as soon as they are solved: whoever goes on does not solve them again."""

    study = models.ForeignKey(Study, on_delete=models.CASCADE, related_name="chunks")
    position = models.PositiveIntegerField()
    columns = models.JSONField()

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["study", "position"], name="one_chunk_a_position")]

    def __str__(self) -> str:
        return f"chunk {self.position} of {self.study_id}"
