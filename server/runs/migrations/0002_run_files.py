import json

import django.db.models.deletion
from django.db import migrations, models


def _file_of(run, stream):
    """The run as a file, from the columns and rows that it was kept in."""
    window = {"workload": run.workload}
    if stream is not None and stream.window:
        clock = stream.channels.get(role="time")
        import numpy as np

        data = b"".join(bytes(chunk.data) for chunk in clock.chunks.order_by("sequence"))
        seconds = np.frombuffer(data, dtype="<f8")
        window |= {"start_s": float(seconds[stream.window[0]]), "end_s": float(seconds[stream.window[1]])}
    room = {"start_c": run.room_start_c, "end_c": run.room_end_c}
    found = {
        "format": "krill-run",
        "version": 1,
        "name": run.name,
        "kind": run.kind,
        "revision": run.revision.number,
        "note": run.note,
        "windows": [window],
        "room": {key: value for key, value in room.items() if value is not None},
    }
    if run.kind == "readings":
        found["readings"] = [
            {"minute": r.minute, "role": r.role, "kind": r.kind, "value": r.value, "load_on": r.load_on}
            for r in run.readings.order_by("minute", "id")
        ]
    return json.dumps(found, indent=2) + "\n"


def to_files(apps, _):
    Run = apps.get_model("runs", "Run")
    Stream = apps.get_model("runs", "Stream")
    for run in Run.objects.select_related("revision"):
        stream = Stream.objects.filter(run=run).first()
        run.text = _file_of(run, stream)
        run.save(update_fields=["text"])


class Migration(migrations.Migration):
    dependencies = [("runs", "0001_initial")]

    operations = [
        migrations.AddField("run", "text", models.TextField(default=""), preserve_default=False),
        migrations.AlterField(
            "run",
            "kind",
            models.CharField(choices=[("log", "log"), ("readings", "readings"), ("claim", "claim")], max_length=10),
        ),
        migrations.RunPython(to_files, migrations.RunPython.noop),
        migrations.RemoveField("run", "room_start_c"),
        migrations.RemoveField("run", "room_end_c"),
        migrations.RemoveField("run", "overrides"),
        migrations.RemoveField("stream", "window"),
        migrations.DeleteModel("Reading"),
        migrations.CreateModel(
            name="KeptAnswer",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("made_from", models.CharField(max_length=64)),
                ("answer", models.JSONField()),
                ("created", models.DateTimeField(auto_now_add=True)),
                (
                    "run",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="answers", to="runs.run"
                    ),
                ),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("run", "made_from"), name="one_answer_of_one_making")]
            },
        ),
    ]
