"""Live runs: batches acknowledged once they are stored, watched while they come, ended as a run that lacks no row."""

import gzip
import json
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from itertools import pairwise

import numpy as np
import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from krill.document.reading import read_text
from krill.recipes.water_loop import water_loop
from krill.simulated_bench.faults import Fault
from krill.simulated_bench.machines import LivePlan, run_machines
from krill.simulated_bench.readings import readings_of, sessions_of
from live import actions
from live.models import LiveBatch, LiveRun
from live.practising import MOST_BENCHES, planned
from live.schemas import LiveIn, PracticeIn
from runs.queries import file_of, original_of

ROWS = 40
CHANNELS = [{"name": "Processor temperature", "unit": "°C"}, {"name": "Pump speed", "unit": "rpm"}]


def lines(rows, session="s1", sequence=0, clock=1e9, channels=CHANNELS, interval_s=1.0, **more):
    """A batch as JSON lines."""
    steady = (rows[-1][0] if rows else 0.0) or 0.0
    header = {"session": session, "sequence": sequence, "clock": clock + steady, "steady": steady}
    header |= {"interval_s": interval_s, "channels": channels} | more
    return "\n".join([json.dumps(header), *map(json.dumps, rows)])


def rows_from(first, count=ROWS):
    return [[float(t), 40.0 + 0.1 * t, 3000.0] for t in range(first, first + count)]


@pytest.fixture
def live(people, build):
    """(the live run, what sends to it)."""
    run, token = actions.begin(people["owner"], build.pk, LiveIn(workload="both", minutes=20))
    client = Client()

    def send(text, token=token, run_id=run.pk, **more):
        told = {"content_type": "application/jsonl", "headers": {"Authorization": f"Bearer {token}"}} | more
        return client.post(f"/api/live/{run_id}/batches", text, **told)

    return run, send, token


@cache
def benched(kind, at_min=6.0):
    """Sessions of a machine of the recipe with a fault, and the names and units of its channels."""
    build = water_loop(125, 220, 30, 24, "Bench build")
    on = {"pump-stops": "pump"}.get(kind, "")
    faults = () if kind is None else (Fault(kind, at_min, on),)
    plan = LivePlan("both", 24.0, load_min=12.0, lead_in_min=3.0, after_min=2.0, faults=faults)
    readings = readings_of(run_machines(build, plan, 1, 5), plan)
    return readings, list(sessions_of(readings, plan, 5, clock_s=1e9))


def send_bench(send, kind, until_s=np.inf, size=60):
    readings, sessions = benched(kind)
    channels = [{"name": name, "unit": unit} for name, unit in zip(readings.names, readings.units, strict=True)]
    for part in sessions:
        for number, first in enumerate(range(0, len(part.run_s), size)):
            span = slice(first, first + size)
            table = np.column_stack([part.steady_s[span], part.values[span]])[part.run_s[span] <= until_s]
            if len(table):
                clock = float(part.clock_s[span][-1] - part.steady_s[span][-1])
                answer = send(lines(table.tolist(), part.key, number, clock, channels, 2.0))
                assert answer.status_code == 200, answer.content


def test_what_is_acknowledged_is_stored_and_a_resent_batch_does_no_harm(live):
    _, send, _ = live
    text = lines(rows_from(0))
    assert send(text).json() == {"stored": 0, "again": False}
    assert send(text).json() == {"stored": 0, "again": True}
    assert send(lines(rows_from(ROWS), sequence=1)).json() == {"stored": 1, "again": False}
    assert list(LiveBatch.objects.values_list("sequence", "rows")) == [(0, ROWS), (1, ROWS)]


def test_csv_is_stored_as_the_same_as_json_lines(live):
    run, send, token = live
    rows = [[0.0, 40.5, None], [1.0, None, 3000.0]]
    assert send(lines(rows)).status_code == 200
    table = "t [s],Processor temperature [°C],Pump speed [rpm]\n0,40.5,\n1,,3000\n"
    query = "?session=s2&sequence=0&clock=1000000001&steady=1&interval_s=1"
    answer = Client().post(
        f"/api/live/{run.pk}/batches{query}",
        table,
        content_type="text/csv",
        headers={"Authorization": f"Bearer {token}"},
    )
    assert answer.status_code == 200, answer.content
    first, second = LiveBatch.objects.all()
    assert bytes(first.data) == bytes(second.data)
    assert [s.channels for s in run.sessions.all()] == [CHANNELS, CHANNELS]


@pytest.mark.parametrize(
    ("text", "where"),
    [
        ("", "line 1"),
        ("no json", "line 1"),
        ("[1, 2]", "line 1"),
        (lines(rows_from(0), session="a b"), "session"),
        (lines(rows_from(0), sequence=-1), "sequence"),
        (lines(rows_from(0), sequence=True), "sequence"),
        (lines([]), "rows"),
        (lines([[0.0, 1.0]]), "line 2"),
        (lines([[None, 1.0, 2.0]]), "line 2"),
        (lines([[0.0, "warm", 2.0]]), "line 2"),
        (lines([[0.0, 1e13, 2.0]]), "line 2"),
        (lines(rows_from(0)) + "\n[1, 2", f"line {ROWS + 2}"),
        (lines(rows_from(0), channels=[]), "channels"),
        (lines(rows_from(0), channels=[CHANNELS[0], CHANNELS[0]]), "channels"),
        (lines(rows_from(0), channels=[{"name": "a\u0000"}, {"name": "b"}]), "channels"),
        (lines(rows_from(0), interval_s=0), "interval_s"),
        (lines(rows_from(0), steady="noon"), "steady"),
        (lines(rows_from(0, 5001)), "rows"),
    ],
)
def test_what_is_no_batch_is_refused_with_where_and_what_is_allowed_and_nothing_is_stored(live, text, where):
    answer = live[1](text)
    assert answer.status_code == 422, answer.content
    fault = answer.json()["errors"][0]
    assert fault["where"].startswith(where)
    assert fault["allowed"]
    assert not LiveBatch.objects.exists()


def test_a_session_keeps_the_channels_that_it_began_with(live):
    _, send, _ = live
    assert send(lines(rows_from(0))).status_code == 200
    answer = send(lines([[50.0, 1.0]], sequence=1, channels=CHANNELS[:1]))
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"] == "channels"


def test_only_the_newest_token_of_the_run_lets_in(live, people, build):
    run, send, token = live
    _, other_token = actions.begin(people["owner"], build.pk, LiveIn(workload="idle"))
    assert send(lines(rows_from(0)), token="made-up").status_code == 401
    assert send(lines(rows_from(0)), token=other_token).status_code == 401
    assert send(lines(rows_from(0)), run_id="00000000-0000-0000-0000-000000000000").status_code == 401
    _, newer = actions.new_token(people["owner"], run.pk)
    assert send(lines(rows_from(0))).status_code == 401
    assert send(lines(rows_from(0)), token=newer).status_code == 200
    assert LiveRun.objects.filter(token_sha256__in=[token, newer]).count() == 0


def test_without_a_token_nothing_large_is_read_and_with_one_not_more_than_a_batch(live):
    run, send, token = live
    large = "x" * 20_000
    assert Client().post(f"/api/live/{run.pk}/batches", large, content_type="application/jsonl").status_code == 401
    assert send("x" * (2 * 2**20 + 1)).status_code == 413
    assert send(large).status_code == 422
    elsewhere = Client().post(
        "/api/builds", large, content_type="application/json", headers={"Authorization": f"Bearer {token}"}
    )
    assert elsewhere.status_code == 401


def test_rows_come_by_a_cursor_each_batch_known_by_its_number(live, signed_in):
    run, send, _ = live
    page = signed_in("reader").get(f"/api/live/{run.pk}/rows").json()
    assert (page["cursor"], page["batches"], page["channels"]) == (0, [], [])
    for number in range(8):
        send(lines(rows_from(ROWS * number), sequence=number))
    page = signed_in("reader").get(f"/api/live/{run.pk}/rows").json()
    seconds = [row[0] for batch in page["batches"] for row in batch["rows"]]
    assert seconds == list(range(0, 8 * ROWS, 2))  # one every other second
    assert [(c["name"], c["role"]) for c in page["channels"]] == [
        ("Processor temperature", "processor-core/temperature"),
        ("Pump speed", "pump/speed"),
    ]
    again = signed_in("reader").get(f"/api/live/{run.pk}/rows?after={page['cursor']}").json()
    assert again["cursor"] == page["cursor"]
    assert {b["batch"] for b in again["batches"]} <= {b["batch"] for b in page["batches"]}
    send(lines(rows_from(8 * ROWS), sequence=8))
    fresh = signed_in("reader").get(f"/api/live/{run.pk}/rows?after={page['cursor']}").json()
    known = {b["batch"] for b in page["batches"]}
    later = [row[0] for batch in fresh["batches"] if batch["batch"] not in known for row in batch["rows"]]
    assert later[0] == 8 * ROWS


def test_a_pump_that_stops_is_named_with_the_advice_to_stop(live, signed_in):
    run, send, _ = live
    assert signed_in("reader").get(f"/api/live/{run.pk}/watch").json() is None
    send_bench(send, "pump-stops", until_s=60 * (3 + 6) + 30)
    told = signed_in("reader").get(f"/api/live/{run.pk}/watch").json()
    assert told["findings"][0]["kind"] == "pump-stops"
    assert told["findings"][0]["since_min"] == pytest.approx(6.0, abs=0.2)
    assert "Take the load off" in told["sentence"]
    assert told["load_on_min"] == pytest.approx(3.0, abs=0.2)
    expected = signed_in("reader").get(f"/api/live/{run.pk}/expected").json()
    assert expected["room_c"] == pytest.approx(24.0, abs=0.5)
    assert expected["curves"][0]["low_c"] is not None


@pytest.mark.parametrize("kind", ["logger-restarts", "clock-jumps", "samples-doubled", "samples-dropped"])
def test_what_happens_on_the_way_is_named_and_mended(live, signed_in, kind):
    run, send, _ = live
    LiveRun.objects.filter(pk=run.pk).update(practice={"speed": 60.0})  # it arrives as fast as a bench sends
    send_bench(send, kind)
    told = signed_in("reader").get(f"/api/live/{run.pk}/watch").json()
    assert [one["kind"] for one in told["findings"]] == [kind]
    ended = signed_in("editor").post(f"/api/live/{run.pk}/end").json()
    kept = gzip.decompress(original_of(LiveRun.objects.get(pk=run.pk).run)).decode().splitlines()
    times = [float(line.split(",")[0]) for line in kept[1:]]
    assert all(before < after for before, after in pairwise(times))
    # a set clock is no hole in the run, and what came twice is there once
    readings, sessions = benched(kind)
    assert len(times) == len({round(float(t), 3) for part in sessions for t in part.run_s})
    assert times[-1] - times[0] == pytest.approx(readings.time_s[-1] - readings.time_s[0], abs=4)
    assert ended["run"]


def test_ended_it_is_a_run_of_every_row_and_takes_nothing_more(live, signed_in):
    run, send, _ = live
    for number in range(8):
        send(lines(rows_from(ROWS * number), sequence=number))
    ended = signed_in("editor").post(f"/api/live/{run.pk}/end").json()
    shown = signed_in("reader").get(f"/api/runs/{ended['run']}").json()
    assert shown["lines"]["kept"] == 8 * ROWS
    assert [c["role"] for c in shown["channels"]] == ["processor-core/temperature", "pump/speed"]
    assert not LiveBatch.objects.exists()
    assert signed_in("editor").post(f"/api/live/{run.pk}/end").json()["run"] == ended["run"]
    late = send(lines(rows_from(8 * ROWS), sequence=8))
    assert late.status_code == 410
    assert signed_in("reader").get(f"/api/live/{run.pk}/rows").json()["run"] == ended["run"]
    assert signed_in("reader").get(f"/api/builds/{run.build_id}/live").json() == []


def test_the_load_counts_until_what_failed_in_it_and_the_run_says_so(live, signed_in):
    run, send, _ = live
    send_bench(send, "pump-stops")
    ended = signed_in("editor").post(f"/api/live/{run.pk}/end").json()
    document = file_of(LiveRun.objects.get(pk=run.pk).run)
    window = document.windows[0]
    assert window.start_s == pytest.approx(180, abs=6)
    assert window.end_s == pytest.approx(180 + 360, abs=12)
    assert "Pump stands still" in document.note
    verdict = signed_in("reader").get(f"/api/runs/{ended['run']}/verdict")
    assert verdict.status_code == 200, verdict.content


def test_the_list_asks_as_often_however_many_there_are(live, signed_in, people, build, django_assert_max_num_queries):
    _, send, _ = live
    send(lines(rows_from(0)))
    client = signed_in("owner")
    with CaptureQueriesContext(connection) as one:
        assert [told["rows"] for told in client.get(f"/api/builds/{build.pk}/live").json()] == [ROWS]
    for _ in range(3):
        actions.begin(people["owner"], build.pk, LiveIn(workload="both"))
    with django_assert_max_num_queries(len(one)):
        assert [told["rows"] for told in client.get(f"/api/builds/{build.pk}/live").json()] == [ROWS, 0, 0, 0]


def test_ended_without_a_row_there_is_no_run(live, signed_in):
    run, _, _ = live
    ended = signed_in("editor").post(f"/api/live/{run.pk}/end").json()
    assert ended["run"] is None
    assert ended["ended"]


def test_discarded_it_is_gone_with_its_rows(live, signed_in):
    run, send, _ = live
    send(lines(rows_from(0)))
    assert signed_in("editor").delete(f"/api/live/{run.pk}").status_code == 204
    assert not LiveRun.objects.exists()
    assert not LiveBatch.objects.exists()
    assert send(lines(rows_from(ROWS), sequence=1)).status_code == 401


@pytest.mark.django_db(transaction=True)
def test_the_same_batch_sent_by_many_at_once_is_there_once(live):
    run, send, token = live
    send(lines(rows_from(0)))

    def again(number):
        client = Client()
        answer = client.post(
            f"/api/live/{run.pk}/batches",
            lines(rows_from(ROWS * number), sequence=number),
            content_type="application/jsonl",
            headers={"Authorization": f"Bearer {token}"},
        )
        connection.close()
        return answer.status_code

    with ThreadPoolExecutor(8) as pool:
        codes = list(pool.map(again, [1, 1, 1, 1, 2, 2, 3, 3]))
    assert codes == [200] * 8
    assert list(LiveBatch.objects.values_list("sequence", flat=True)) == [0, 1, 2, 3]


def test_a_build_holds_so_many_open_live_runs(live, people, build):
    for _ in range(actions.MOST_OPEN - 1):
        actions.begin(people["owner"], build.pk, LiveIn(workload="both"))
    with pytest.raises(Exception, match="are open"):
        actions.begin(people["owner"], build.pk, LiveIn(workload="both"))


def test_a_load_that_the_revision_has_not_is_refused(signed_in, build):
    answer = signed_in("owner").post(
        f"/api/builds/{build.pk}/live", {"workload": "both-and"}, content_type="application/json"
    )
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"] == "workload"


@pytest.fixture
def benches(monkeypatch):
    begun = []
    monkeypatch.setattr("live.router.begin_bench", lambda live, token, port: begun.append(live))
    return begun


def practise(client, build, **told):
    return client.post(
        f"/api/builds/{build.pk}/live/practice", {"workload": "both", **told}, content_type="application/json"
    )


def test_what_a_bench_hides_is_told_once_somebody_has_guessed(signed_in, build, benches):
    client = signed_in("owner")
    live = practise(client, build, fault="hidden", minutes=40).json()
    assert live["practice"]["hidden"]
    assert live["practice"]["fault"] is None
    told = benches[0].practice
    assert 0.15 * 40 <= told["at_min"] <= 0.5 * 40
    wrong = "fan-stalls" if told["fault"] != "fan-stalls" else "pump-stops"
    judged = client.post(f"/api/live/{live['id']}/guess", {"kind": wrong}, content_type="application/json").json()
    assert judged["practice"]["judged"]["right"] is False
    assert judged["practice"]["fault"] == told["fault"]
    assert judged["practice"]["judged"]["says"].startswith("You said:")
    again = client.post(
        f"/api/live/{live['id']}/guess", {"kind": told["fault"]}, content_type="application/json"
    ).json()
    assert again["practice"]["judged"]["right"] is False  # the first guess counts


def test_a_right_guess_says_how_long_it_took(people, build, benches, signed_in):
    live = practise(signed_in("owner"), build, fault="pump-stops", at_min=5).json()
    LiveRun.objects.filter(pk=live["id"]).update(practice={**benches[0].practice, "hidden": True})
    actions.guess(people["owner"], live["id"], "pump-stops", 8.0)
    judged = signed_in("owner").get(f"/api/live/{live['id']}").json()["practice"]["judged"]
    assert judged["right"]
    assert judged["says"] == "Right: the pump stops, from minute 5 on; found after 3 min."


def test_one_person_runs_so_many_benches(signed_in, build, benches):
    client = signed_in("owner")
    for _ in range(MOST_BENCHES):
        assert practise(client, build).status_code == 201
    refused = practise(client, build)
    assert refused.status_code == 422
    assert "practice runs" in refused.json()["errors"][0]["what"]
    client.post(f"/api/live/{benches[0].pk}/end")
    assert practise(client, build).status_code == 201


def test_a_fault_that_cannot_befall_the_build_is_refused_with_those_that_can(signed_in, build, benches):
    answer = practise(signed_in("owner"), build, fault="feed-lost")
    assert answer.status_code == 422
    assert "pump-stops" in answer.json()["errors"][0]["allowed"]


def test_hidden_faults_are_all_kinds_and_sometimes_none(build):
    document = read_text(build.text)
    found = {planned(document, PracticeIn(workload="both", fault="hidden"))["fault"] for _ in range(400)}
    assert found >= {"none", "pump-stops", "fan-stalls", "clock-jumps", "sensor-stuck"}
