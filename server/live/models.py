"""Live runs: what a logger sends while a test goes on. A run that is ended becomes a run with a log like any other."""

import uuid

from django.contrib.auth.models import User
from django.db import models

from builds.models import Build, Revision
from runs.models import Run


class LiveRun(models.Model):
    """One test of a revision under a load; ``token_sha256`` lets one logger in and can be made anew.

    ``practice`` says what the simulated bench runs and what guesses were made, where it is one.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="live_runs")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="live_runs")
    workload = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    room_c = models.FloatField(null=True)
    minutes = models.FloatField()
    token_sha256 = models.CharField(max_length=64)
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)
    ended = models.DateTimeField(null=True)
    run = models.OneToOneField(Run, on_delete=models.SET_NULL, null=True, related_name="live_run")
    practice = models.JSONField(null=True)

    class Meta:
        ordering = ["created"]

    def __str__(self) -> str:
        return self.name


class LiveSession(models.Model):
    """A logger from its start to its end; ``offset_s`` added to its steady clock gives the run's."""

    live = models.ForeignKey(LiveRun, on_delete=models.CASCADE, related_name="sessions")
    key = models.CharField(max_length=40)
    channels = models.JSONField()
    interval_s = models.FloatField()
    offset_s = models.FloatField()

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["live", "key"], name="one_session_a_key")]

    def __str__(self) -> str:
        return self.key


class LiveBatch(models.Model):
    """Rows as they came: little-endian float64, (row, 1 + channel) with the steady seconds first, NaN missing.

    ``times`` are the steady seconds alone; ``thin`` holds the first row of every other second, for drawing and watching.
    """

    session = models.ForeignKey(LiveSession, on_delete=models.CASCADE, related_name="batches")
    sequence = models.PositiveIntegerField()
    arrived = models.DateTimeField()
    clock_s = models.FloatField()
    steady_s = models.FloatField()
    rows = models.PositiveIntegerField()
    times = models.BinaryField()
    data = models.BinaryField()
    thin = models.BinaryField()

    class Meta:
        ordering = ["session_id", "sequence"]
        constraints = [models.UniqueConstraint(fields=["session", "sequence"], name="one_batch_a_sequence")]

    def __str__(self) -> str:
        return f"batch {self.sequence}"
