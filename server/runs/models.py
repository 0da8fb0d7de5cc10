"""Runs: what was measured of a revision. The original file is kept byte for byte in the same database."""

import uuid

from django.contrib.auth.models import User
from django.db import models

from builds.models import Build, Revision


class Run(models.Model):
    KINDS = [("log", "log"), ("readings", "readings")]
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="runs")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="runs")
    workload = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=10, choices=KINDS)
    room_start_c = models.FloatField(null=True)
    room_end_c = models.FloatField(null=True)
    overrides = models.JSONField(default=dict)
    note = models.TextField(blank=True)
    author = models.ForeignKey(User, on_delete=models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]

    def __str__(self) -> str:
        return self.name


class OriginalBlock(models.Model):
    """The file as it came, in blocks of at most 1 MB."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="blocks")
    sequence = models.PositiveIntegerField()
    data = models.BinaryField()

    class Meta:
        ordering = ["sequence"]
        constraints = [models.UniqueConstraint(fields=["run", "sequence"], name="one_block_a_sequence")]

    def __str__(self) -> str:
        return f"block {self.sequence}"


class Stream(models.Model):
    """Channels on one clock: a UTC start where it is known, plus seconds."""

    run = models.OneToOneField(Run, on_delete=models.CASCADE, related_name="stream")
    start_utc = models.DateTimeField(null=True)
    rows = models.PositiveIntegerField()
    report = models.JSONField(default=dict)
    file_name = models.CharField(max_length=200, blank=True)
    window = models.JSONField(null=True)  # [first, last] row where a person chose it

    def __str__(self) -> str:
        return f"{self.rows} rows"


class Channel(models.Model):
    """One column; ``role`` is address/statistic, "time" for the clock, "ignore" for what nobody needs."""

    stream = models.ForeignKey(Stream, on_delete=models.CASCADE, related_name="channels")
    index = models.IntegerField()
    name = models.CharField(max_length=200)
    unit = models.CharField(max_length=40, blank=True)
    role = models.CharField(max_length=160)
    sure = models.BooleanField(default=False)

    class Meta:
        ordering = ["index"]
        constraints = [models.UniqueConstraint(fields=["stream", "index"], name="one_channel_an_index")]

    def __str__(self) -> str:
        return self.name


class Chunk(models.Model):
    """4 096 values, little-endian float64, NaN missing; the pyramid holds min, mean, max of each 256."""

    channel = models.ForeignKey(Channel, on_delete=models.CASCADE, related_name="chunks")
    sequence = models.PositiveIntegerField()
    data = models.BinaryField()
    pyramid = models.BinaryField()

    class Meta:
        ordering = ["sequence"]
        constraints = [models.UniqueConstraint(fields=["channel", "sequence"], name="one_chunk_a_sequence")]

    def __str__(self) -> str:
        return f"chunk {self.sequence}"


class Reading(models.Model):
    """A figure that a person read off: when, of what, which kind, load on or ended."""

    KINDS = [("now", "now"), ("highest", "highest shown"), ("mean", "mean")]
    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="readings")
    minute = models.FloatField()
    role = models.CharField(max_length=160)
    kind = models.CharField(max_length=10, choices=KINDS)
    value = models.FloatField()
    load_on = models.BooleanField(default=True)

    class Meta:
        ordering = ["minute", "id"]

    def __str__(self) -> str:
        return f"{self.role} {self.value}"
