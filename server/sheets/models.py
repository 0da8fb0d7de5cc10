"""Marks beside a build: appended, never changed; what stands is the newest of each thing."""

from django.contrib.auth.models import User
from django.db import models

from builds.models import Build


class Mark(models.Model):
    """Somebody ticked, timed, read or noted something. ``key`` is made where it was done: sent again it does nothing."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="marks")
    key = models.CharField(max_length=40)
    about = models.CharField(max_length=140)  # a step, gate, fill step, due, caution, suspect or part
    kind = models.CharField(max_length=10)
    word = models.CharField(max_length=500, blank=True)
    minutes = models.FloatField(null=True)
    at = models.DateTimeField()
    who = models.CharField(max_length=150)
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)

    class Meta:
        ordering = ["at", "pk"]
        constraints = [models.UniqueConstraint(fields=["build", "key"], name="one_mark_a_key")]

    def __str__(self) -> str:
        return f"{self.who} {self.kind} {self.about}"


class StepPicture(models.Model):
    """A picture of a step of the work: what will be hidden later, pins noted, how a hose lies."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="step_pictures")
    about = models.CharField(max_length=140)
    sha256 = models.CharField(max_length=64)
    media_type = models.CharField(max_length=20)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    data = models.BinaryField()
    at = models.DateTimeField()
    who = models.CharField(max_length=150)

    class Meta:
        ordering = ["at", "pk"]
        constraints = [models.UniqueConstraint(fields=["build", "about", "sha256"], name="one_picture_a_step")]

    def __str__(self) -> str:
        return f"{self.sha256[:8]} of {self.about}"
