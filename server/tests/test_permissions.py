"""Every operation of the OpenAPI file for every kind of person; an operation without a row fails."""

import json
from typing import Any
from uuid import UUID

import pytest
from django.contrib.auth.models import Group
from django.core.files.uploadedfile import SimpleUploadedFile
from solving import run_study

from krill.document.reading import read_text, write_object
from krill_server.api import api
from live.actions import begin
from live.schemas import LiveIn
from runs.actions import add_log, add_picture
from runs.archive import archive_of
from runs.demo.story import limpet
from runs.queries import file_of
from runs.schemas import RunIn
from sheets.actions import add_picture as add_step_picture
from shelf.actions import put_item
from studies.actions import ask

FAN = {"id": "fan", "kind": "fan", "class": "fan_120x25"}
PEOPLE = ("owner", "editor", "reader", "stranger", None)
LOG = b"Time [s],Processor temperature [C]\n" + b"".join(b"%d,%d\n" % (t, 40 + t // 60) for t in range(0, 900, 5))

RUN = json.dumps(
    {
        "format": "krill-run",
        "version": 1,
        "name": "typed",
        "kind": "readings",
        "windows": [{"workload": "both"}],
        "readings": [{"minute": 60, "role": "processor-core/temperature", "value": 75}],
    }
).encode()

PICTURE = bytes.fromhex(
    "89504e470d0a1a0a0000000d4948445200000001000000010802000000907753de0000000c49444154789c6360"
    "6060000000040001f61738550000000049454e44ae426082"
)

#: asked without a session, with the token of the browser's cookie
ANONYMOUS = ("login", "look_at_link", "take_link")
ANYBODY = (200, 200, 200, 200, 200)
SIGNED_IN = (200, 200, 200, 200, 401)
READ = (200, 200, 200, 404, 401)
WRITE = (200, 200, 403, 404, 401)
OWN = (200, 403, 403, 404, 401)
ADMINISTER = (403, 403, 403, 403, 401)

TWO_FIGURES = {
    "vary": [
        {"address": "movers/fans", "options": [{"value": 0.4}, {"value": 0.9}]},
        {"address": "movers/pump", "options": [{"value": 0.5}, {"value": 1}]},
    ]
}

#: operation -> status for owner, editor, reader, stranger, signed out (200 stands for any success)
TABLE = {
    "session": ANYBODY,
    "login": (401, 401, 401, 401, 401),  # a wrong password, whoever asks
    "logout": SIGNED_IN,
    "change_password": (403, 403, 403, 403, 401),  # the old password given is wrong
    "look_at_link": (404, 404, 404, 404, 404),  # no such link, whoever asks
    "take_link": (404, 404, 404, 404, 404),
    "list_sessions": SIGNED_IN,
    "end_session": (404, 404, 404, 404, 401),  # no such session of one's own
    "end_other_sessions": SIGNED_IN,
    "usage": SIGNED_IN,
    "list_people": ADMINISTER,
    "change_person": ADMINISTER,
    "reset_person": ADMINISTER,
    "list_invitations": ADMINISTER,
    "invite": ADMINISTER,
    "take_back_invitation": ADMINISTER,
    "list_groups": SIGNED_IN,
    "set_group": ADMINISTER,
    "drop_group": ADMINISTER,
    "grant_group_access": OWN,
    "set_template": OWN,
    "list_templates": SIGNED_IN,
    "list_offered_builds": SIGNED_IN,
    "offer_build": OWN,
    "take_over_build": (404, 404, 404, 404, 401),  # offered to nobody
    "decline_build": (404, 404, 404, 404, 401),
    "list_events": READ,
    "show_shelf_item": (200, 404, 404, 404, 401),
    "list_builds": SIGNED_IN,
    "create_from_recipe": SIGNED_IN,
    "import_build": SIGNED_IN,
    "list_recipes": SIGNED_IN,
    "list_assemblies": SIGNED_IN,
    "recipe_document": SIGNED_IN,
    "recipe_answer": SIGNED_IN,
    "predict": SIGNED_IN,
    "compare": SIGNED_IN,
    "stopped": SIGNED_IN,
    "stopped_in_time": SIGNED_IN,
    "forecast_in_time": SIGNED_IN,
    "offers": SIGNED_IN,
    "edited": SIGNED_IN,
    "fan_operation": SIGNED_IN,
    "loop_curves": SIGNED_IN,
    "speed_for_level": SIGNED_IN,
    "read_curve": SIGNED_IN,
    "next_changes": SIGNED_IN,
    "watts_it_holds": SIGNED_IN,
    "sink_curve": SIGNED_IN,
    "solve_for": SIGNED_IN,
    "pipe_chart": SIGNED_IN,
    "list_shelf": SIGNED_IN,
    "put_on_shelf": SIGNED_IN,
    "export_shelf": SIGNED_IN,
    "import_shelf": SIGNED_IN,
    "change_shelf_item": (200, 404, 404, 404, 401),  # one's own shelf alone
    "take_off_shelf": (200, 404, 404, 404, 401),
    "note_tried": (200, 404, 404, 404, 401),
    "substitutes": SIGNED_IN,
    "list_classes": SIGNED_IN,
    "list_outlines": SIGNED_IN,
    "fit": SIGNED_IN,
    "gap_costs": SIGNED_IN,
    "cut_template": SIGNED_IN,
    "adapter": SIGNED_IN,
    "adapter_file": SIGNED_IN,
    "tube_bend": SIGNED_IN,
    "list_materials": SIGNED_IN,
    "get_build": READ,
    "build_standing": READ,
    "delete_build": OWN,
    "find_builds": SIGNED_IN,
    "build_card": READ,
    "copy_build": (200, 200, 200, 404, 401),
    "rename_build": WRITE,
    "archive_build": OWN,
    "restore_build": (200, 404, 404, 404, 401),
    "save_draft": WRITE,
    "patch_draft": WRITE,
    "outlook": READ,
    "undo": (422, 422, 403, 404, 401),  # nothing to undo
    "redo": (422, 422, 403, 404, 401),
    "export_build": READ,
    "list_revisions": READ,
    "keep_revision": (422, 422, 403, 404, 401),  # nothing changed
    "get_revision": READ,
    "list_access": READ,
    "grant_access": OWN,
    "prediction_csv": READ,
    "list_runs": READ,
    "last_run": READ,
    "add_log": WRITE,
    "add_readings": WRITE,
    "get_run": READ,
    "change_run": WRITE,
    "delete_run": WRITE,
    "get_series": READ,
    "get_verdict": READ,
    "compare_runs": READ,
    "repeated": READ,
    "run_table": READ,
    "run_table_csv": READ,
    "read_pasted": READ,
    "learn": READ,
    "export_run": READ,
    "import_run": WRITE,
    "export_archive": READ,
    "import_archive": SIGNED_IN,
    "get_original": READ,
    "measured_changes": READ,
    "list_step_pictures": READ,
    "add_step_picture": WRITE,
    "get_step_picture": READ,
    "remove_step_picture": WRITE,
    "add_picture": WRITE,
    "get_picture": READ,
    "remove_picture": WRITE,
    "run_csv": READ,
    "practice_log": READ,
    "design_map": SIGNED_IN,
    "fan_curve": SIGNED_IN,
    "curve_in_time": SIGNED_IN,
    "measure_first": SIGNED_IN,
    "side_by_side": SIGNED_IN,
    "list_studies": READ,
    "ask_study": WRITE,
    "get_study": READ,
    "delete_study": WRITE,
    "cancel_study": WRITE,
    "get_study_result": READ,
    "get_candidate": READ,
    "get_candidate_document": READ,
    "take_candidate": WRITE,
    "candidates_csv": READ,
    "list_live": READ,
    "begin_live": WRITE,
    "live_faults": READ,
    "practise_live": WRITE,
    "get_live": READ,
    "live_rows": READ,
    "watch_live": READ,
    "expected_live": READ,
    "new_live_token": WRITE,
    "guess_fault": (422, 422, 403, 404, 401),  # nothing is hidden
    "end_live": WRITE,
    "discard_live": WRITE,
    "send_batch": (401, 401, 401, 401, 401),  # a token alone lets in, whoever asks
    "plan_test": SIGNED_IN,
    "build_sheet": SIGNED_IN,
    "start_suspects": SIGNED_IN,
    "feed_loads": SIGNED_IN,
    "list_marks": READ,
    "add_marks": WRITE,
    "sheet_csv": READ,
    "calendar": READ,
}


def operations() -> list[tuple[str, str, str]]:
    schema = json.loads(json.dumps(api.get_openapi_schema(), default=str))
    return [
        (spec["operationId"], method, path)
        for path, methods in schema["paths"].items()
        for method, spec in methods.items()
    ]


def with_a_face(document: dict[str, Any]) -> dict[str, Any]:
    fan = {"id": "cut-for", "kind": "fan", "class": "fan_120x25", "face": "front"}
    return {**document, "parts": [*document["parts"], fan]}


def body(operation: str, document: dict[str, Any]) -> Any:
    return {
        "login": {"username": "owner", "password": "wrong"},
        "change_password": {"old": "wrong", "new": "something-else-long"},
        "create_from_recipe": {"processor_w": 65, "graphics_w": 100, "rest_w": 20, "room_c": 22, "name": "B"},
        "recipe_answer": {"recipe": "small_blower"},
        "recipe_document": {"processor_w": 65, "graphics_w": 100, "rest_w": 20, "room_c": 22},
        "import_build": {"document": document},
        "predict": {"document": document, "workloads": ["idle"]},
        "compare": {"first": document, "second": document, "workload": "idle", "samples": 0},
        "stopped": {"document": document, "workload": "idle"},
        "stopped_in_time": {"document": document, "workload": "idle"},
        "forecast_in_time": {"document": document, "workload": "idle", "minutes": 2},
        "plan_test": {"document": document},
        "begin_live": {"workload": "both"},
        "practise_live": {"workload": "both", "fault": "pump-stops"},
        "guess_fault": {"kind": "none"},
        "fit": {"document": document},
        "build_sheet": {"document": document},
        "start_suspects": {"document": document},
        "feed_loads": {"document": document, "workload": "idle"},
        "add_marks": {"sent_at": "2026-01-01T12:00:00Z", "marks": []},
        "gap_costs": {"document": document, "workload": "idle"},
        "cut_template": {"document": with_a_face(document), "face": "front"},
        "adapter": {"first_mm": 60, "second_mm": 80, "length_mm": 40},
        "tube_bend": {"bore_mm": 10, "outside_mm": 16},
        "adapter_file": {"first_mm": 60, "second_mm": 80, "length_mm": 40},
        "offers": {"document": document, "workload": "idle"},
        "edited": {"document": document, "edits": [{"target": "tube", "field": "length_m", "value": 2}]},
        "fan_operation": {"document": document, "workload": "idle", "fan": "fan-a1"},
        "loop_curves": {"document": document, "workload": "idle", "loop": "loop-a"},
        "speed_for_level": {"document": document, "workload": "idle", "wanted_dba": 25},
        "next_changes": {"document": document, "workload": "idle"},
        "watts_it_holds": {"document": document, "workloads": ["idle"]},
        "solve_for": {
            "document": limpet(),
            "workload": "idle",
            "address": "back/fin_height_mm",
            "goal": "margin",
            "of": "processor-core",
            "wanted": 50,
        },
        "sink_curve": {"document": limpet(), "workload": "idle", "part": "back"},
        "pipe_chart": {"document": limpet(), "workload": "idle", "part": "pipes"},
        "read_curve": {"text": "0 20\n50 10\n100 0", "kind": "fan"},
        "put_on_shelf": {"name": "New fan", "part": FAN},
        "import_shelf": {"items": [{"id": "other", "name": "Other", "version": 1, "part": FAN}]},
        "change_shelf_item": {"name": "Fan", "part": FAN | {"level_dba": 20}},
        "note_tried": {"word": "it hums"},
        "substitutes": {"document": document, "part": "fan-a1", "workload": "idle"},
        "copy_build": {"name": "Another"},
        "rename_build": {"name": "Renamed"},
        "archive_build": {"archived": True},
        "save_draft": {"base": 0, "document": {**document, "name": "Renamed"}},
        "undo": {"base": 0},
        "redo": {"base": 0},
        "patch_draft": {"base": 0, "patch": [], "asked": {"workload": "idle"}},
        "outlook": {"workload": "idle", "samples": 20},
        "keep_revision": {"why": "again"},
        "grant_access": {"username": "stranger", "role": "reader"},
        "grant_group_access": {"group": "workshop", "role": "reader"},
        "set_template": {"template": True},
        "offer_build": {"username": "editor"},
        "look_at_link": {"token": "made-up"},
        "take_link": {"token": "made-up", "username": "new", "password": "something-else-long"},
        "change_person": {"active": False},
        "invite": {"note": "somebody"},
        "set_group": {"members": ["owner"]},
        "show_shelf_item": {"groups": ["workshop"]},
        "add_readings": {
            "workload": "both",
            "readings": [{"minute": 60, "role": "processor-core/temperature", "value": 75}],
        },
        "change_run": {"note": "seen"},
        "read_pasted": {"text": "processor 70"},
        "design_map": {"document": document, "question": TWO_FIGURES},
        "fan_curve": {"document": document, "workload": "idle", "sensor": "loop-a"},
        "curve_in_time": {
            "document": document,
            "workload": "idle",
            "sensor": "loop-a",
            "points": [{"at_c": 35, "duty": 0.4}, {"at_c": 45, "duty": 0.9}],
        },
        "measure_first": {"document": document, "workload": "idle"},
        "side_by_side": {"options": [{"label": "now", "document": document}], "workload": "idle"},
        "ask_study": {"question": TWO_FIGURES},
        "take_candidate": {"base": 0, "why": "quieter"},
    }.get(operation)


#: what is uploaded where an operation takes a file
FILES = {
    "add_picture": lambda _: {"file": SimpleUploadedFile("dot.png", PICTURE)},
    "add_step_picture": lambda _: {"about": "gate-bench-start", "file": SimpleUploadedFile("dot.png", PICTURE)},
    "add_log": lambda _: {"workload": "both", "file": SimpleUploadedFile("b.csv", LOG)},
    "import_run": lambda _: {"file": SimpleUploadedFile("run.json", RUN)},
    "import_archive": lambda build: {"file": SimpleUploadedFile("build.zip", archive_of(build))},
}


def test_every_operation_has_a_row():
    assert {operation for operation, _, _ in operations()} == set(TABLE)


@pytest.mark.parametrize(("operation", "method", "path"), operations(), ids=lambda v: v if isinstance(v, str) else None)
@pytest.mark.parametrize("person", PEOPLE)
def test_permission(signed_in, people, build, person, operation, method, path, monkeypatch):
    monkeypatch.setattr("live.router.begin_bench", lambda *_: None)
    document = write_object(read_text(build.text))
    run = add_log(people["owner"], build.pk, RunIn(workload="both"), "a.csv", LOG)
    sha256 = "0" * 64
    if "picture" in operation:
        sha256 = file_of(add_picture(people["owner"], run.pk, PICTURE, "")).pictures[0].sha256
        add_step_picture(people["owner"], build.pk, "fans", PICTURE)
    item = put_item(people["owner"], "Fan", FAN)
    people["owner"].groups.add(Group.objects.create(name="workshop"))
    study = ask(people["owner"], build.pk, TWO_FIGURES, "")
    if "result" in path or "candidates" in path:
        run_study(str(study.pk))
    url = path.format(
        build_id=build.pk,
        run_id=run.pk,
        other_id=run.pk,
        again_id=run.pk,
        number=1,
        slug=item.slug,
        study_id=study.pk,
        sha256=sha256,
        session_id=UUID(int=1),
        person_id=people["reader"].pk,
        link_id=1,
        name="workshop",
        live_id=begin(people["owner"], build.pk, LiveIn(workload="both"))[0].pk if "live_id" in path else "",
    )
    if operation == "live_faults":
        url += "?workload=idle"
    if operation == "practice_log":
        url += "?workload=idle&minutes=5"
    if operation == "find_builds":
        url += "?text=pump"
    client = signed_in(person)
    if operation in ANONYMOUS:
        client.get("/api/session")
    if operation in FILES:
        answer = client.post(url, FILES[operation](build))
    else:
        answer = client.generic(
            method.upper(),
            url,
            json.dumps({"loads": [{"run": str(run.pk)}]} if operation == "learn" else body(operation, document)),
            content_type="application/json",
            headers={"X-CSRFToken": client.cookies["csrftoken"].value} if operation in ANONYMOUS else {},
        )
    expected = TABLE[operation][PEOPLE.index(person)]
    got = 200 if 200 <= answer.status_code < 300 else answer.status_code
    assert got == expected, answer.content[:300]
    if got >= 400:
        assert set(answer.json()["errors"][0]) == {"where", "what", "allowed"}
