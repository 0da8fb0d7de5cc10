"""Runs as open files, whole builds as archives, what runs teach, tables of runs."""

import gzip
import io
import json
import zipfile

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from builds.models import Build
from krill.document.reading import read_text
from krill.recipes.water_loop import water_loop
from krill.runs.run_document import read_run
from krill.simulated_bench.bench import BenchPlan, run_bench
from runs.models import Run

CORE = "processor-core/temperature"


@pytest.fixture(scope="module")
def logged():
    """A log of the machine of two chips on the bench."""
    plan = BenchPlan("both", 24.0, load_min=25, lead_in_min=3, after_min=2, step_s=5.0, seed=4)
    return run_bench(water_loop(125, 220, 30, 24, "Bench build"), plan).csv().encode()


def keep(client, build, **more):
    readings = [{"minute": 60, "role": CORE, "value": 75}]
    body = {"workload": "both", "readings": readings, "room_start_c": 24, "room_end_c": 24} | more
    answer = client.post(f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json")
    assert answer.status_code == 201, answer.content
    return answer.json()


def upload(client, build, content):
    form = {"workload": "both", "file": SimpleUploadedFile("run.csv", content)}
    return client.post(f"/api/builds/{build.pk}/runs/log", form).json()


def patch(client, run, **change):
    return client.patch(f"/api/runs/{run['id']}", json.dumps(change), content_type="application/json")


class TestRunFile:
    def test_goes_out_and_comes_back_the_same(self, signed_in, build):
        client = signed_in("owner")
        readings = [
            {"minute": 60, "role": CORE, "value": 75},
            {"minute": 60, "role": "job/jobs_per_hour", "value": 12},
            {"minute": 60, "role": "top/smoke", "word": "blown out"},
        ]
        settings = {"power_limits": [{"source": "processor", "wanted_w": 150, "granted_w": 125}], "lid": "off"}
        run = keep(client, build, readings=readings, settings=settings, note="Window open.")
        text = client.get(f"/api/runs/{run['id']}/run.json").content
        file = {"file": SimpleUploadedFile("run.json", text)}
        again = client.post(f"/api/builds/{build.pk}/runs/file", file)
        assert again.status_code == 201, again.content
        assert client.get(f"/api/runs/{again.json()['id']}/run.json").content == text
        assert read_run(text.decode()).settings.power_limits[0].in_force_w == 125
        assert "the lid was off" in client.get(f"/api/runs/{run['id']}/verdict").json()["excluded"][0]

    def test_a_log_comes_with_its_hash_and_the_roles_that_were_told(self, signed_in, build, logged):
        client = signed_in("owner")
        run = upload(client, build, logged)
        patch(client, run, roles={"1": "ignore"})
        text = client.get(f"/api/runs/{run['id']}/run.json").content
        document = read_run(text.decode())
        assert "ignore" in document.roles.values()
        form = {"file": SimpleUploadedFile("run.json", text), "log": SimpleUploadedFile("x.csv", logged)}
        again = client.post(f"/api/builds/{build.pk}/runs/file", form).json()
        assert again["channels"][0]["role"] == "ignore"
        assert client.get(f"/api/runs/{again['id']}/original").content == logged
        other = {
            "file": SimpleUploadedFile("run.json", text),
            "log": SimpleUploadedFile("x.csv", gzip.compress(logged)),
        }
        refused = client.post(f"/api/builds/{build.pk}/runs/file", other)
        assert refused.status_code == 422
        assert "SHA-256" in refused.json()["errors"][0]["what"]
        missing = client.post(f"/api/builds/{build.pk}/runs/file", {"file": SimpleUploadedFile("run.json", text)})
        assert missing.json()["errors"][0]["where"] == "log"

    @pytest.mark.parametrize(
        ("change", "where"),
        [
            ({"readings": [{"minute": 60, "role": CORE, "value": 999}]}, "readings"),
            ({"readings": []}, "file"),
            ({"windows": [{"workload": "nothing"}]}, "windows"),
            ({"windows": [{"workload": "both"}, {"workload": "idle"}]}, "file"),
            ({"room": {"about_c": 99}}, "room"),
            ({"note": "a\x00b"}, "note"),
        ],
    )
    def test_what_cannot_be_is_refused_and_nothing_is_changed(self, signed_in, build, change, where):
        client = signed_in("owner")
        run = keep(client, build)
        answer = patch(client, run, **change)
        assert answer.status_code == 422
        assert where in answer.json()["errors"][0]["where"]
        assert client.get(f"/api/runs/{run['id']}").json()["document"] == run["document"]

    def test_a_claim_says_what_it_lacks(self, signed_in, build):
        client = signed_in("owner")
        body = {
            "workload": "both",
            "kind": "claim",
            "source": "data sheet",
            "readings": [{"minute": 0, "role": CORE, "value": 70}],
        }
        run = client.post(
            f"/api/builds/{build.pk}/runs/readings", json.dumps(body), content_type="application/json"
        ).json()
        assert run["lacks"] == ["the room", "the watts", "the speeds", "how long it ran"]
        assert "a claim that does not say" in client.get(f"/api/runs/{run['id']}/verdict").json()["excluded"][-1]

    def test_two_loads_of_one_run_are_judged_apart(self, signed_in, build, logged):
        client = signed_in("owner")
        run = upload(client, build, logged)
        windows = [
            {"id": "first", "workload": "both", "start_s": 240, "end_s": 900},
            {"id": "second", "workload": "both", "start_s": 900, "end_s": 1600},
        ]
        assert patch(client, run, windows=windows).status_code == 200
        spans = [
            client.get(f"/api/runs/{run['id']}?window={name}").json()["analysis"]["window"]["start_s"]
            for name in ("first", "second")
        ]
        assert spans == [240, 900]
        verdicts = [client.get(f"/api/runs/{run['id']}/verdict?window={name}").json() for name in ("first", "second")]
        assert verdicts[0]["places"] != verdicts[1]["places"]
        assert client.get(f"/api/runs/{run['id']}/verdict?window=third").status_code == 422


class TestNoClock:
    ROWS = b"CPU [C],GPU [C]\n" + b"".join(b"%d,%d\n" % (40 + i // 20, 50 + i % 3) for i in range(200))

    def test_the_interval_is_asked_for_and_kept_in_the_file(self, signed_in, build):
        client = signed_in("owner")

        def send(**more):
            form = {"workload": "both", "file": SimpleUploadedFile("run.csv", self.ROWS), **more}
            return client.post(f"/api/builds/{build.pk}/runs/log", form)

        refused = send()
        assert refused.status_code == 422
        assert refused.json()["errors"][0]["where"] == "interval_s"
        assert not Run.objects.exists()
        run = send(interval_s=5).json()
        assert run["analysis"]["window"]["end_s"] <= 5 * 199
        text = client.get(f"/api/runs/{run['id']}/run.json").content
        form = {"file": SimpleUploadedFile("run.json", text), "log": SimpleUploadedFile("x.csv", self.ROWS)}
        again = client.post(f"/api/builds/{build.pk}/runs/file", form).json()
        assert again["analysis"]["window"] == run["analysis"]["window"]


class TestOneEvening:
    def test_a_run_without_a_room_takes_that_of_the_other(self, signed_in, build):
        client = signed_in("owner")
        known = keep(client, build, room_start_c=29, room_end_c=29)
        lost = keep(client, build, room_start_c=None, room_end_c=None)
        wide = client.get(f"/api/runs/{lost['id']}/verdict").json()
        patch(client, lost, room={"evening_of": known["id"]})
        found = client.get(f"/api/runs/{lost['id']}/verdict").json()
        assert found["room_half_k"] < 1.6 < wide["room_half_k"]
        assert found["room_c"] == pytest.approx(29, abs=1.5)
        patch(client, known, room={"start_c": 20, "end_c": 20})
        assert client.get(f"/api/runs/{lost['id']}/verdict").json()["room_c"] == pytest.approx(20, abs=1.5)


class TestPasted:
    def test_lines_are_readings(self, signed_in, build):
        lines = (
            "idle processor 34\n60 min\nprocessor 78 °C\ngraphics 71,5\nroom 24.5\n41 dBA\nprocessor power 131 W\nwords"
        )
        address = f"/api/builds/{build.pk}/runs/pasted"
        client = signed_in("reader")
        found = client.post(address, json.dumps({"text": lines}), content_type="application/json").json()
        assert [r["minute"] for r in found["readings"]] == [0, 60, 60, 60, 60, 60]
        assert "words" in found["refused"][0]


class TestArchive:
    def test_a_build_comes_back_with_revisions_runs_and_logs(self, signed_in, build, logged):
        client = signed_in("owner")
        upload(client, build, logged)
        keep(client, build, note="by hand")
        content = client.get(f"/api/builds/{build.pk}/archive.zip").content
        answer = client.post("/api/archives", {"file": SimpleUploadedFile("a.zip", content)})
        assert answer.status_code == 201, answer.content
        copy = Build.objects.get(pk=answer.json()["id"])
        assert read_text(copy.text) == read_text(build.text)
        assert [r.text for r in copy.revisions.all()] == [r.text for r in build.revisions.all()]
        assert [r.text for r in copy.runs.all()] == [r.text for r in build.runs.all()]
        own, other = ({c.name: c.role for c in b.runs.first().stream.channels.all()} for b in (build, copy))
        assert own == other
        again = client.get(f"/api/builds/{copy.pk}/archive.zip").content
        names = [sorted(zipfile.ZipFile(io.BytesIO(c)).namelist()) for c in (content, again)]
        assert names[0] == names[1]

    @pytest.mark.parametrize("spoil", ["truncate", "drop", "garble"])
    def test_a_damaged_one_is_refused_as_a_whole(self, signed_in, build, spoil):
        client = signed_in("owner")
        keep(client, build)
        content = client.get(f"/api/builds/{build.pk}/archive.zip").content
        before = Build.objects.count(), Run.objects.count()
        if spoil == "truncate":
            content = content[: len(content) // 2]
        else:
            out = io.BytesIO()
            with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(out, "w") as new:
                for name in old.namelist():
                    if name.startswith("runs/"):
                        if spoil == "garble":
                            new.writestr(name, b'{"format": "krill-run", "version": 1}')
                    else:
                        new.writestr(name, old.read(name))
            content = out.getvalue()
        answer = client.post("/api/archives", {"file": SimpleUploadedFile("a.zip", content)})
        assert answer.status_code == 422
        assert (Build.objects.count(), Run.objects.count()) == before


class TestLearn:
    def ask(self, client, build, runs, free=()):
        body = {"loads": [{"run": run["id"]} for run in runs], "free": list(free)}
        return client.post(f"/api/builds/{build.pk}/learn", json.dumps(body), content_type="application/json")

    def test_what_a_hot_run_teaches_is_taken_over_and_revoked_with_it(self, signed_in, build):
        client = signed_in("owner")
        run = keep(client, build, readings=[{"minute": 60, "role": CORE, "value": 92, "kind": "mean"}])
        found = self.ask(client, build, [run], ["plate-processor/factor"]).json()
        assert found["calibration"]["runs"][0]["run"] == run["id"]
        core = next(p for p in found["hot_day"]["places"] if p["address"] == "processor-core")
        assert core["after_c"] > core["before_c"] + 5
        assert core["after_high"] - core["after_low"] < core["before_high"] - core["before_low"]
        assert core["read"]
        assert "plate-processor/factor" in {item["address"] for item in found["learnable"]}
        document = json.loads(build.text) | {"calibration": found["calibration"]}
        saved = client.put(
            f"/api/builds/{build.pk}/draft",
            json.dumps({"base": build.sequence, "document": document, "label": "learnt"}),
            content_type="application/json",
        )
        assert saved.status_code == 200, saved.content
        client.delete(f"/api/runs/{run['id']}")
        build.refresh_from_db()
        assert read_text(build.text).calibration is None
        undone = client.post(
            f"/api/builds/{build.pk}/undo", json.dumps({"base": build.sequence}), content_type="application/json"
        )
        assert undone.json()["document"]["calibration"]["runs"][0]["run"] == run["id"]

    def test_refusals(self, signed_in, build, people):
        client = signed_in("owner")
        run = keep(client, build)
        wrong = self.ask(client, build, [run], ["nothing/here"])
        assert wrong.status_code == 422
        assert "plate-processor/factor" in wrong.json()["errors"][0]["allowed"]
        nothing = keep(client, build, readings=[{"minute": 60, "role": "sound/level", "value": 40}])
        assert self.ask(client, build, [nothing]).status_code == 422


class TestTable:
    def test_runs_beside_each_other(self, signed_in, build):
        client = signed_in("owner")
        first = keep(client, build)
        second = keep(client, build, readings=[{"minute": 60, "role": CORE, "value": 70}])
        found = client.get(f"/api/builds/{build.pk}/runs/table").json()
        assert [row["cells"][0]["over_k"] for row in found["rows"]] == [51, 46]
        assert found["best"] == {CORE: f"{second['id']}/load"}
        assert found["worst"] == {CORE: f"{first['id']}/load"}
        text = client.get(f"/api/builds/{build.pk}/runs.csv").content.decode()
        assert text.count("\n") == 3

    def test_before_after_before(self, signed_in, build):
        client = signed_in("owner")
        values = (80, 70, 79)
        before, after, again = (
            keep(client, build, readings=[{"minute": 60, "role": CORE, "value": v, "kind": "mean"}]) for v in values
        )
        found = client.get(f"/api/runs/{before['id']}/repeated/{after['id']}/{again['id']}").json()
        part = found["parts"][0]
        assert part["change_k"] == pytest.approx(-9.5)
        assert part["itself_k"] == pytest.approx(-1.0)
        assert part["conclusion"] == "cooler"
