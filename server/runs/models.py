"""Runs: what was measured of a revision. The original file is kept byte for byte in the same database."""

import uuid

from django.contrib.auth.models import User
from django.db import models

from builds.models import Build, Revision


class Run(models.Model):
    """``text`` is the run's file, the one truth; name, note and workload stand beside it for lists and search."""

    KINDS = [("log", "log"), ("readings", "readings"), ("claim", "claim")]
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="runs")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="runs")
    workload = models.CharField(max_length=64)
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=10, choices=KINDS)
    note = models.TextField(blank=True)
    text = models.TextField()
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


class PictureBlock(models.Model):
    """A picture of a run, named in its file by hash, in blocks of at most 1 MB."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="picture_blocks")
    sha256 = models.CharField(max_length=64)
    sequence = models.PositiveIntegerField()
    data = models.BinaryField()

    class Meta:
        ordering = ["sequence"]
        constraints = [
            models.UniqueConstraint(fields=["run", "sha256", "sequence"], name="one_picture_block_a_sequence")
        ]

    def __str__(self) -> str:
        return f"{self.sha256[:8]}, block {self.sequence}"


class Stream(models.Model):
    """Channels on one clock: a UTC start where it is known, plus seconds; ``layout`` is the same for logs of one logger."""

    run = models.OneToOneField(Run, on_delete=models.CASCADE, related_name="stream")
    start_utc = models.DateTimeField(null=True)
    rows = models.PositiveIntegerField()
    report = models.JSONField(default=dict)
    layout = models.CharField(max_length=64, blank=True)
    file_name = models.CharField(max_length=200, blank=True)

    def __str__(self) -> str:
        return f"{self.rows} rows"


class Channel(models.Model):
    """One column; ``role`` is address/statistic, "time" for the clock, "ignore" for what nobody needs.

    ``reason`` says why it was taken so; ``asked`` that nothing tells what its figures are.
    """

    stream = models.ForeignKey(Stream, on_delete=models.CASCADE, related_name="channels")
    index = models.IntegerField()
    name = models.CharField(max_length=200)
    unit = models.CharField(max_length=40, blank=True)
    role = models.CharField(max_length=160)
    sure = models.BooleanField(default=False)
    reason = models.CharField(max_length=300, blank=True)
    asked = models.BooleanField(default=False)

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


class KnownLayout(models.Model):
    """What somebody said of a logger's channels, by their names: roles and units, for the next log of the same layout."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="layouts")
    layout = models.CharField(max_length=64)
    roles = models.JSONField(default=dict)
    units = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "layout"], name="one_layout_a_user")]

    def __str__(self) -> str:
        return self.layout[:8]


class KeptAnswer(models.Model):
    """An answer about a run with a hash of all that it was made from: documents, roles, the question, Krill itself."""

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="answers")
    made_from = models.CharField(max_length=64)
    answer = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["run", "made_from"], name="one_answer_of_one_making")]

    def __str__(self) -> str:
        return self.made_from[:8]


class DemoLoaded(models.Model):
    """A build of the demo that was loaded once: one that was deleted, or has another name now, is not loaded again."""

    name = models.CharField(max_length=120, unique=True)

    def __str__(self) -> str:
        return self.name
